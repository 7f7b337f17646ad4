<script lang="ts">
  import { without } from '$core/base/without';
  import { PROPERTY_KEYS, PROPERTY_TITLES } from '$core/ledger/items';
  import { LOOKS, SUBJECTS, type Recipe, type RecipeOnly, type RecipeSheet, type RecipeSlot } from '$core/recipe/record';
  import { PAPER_SIZES } from '$core/sheet/paper';
  import { ArrowDown, ArrowUp, Trash2 } from '@lucide/svelte';
  import { BESIDES, hasViews, SLOT_KINDS, type Besides } from './slot-kinds';

  const { recipe, onchange }: { recipe: Recipe; onchange: (next: Recipe) => void } = $props();
  const SOURCES = [
    ['', 'any source'],
    ['made', 'made'],
    ['bought', 'bought'],
    ['standard', 'standard parts'],
  ] as const;
  const TOGETHER = [2, 3, 4, 6, 9];

  const put = (i: number, sheet: RecipeSheet) => onchange({ ...recipe, sheets: recipe.sheets.map((s, k) => (k === i ? sheet : s)) });
  const putSlot = (i: number, k: number, slot: RecipeSlot) =>
    put(i, { ...recipe.sheets[i]!, slots: recipe.sheets[i]!.slots.map((s, n) => (n === k ? slot : s)) });
  function only(i: number, change: Partial<Record<keyof RecipeOnly, string | number | undefined>>) {
    const sheet = recipe.sheets[i]!;
    const next = Object.fromEntries(Object.entries({ ...sheet.only, ...change }).filter(([, v]) => v !== undefined && v !== '')) as RecipeOnly;
    put(i, Object.keys(next).length ? { ...sheet, only: next } : (without(sheet, 'only') as RecipeSheet));
  }
  const maybe = <K extends 'size' | 'together'>(i: number, key: K, value: RecipeSheet[K] | undefined) =>
    put(i, (value === undefined ? without(recipe.sheets[i]!, key) : { ...recipe.sheets[i]!, [key]: value }) as RecipeSheet);
  function move(i: number, by: number) {
    const sheets = [...recipe.sheets];
    const [taken] = sheets.splice(i, 1);
    sheets.splice(i + by, 0, taken!);
    onchange({ ...recipe, sheets });
  }
  function addSlot(i: number, key: string) {
    const kind = SLOT_KINDS.find(([k]) => k === key);
    if (kind) put(i, { ...recipe.sheets[i]!, slots: [...recipe.sheets[i]!.slots, kind[2]()] });
  }
  const addSheet = () =>
    onchange({
      ...recipe,
      sheets: [...recipe.sheets, { name: 'Part: {subject}', per: 'made part', slots: [SLOT_KINDS.find(([k]) => k === 'part views')![2]()] }],
    });
  const number = (typed: string) => (Number(typed.replace(',', '.')) > 0 ? Number(typed.replace(',', '.')) : undefined);
</script>

