<script lang="ts">
  import type { ListColumn, ListRecord } from '$core/document/records';
  import { LIST_COLUMN_KEYS, LIST_COLUMN_TITLES } from '$core/ledger/list-rows';
  import { ArrowLeft, ArrowRight } from '@lucide/svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import { putColumns, shiftedColumn } from '../columns';

  const { drawing, record: list }: { drawing: Drawing; record: ListRecord } = $props();

  const put = (label: string, columns: readonly ListColumn[]) => drawing.edit(label, putColumns(list, drawing.scene, columns));
  const has = (key: string) => list.columns.some((c) => c.key === key);
  function toggle(key: string) {
    const title = LIST_COLUMN_TITLES[key] ?? key;
    if (!has(key)) put(`Column ${title} on`, [...list.columns, { key, title, widthMm: 24 }]);
    else if (list.columns.length > 1)
      put(
        `Column ${title} off`,
        list.columns.filter((c) => c.key !== key),
      );
  }
  const shift = (i: number, by: number) => drawing.edit('Order of columns', shiftedColumn(list, drawing.scene, i, by));
  const change = (i: number, c: Partial<ListColumn>) =>
    put(
      'Column',
      list.columns.map((old, k) => (k === i ? { ...old, ...c } : old)),
    );
</script>

<SlipHead title="Parts list" subtitle={list.share ? `part ${list.share.part} of ${list.share.of}` : 'docked on the title block, reads upward'} />
<p class="q-caption">Columns, left to right</p>
<ol>
  {#each list.columns as c, i (c.key)}
    <li>
      <input class="q-field" aria-label="Title of column {c.key}" value={c.title} onchange={(e) => change(i, { title: e.currentTarget.value })} />
      <input
        class="q-field mm"
        aria-label="Width of {c.title} in mm"
        type="number"
        min="5"
        max="200"
        value={c.widthMm}
        onchange={(e) => Number(e.currentTarget.value) >= 5 && change(i, { widthMm: Number(e.currentTarget.value) })}
      />
      <button aria-label="Move {c.title} left" disabled={i === 0} onclick={() => shift(i, -1)}><ArrowLeft size={14} /></button>
      <button aria-label="Move {c.title} right" disabled={i === list.columns.length - 1} onclick={() => shift(i, 1)}><ArrowRight size={14} /></button>
    </li>
  {/each}
</ol>
<p class="q-caption">Show</p>
{#each LIST_COLUMN_KEYS as key (key)}
  <label class="check"><input type="checkbox" checked={has(key)} onchange={() => toggle(key)} /> {LIST_COLUMN_TITLES[key]}</label>
{/each}

<style>
  li {
    display: grid;
    grid-template-columns: 1fr 58px 24px 24px;
    gap: 3px;
    margin: 3px 0;
    align-items: center;
  }
  li button {
    display: grid;
    place-items: center;
    min-height: 28px;
    cursor: pointer;
  }
  li button:disabled {
    opacity: 0.3;
  }
  .check {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    min-height: 26px;
  }
</style>
