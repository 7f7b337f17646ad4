<script lang="ts">
  import { drawingOf, type DrawingRecord } from '$core/document/records';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import { COMPUTED_FIELDS } from './computed';

  const { drawing, field }: { drawing: Drawing; field: string } = $props();
  const record = $derived(drawingOf(drawing.document));
  const sheet = $derived(drawing.sheets.find((s) => s.id === drawing.sheetId));

  const FIELDS = [
    ['title', 'Title'],
    ['number', 'Drawing number'],
    ['revision', 'Revision'],
    ['date', 'Date of issue'],
    ['drawnBy', 'Drawn by'],
    ['checkedBy', 'Checked by'],
    ['approvedBy', 'Approved by'],
    ['owner', 'Legal owner'],
  ] as const satisfies readonly (readonly [keyof DrawingRecord, string])[];
  const put = (label: string, change: Partial<DrawingRecord>) => drawing.edit(label, [{ op: 'put', record: { ...record, ...change } }]);
</script>

<SlipHead title="Title block" subtitle="the same on every sheet" />
{#if COMPUTED_FIELDS[field]}<p class="note">{COMPUTED_FIELDS[field]}</p>{/if}
{#each FIELDS as [key, label] (key)}
  <TextField {label} value={record[key]} focus={field === key} onchange={(v) => put(label, { [key]: v })} />
{/each}
<TextField
  label="To make"
  value={String(record.quantity)}
  focus={field === 'quantity'}
  onchange={(v) => Number.isInteger(Number(v)) && Number(v) > 0 && put('To make', { quantity: Number(v) })}
/>
{#if sheet}
  <TextField
    label="Document type of this sheet"
    value={sheet.name}
    focus={field === 'sheetName'}
    onchange={(v) => drawing.edit('Document type', [{ op: 'put', record: { ...sheet, name: v } }])}
  />
{/if}

<style>
  .note {
    margin-bottom: 0.6rem;
    padding: 0.4rem 0.6rem;
    border-radius: 6px;
    background: var(--teal-soft);
    font-size: 0.88rem;
  }
</style>