<label class="q-caption" for="recipe-words">What it is for</label>
<textarea
  id="recipe-words"
  class="q-field words"
  rows="2"
  value={recipe.words}
  onchange={(e) => onchange({ ...recipe, words: e.currentTarget.value.slice(0, 1000) })}></textarea>
{#each recipe.sheets as sheet, i (i)}
  <fieldset aria-label="Sheet {i + 1}">
    <div class="line">
      <input class="q-field grow" aria-label="Name of sheet {i + 1}" value={sheet.name} onchange={(e) => put(i, { ...sheet, name: e.currentTarget.value })} />
      <button class="q-button" disabled={i === 0} onclick={() => move(i, -1)} aria-label="Sheet {i + 1} up"><ArrowUp size={15} /></button>
      <button class="q-button" disabled={i === recipe.sheets.length - 1} onclick={() => move(i, 1)} aria-label="Sheet {i + 1} down"
        ><ArrowDown size={15} /></button
      >
      <button
        class="q-button"
        disabled={recipe.sheets.length === 1}
        onclick={() => onchange({ ...recipe, sheets: recipe.sheets.filter((_, k) => k !== i) })}
        aria-label="Remove sheet {i + 1}"><Trash2 size={15} /></button
      >
    </div>
    <div class="line">
      <label class="q-caption"
        >One for
        <select class="q-field" value={sheet.per} onchange={(e) => put(i, { ...sheet, per: e.currentTarget.value as RecipeSheet['per'] })}>
          {#each SUBJECTS as s (s)}<option value={s}>{s === 'whole' ? 'the whole' : `each ${s}`}</option>{/each}
        </select>
      </label>
      <label class="q-caption"
        >Size
        <select class="q-field" value={sheet.size ?? ''} onchange={(e) => maybe(i, 'size', e.currentTarget.value || undefined)}>
          <option value="">chosen at the drop</option>
          {#each PAPER_SIZES as p (p.name)}<option>{p.name}</option>{/each}
        </select>
      </label>
      {#if sheet.per === 'made part'}
        <label class="q-caption"
          >Small ones
          <select class="q-field" value={String(sheet.together ?? '')} onchange={(e) => maybe(i, 'together', Number(e.currentTarget.value) || undefined)}>
            <option value="">each on its own</option>
            {#each TOGETHER as n (n)}<option value={String(n)}>up to {n} on a sheet</option>{/each}
          </select>
        </label>
      {/if}
    </div>
    {#if sheet.per !== 'whole'}
      <div class="line">
        <label class="q-caption"
          >Only if
          <select class="q-field" value={sheet.only?.source ?? ''} onchange={(e) => only(i, { source: e.currentTarget.value })}>
            {#each SOURCES as [v, t] (v)}<option value={v}>{t}</option>{/each}
          </select>
        </label>
        <label class="q-caption"
          >At least, mm
          <input class="q-field short" value={sheet.only?.leastMm ?? ''} onchange={(e) => only(i, { leastMm: number(e.currentTarget.value) })} />
        </label>
        <label class="q-caption"
          >Where
          <select class="q-field" value={sheet.only?.property ?? 'name'} onchange={(e) => only(i, { property: e.currentTarget.value })}>
            <option value="name">the name</option>
            {#each PROPERTY_KEYS as k (k)}<option value={k}>{PROPERTY_TITLES[k]}</option>{/each}
          </select>
        </label>
        <label class="q-caption"
          >has in it
          <input class="q-field" value={sheet.only?.contains ?? ''} onchange={(e) => only(i, { contains: e.currentTarget.value.slice(0, 200) })} />
        </label>
      </div>
    {/if}
    <ul>
      {#each sheet.slots as slot, k (k)}
        <li>
          <b>{slot.name}</b>
          {#if slot.want === 'view'}
            <select
              class="q-field"
              aria-label="Seen from"
              value={slot.look ?? ''}
              onchange={(e) =>
                putSlot(i, k, { ...without(slot, 'axes'), look: e.currentTarget.value as (typeof LOOKS)[number], name: e.currentTarget.value } as RecipeSlot)}
            >
              {#if !slot.look}<option value="">as it was kept</option>{/if}
              {#each LOOKS as l (l)}<option value={l}>{l}</option>{/each}
            </select>
          {/if}
          {#if slot.want === 'note'}
            <input
              class="q-field grow"
              aria-label="Text of the note"
              value={slot.like.text}
              onchange={(e) => putSlot(i, k, { ...slot, like: { ...slot.like, text: e.currentTarget.value } })}
            />
          {/if}
          {#if hasViews(slot)}
            {#each BESIDES as [key, title] (key)}
              {@const on = (slot as Partial<Record<Besides, true>>)[key] === true}
              <label
                ><input
                  type="checkbox"
                  checked={on}
                  onchange={() => putSlot(i, k, (on ? without(slot as Extract<RecipeSlot, { want: 'view' }>, key) : { ...slot, [key]: true }) as RecipeSlot)}
                />
                {title}</label
              >
            {/each}
          {/if}
          <button
            class="q-button"
            disabled={sheet.slots.length === 1}
            onclick={() => put(i, { ...sheet, slots: sheet.slots.filter((_, n) => n !== k) })}
            aria-label="Remove {slot.name} of sheet {i + 1}"><Trash2 size={15} /></button
          >
        </li>
      {/each}
    </ul>
    <select
      class="q-field"
      aria-label="Add a slot to sheet {i + 1}"
      value=""
      onchange={(e) => (addSlot(i, e.currentTarget.value), (e.currentTarget.value = ''))}
    >
      <option value="">add …</option>
      {#each SLOT_KINDS as [key, title] (key)}<option value={key}>{title}</option>{/each}
    </select>
  </fieldset>
{/each}
<p class="q-row"><button class="q-button" onclick={addSheet}>One more sheet</button></p>

<style>
  .words {
    width: 100%;
    font-family: inherit;
  }
  fieldset {
    margin: 0.5rem 0;
    padding: 0.5rem 0.6rem;
    border: 1px solid var(--line);
    border-radius: 8px;
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    align-items: end;
    margin-bottom: 0.4rem;
  }
  .grow {
    flex: 1;
    min-width: 140px;
  }
  .short {
    width: 80px;
  }
  .line label {
    display: grid;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 0.7rem;
    align-items: center;
    padding: 0.15rem 0;
  }
  li b {
    font-weight: 500;
    flex: 1;
  }
  li label {
    display: flex;
    gap: 0.3rem;
    align-items: center;
    font-size: 0.88rem;
  }
  li select {
    width: auto;
  }
</style>
