<script lang="ts">
  import { parseK } from '$core/flat/k-factor';
  import type { ColumnKind, OwnColumn } from '$core/document/records';
  import { notify } from '../shared/notices.svelte';
  import type { Grid } from './grid.svelte';

  const { grid }: { grid: Grid } = $props();

  const KINDS: readonly (readonly [ColumnKind, string])[] = [
    ['text', 'Text'],
    ['number', 'Number with unit'],
    ['choice', 'Choice'],
    ['yesno', 'Yes or no'],
    ['link', 'Link'],
  ];
  let title = $state('');
  let kind = $state<ColumnKind>('text');
  let extra = $state('');

  function toggle(key: string, on: boolean) {
    const { hidden } = grid.ledger;
    grid.setLedger(on ? 'Show a column' : 'Hide a column', { hidden: on ? hidden.filter((k) => k !== key) : [...hidden, key] });
  }
  function add() {
    const name = title.trim();
    const key = `own:${name.toLowerCase().replace(/\s+/g, '-')}`;
    if (!name || grid.every.some((c) => c.key === key || c.title.toLowerCase() === name.toLowerCase())) {
      notify('trouble', name ? `There is a column “${name}” already.` : 'Give the column a name.');
      return;
    }
    const options = extra
      .split(/[;,]/)
      .map((o) => o.trim())
      .filter(Boolean);
    if (kind === 'choice' && options.length < 2) {
      notify('trouble', 'A choice needs two options or more, with commas between them.');
      return;
    }
    const column: OwnColumn = {
      key,
      title: name,
      kind,
      ...(kind === 'number' && extra.trim() ? { unit: extra.trim() } : {}),
      ...(kind === 'choice' ? { options } : {}),
    };
    grid.setLedger(`Column ${name}`, { own: [...grid.ledger.own, column] });
    title = '';
    extra = '';
  }
  const remove = (key: string) =>
    grid.setLedger('Remove a column', { own: grid.ledger.own.filter((c) => c.key !== key), order: grid.ledger.order.filter((k) => k !== key) });
  function move(key: string, by: number) {
    const order = grid.every.map((c) => c.key);
    const at = order.indexOf(key);
    const to = at + by;
    if (to < 0 || to >= order.length) return;
    [order[at], order[to]] = [order[to]!, order[at]!];
    grid.setLedger('Order of columns', { order });
  }
  function number(text: string, digits: string) {
    grid.setLedger('Drawing number scheme', { scheme: { prefix: text.trim(), digits: Math.max(1, Math.min(8, Math.round(Number(digits)) || 2)) } });
  }

  let material = $state('');
  let density = $state('');
  let bendK = $state('');
  function addMaterial() {
    const value = Number(density.replace(',', '.'));
    if (!material.trim() || !(value > 0 && value < 30_000)) {
      notify('trouble', 'A material needs a name and a density in kg/m³, such as 7850.');
      return;
    }
    const k = parseK(bendK);
    if (bendK.trim() && k === undefined) {
      notify('trouble', 'K is a share of the thickness between 0 and 1, such as 0.44.');
      return;
    }
    const rest = grid.ledger.materials.filter((m) => m.name.toLowerCase() !== material.trim().toLowerCase());
    grid.setLedger(`Material ${material.trim()}`, { materials: [...rest, { name: material.trim(), densityKgM3: value, ...(k === undefined ? {} : { k }) }] });
    material = '';
    density = '';
    bendK = '';
  }
</script>

