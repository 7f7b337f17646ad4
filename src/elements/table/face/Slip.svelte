<script lang="ts">
  import { without } from '$core/base/without';
  import { layOutTable, type TableRecord } from '$elements/table/draw';
  import { withColumn, withoutColumn, withoutRow, withPasted, withRow } from '$elements/table/edit';
  import Chips from '$lib/shared/Chips.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: TableRecord } = $props();
  const id = $props.id();
  let pasted = $state('');
  const put = (label: string, next: TableRecord) => next !== record && drawing.edit(label, [{ op: 'put', record: next }]);
  const size = $derived(layOutTable(record, drawing.scene).size);

  function paste() {
    const next = withPasted(record, pasted);
    if (!next) {
      notify('trouble', 'Paste up to 500 rows of up to 40 cells.');
      return;
    }
    put('Rows of the table', next);
    pasted = '';
  }
  function height(typed: string) {
    const mm = Number(typed.replace(',', '.'));
    if (typed.trim() === '') put('Size of the table', without(record, 'heightMm') as TableRecord);
    else if (mm >= 1 && mm <= 50) put('Size of the table', { ...record, heightMm: mm });
    else notify('trouble', 'Write a number of millimetres between 1 and 50.');
  }
  const align = (column: number, to: string) =>
    put('Texts of the column', { ...record, aligned: record.widths.map((_, c) => (c === column ? (to as 'end') : (record.aligned?.[c] ?? 'start'))) });
</script>

<SlipHead title="Table" subtitle="{record.rows.length} rows of {record.widths.length}: a double press writes in a cell, Tab goes on" />
<p class="q-row">
  <button class="q-button" onclick={() => put('Row', withRow(record))}>Row +</button>
  <button class="q-button" onclick={() => put('Row', withoutRow(record))} disabled={record.rows.length < 2}>Row −</button>
  <button class="q-button" onclick={() => put('Column', withColumn(record))}>Column +</button>
  <button class="q-button" onclick={() => put('Column', withoutColumn(record))} disabled={record.widths.length < 2}>Column −</button>
</p>
<Toggle label="First row is a head" checked={record.head ?? false} onchange={(on) => put('Head', on ? { ...record, head: true } : without(record, 'head'))} />
<TextField label="Height of letters, mm" value={String(size)} onchange={height} />
{#each record.widths as _, c (c)}
  <Chips
    label="Column {c + 1}"
    options={[
      ['start', 'left'],
      ['middle', 'middle'],
      ['end', 'right'],
    ]}
    value={record.aligned?.[c] ?? 'start'}
    onchange={(to) => align(c, to)}
  />
{/each}
<label class="q-caption" for="{id}-paste">Rows from a spreadsheet: paste them here</label>
<textarea id="{id}-paste" class="q-field" rows="3" bind:value={pasted}></textarea>
<p class="q-row">
  <button class="q-button" onclick={paste} disabled={pasted.trim() === ''}>Take these rows</button>
  <button class="q-button" onclick={() => tools.remove()}>Remove</button>
</p>
