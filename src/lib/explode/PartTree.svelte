<script lang="ts">
  import { numberText } from '$core/ledger/items';
  import { ChevronDown, ChevronRight } from '@lucide/svelte';
  import { treeRows, type TreeRow } from '$core/assembly/tree-rows';
  import { levelOf } from '$core/explode/choose';
  import { SvelteMap } from 'svelte/reactivity';
  import type { Explode } from './explode.svelte';

  const { explode }: { explode: Explode } = $props();
  const { drawing } = $derived(explode);

  /** Down to which level everything is open, and what someone opened or closed besides. */
  let depth = $state(1);
  const own = new SvelteMap<number, boolean>();
  const rows = $derived(treeRows(drawing.assembly, drawing.components, (node, level) => own.get(node) ?? level < depth));
  const levels = $derived(Math.max(1, ...drawing.components.map((c) => levelOf(drawing.assembly, c))));

  function pick(row: TreeRow, more: boolean) {
    const set = new Set(more ? explode.chosen : []);
    const all = row.components.every((c) => set.has(c));
    for (const c of row.components)
      if (more && all) set.delete(c);
      else set.add(c);
    explode.active = undefined;
    explode.choose(set);
  }
  function openTo(level: number) {
    depth = level;
    own.clear();
  }
  const itemOf = (row: TreeRow) => (row.node === undefined ? explode.itemOf(row.components[0]!) : undefined);
  const pickedOf = (row: TreeRow) => {
    const n = row.components.filter((c) => explode.chosen.has(c)).length;
    return n === 0 ? 'none' : n === row.components.length ? 'all' : 'some';
  };
</script>

<section aria-label="Parts">
  <header>
    <p class="q-caption">Press to pick, with Shift to pick more.</p>
    <p class="levels">
      Open to level
      {#each Array.from({ length: Math.min(levels, 6) }, (_, i) => i + 1) as level (level)}<button aria-pressed={depth === level} onclick={() => openTo(level)}
          >{level}</button
        >{/each}
      <button class="q-button" onclick={() => explode.chooseLevel(depth)} title="What lies on this level itself">Pick level {depth}</button>
    </p>
  </header>
  <ul>
    {#each rows as row (row.key)}
      {@const item = itemOf(row)}
      {@const open = row.node !== undefined && (own.get(row.node) ?? row.level < depth)}
      <li style="--level: {row.level - 1}">
        {#if row.node !== undefined}<button
            class="fold"
            aria-expanded={open}
            aria-label="{open ? 'Close' : 'Open'} {row.name}"
            onclick={() => own.set(row.node!, !open)}
            >{#if open}<ChevronDown size={14} />{:else}<ChevronRight size={14} />{/if}</button
          >{:else}<span class="fold"></span>{/if}
        <button class="name {pickedOf(row)}" aria-pressed={pickedOf(row) === 'all'} onclick={(e) => pick(row, e.shiftKey || e.ctrlKey || e.metaKey)}>
          {#if item}<b>{numberText(item)}</b>{/if}
          <span>{item?.values.description.text || row.name}</span>
          {#if row.count > 1}<small>×{row.count}</small>{:else if row.node !== undefined}<small>{row.components.length}</small>{/if}
        </button>
      </li>
    {/each}
  </ul>
</section>

<style>
  header {
    padding: 0.5rem 0.9rem;
  }
  .levels {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.25rem;
  }
  .levels button:not(.q-button) {
    width: 26px;
    min-height: 26px;
    border-radius: 6px;
    cursor: pointer;
  }
  .levels [aria-pressed='true'] {
    font-weight: 600;
    box-shadow: inset 0 0 0 1.5px var(--teal);
  }
  li {
    display: flex;
    align-items: center;
    padding-left: calc(0.4rem + var(--level) * 0.9rem);
  }
  .fold {
    flex: none;
    display: grid;
    place-items: center;
    width: 22px;
    height: 28px;
  }
  button.fold {
    cursor: pointer;
  }
  .name {
    flex: 1;
    display: flex;
    align-items: baseline;
    gap: 0.4rem;
    min-width: 0;
    min-height: 28px;
    padding: 0 0.6rem 0 0.3rem;
    border-radius: 6px;
    text-align: left;
    cursor: pointer;
  }
  .name:hover {
    background: color-mix(in srgb, var(--line) 50%, transparent);
  }
  .name.all {
    background: var(--teal-soft);
  }
  .name.some {
    box-shadow: inset 2px 0 0 var(--teal);
  }
  .name span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  b {
    flex: none;
    min-width: 1.4rem;
    text-align: right;
    font-variant-numeric: tabular-nums;
  }
  small {
    margin-left: auto;
    color: var(--mute);
  }
</style>