<div class="columns">
  <section>
    <h2>Shown, in this order</h2>
    <ul>
      {#each grid.every as c (c.key)}
        <li>
          <label
            ><input type="checkbox" checked={!grid.ledger.hidden.includes(c.key)} onchange={(e) => toggle(c.key, e.currentTarget.checked)} /> {c.title}</label
          >
          <span>
            <button aria-label="{c.title} to the left" onclick={() => move(c.key, -1)}>↑</button>
            <button aria-label="{c.title} to the right" onclick={() => move(c.key, 1)}>↓</button>
            {#if c.key.startsWith('own:')}<button aria-label="Remove {c.title}" onclick={() => remove(c.key)}>×</button>{/if}
          </span>
        </li>
      {/each}
    </ul>
    <label class="q-caption"
      >Columns that stay at the left
      <input
        class="q-field short"
        type="number"
        min="0"
        max="8"
        value={grid.ledger.frozen}
        onchange={(e) => grid.setLedger('Columns that stay', { frozen: Math.max(0, Math.min(8, Math.round(Number(e.currentTarget.value)) || 0)) })}
      />
    </label>
  </section>
  <section>
    <h2>A column of your own</h2>
    <form
      onsubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <label class="q-caption">Name <input class="q-field" bind:value={title} /></label>
      <label class="q-caption"
        >Kind <select class="q-field" bind:value={kind}
          >{#each KINDS as [k, name] (k)}<option value={k}>{name}</option>{/each}</select
        ></label
      >
      {#if kind === 'number'}<label class="q-caption">Unit <input class="q-field" bind:value={extra} placeholder="€, mm, h" /></label>{/if}
      {#if kind === 'choice'}<label class="q-caption">Options <input class="q-field" bind:value={extra} placeholder="one, two, three" /></label>{/if}
      <button class="q-button main">Add column</button>
    </form>
    <h2>Drawing numbers</h2>
    <div class="pair">
      <label class="q-caption"
        >Prefix <input
          class="q-field"
          value={grid.ledger.scheme.prefix}
          placeholder="SW-40-"
          onchange={(e) => number(e.currentTarget.value, String(grid.ledger.scheme.digits))}
        /></label
      >
      <label class="q-caption"
        >Digits <input
          class="q-field short"
          type="number"
          min="1"
          max="8"
          value={grid.ledger.scheme.digits}
          onchange={(e) => number(grid.ledger.scheme.prefix, e.currentTarget.value)}
        /></label
      >
    </div>
  </section>
  <section>
    <h2>A material of your own</h2>
    <form
      onsubmit={(e) => {
        e.preventDefault();
        addMaterial();
      }}
    >
      <label class="q-caption">Name <input class="q-field" bind:value={material} /></label>
      <label class="q-caption">Density, kg/m³ <input class="q-field" bind:value={density} inputmode="decimal" /></label>
      <label class="q-caption">K when bent, if it is known <input class="q-field" bind:value={bendK} inputmode="decimal" placeholder="0.44" /></label>
      <button class="q-button">Add material</button>
    </form>
    <ul>
      {#each grid.ledger.materials as m (m.name)}
        <li>
          <span>{m.name}, {m.densityKgM3} kg/m³{m.k === undefined ? '' : `, K ${m.k}`}</span>
          <button aria-label="Remove {m.name}" onclick={() => grid.setLedger('Remove a material', { materials: grid.ledger.materials.filter((x) => x !== m) })}
            >×</button
          >
        </li>
      {/each}
    </ul>
    <h2>Mass in</h2>
    <select
      class="q-field"
      aria-label="Unit of mass"
      value={grid.ledger.massUnit}
      onchange={(e) => grid.setLedger('Unit of mass', { massUnit: e.currentTarget.value as 'kg' | 'lb' })}
    >
      <option value="kg">kilograms and grams</option>
      <option value="lb">pounds</option>
    </select>
  </section>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
    gap: 1.2rem;
  }
  h2 {
    margin: 0.2rem 0;
    font-weight: 600;
    font-size: 0.9rem;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
  }
  li button {
    min-width: 24px;
    min-height: 24px;
    cursor: pointer;
  }
  form {
    display: grid;
    gap: 0.4rem;
    margin-bottom: 0.6rem;
  }
  .pair {
    display: flex;
    gap: 0.5rem;
  }
  .short {
    width: 70px;
  }
</style>
