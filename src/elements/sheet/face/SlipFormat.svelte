<script lang="ts">
  import { formatRemoved } from '$core/format/apply';
  import type { SheetRecord } from '$core/document/records';
  import { without } from '$core/base/without';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import Chips from '$lib/shared/Chips.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { leaveFormat } from './format-actions';
  import SizeFields from './SizeFields.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: SheetRecord } = $props();
  type Form = NonNullable<SheetRecord['form']>;
  const form = $derived(record.form!);
  const users = $derived(drawing.sheets.filter((s) => s.format === record.id).length);
  const put = (label: string, next: SheetRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  const change = (label: string, c: Partial<Form>) => put(label, { ...record, form: { ...form, ...c } });
  const EDGES = [
    ['left', 'Filing edge, mm'],
    ['right', 'Right, mm'],
    ['top', 'Top, mm'],
    ['bottom', 'Foot, mm'],
  ] as const;

  function edge(key: keyof Form['edges'], typed: string) {
    const mm = Number(typed.replace(',', '.'));
    if (typed.trim() !== '' && mm >= 0 && mm <= 200) change('Margin of the format', { edges: { ...form.edges, [key]: mm } });
    else notify('trouble', 'Write a number of millimetres between 0 and 200.');
  }
  function notesAt(k: number, typed: string) {
    const mm = Number(typed.replace(',', '.'));
    const at = form.notes!.map((v, i) => (i === k ? mm : v)) as [number, number];
    if (mm >= 0 && mm <= 5000) change('Place for notes', { notes: at });
    else notify('trouble', 'Write a number of millimetres on the sheet.');
  }
  function name(typed: string) {
    const wanted = typed.trim().slice(0, 100);
    if (!wanted) return;
    if (drawing.scene.formats.some((f) => f.id !== record.id && f.name === wanted)) notify('trouble', `This drawing has a format “${wanted}” already.`);
    else put('Name of the format', { ...record, name: wanted });
  }
  function remove() {
    const steps = formatRemoved(drawing.scene, record.id);
    leaveFormat(drawing);
    drawing.edit('Remove the format', steps);
  }
</script>

<SlipHead
  title="Sheet format"
  subtitle={users === 0 ? 'no sheet lies on it' : users === 1 ? 'one sheet lies on it and follows' : `${users} sheets lie on it and follow`}
/>
<TextField label="Name" value={record.name} onchange={name} />
<SizeFields size={record.size} landscape={record.landscape} onchange={(size, landscape) => put('Size of the format', { ...record, size, landscape })} />
<Toggle
  label="Frame"
  checked={!record.noFrame}
  onchange={(on) => put('Frame of the format', on ? (without(record, 'noFrame') as SheetRecord) : { ...record, noFrame: true })}
/>
<div class="pair">
  {#each EDGES as [key, label] (key)}<TextField {label} value={String(form.edges[key])} onchange={(v) => edge(key, v)} />{/each}
</div>
<Chips
  label="Fields of the border"
  options={[
    ['iso', '50 mm, from the middle'],
    ['even', 'evenly divided'],
    ['none', 'none'],
  ]}
  value={form.zones}
  onchange={(zones) => change('Fields of the border', { zones: zones as Form['zones'] })}
/>
<Toggle label="Centring marks" checked={form.centring} onchange={(centring) => change('Centring marks', { centring })} />
<Toggle label="Fold marks" checked={form.folds} onchange={(folds) => change('Fold marks', { folds })} />
<Toggle label="Trimming marks" checked={form.trims} onchange={(trims) => change('Trimming marks', { trims })} />
<Toggle
  label="Legible at half size"
  checked={form.halfSize ?? false}
  onchange={(on) => put('Lettering for half size', { ...record, form: on ? { ...form, halfSize: true } : (without(form, 'halfSize') as Form) })}
/>
<Toggle
  label="Place for general notes"
  checked={form.notes !== undefined}
  onchange={(on) =>
    put('Place for notes', { ...record, form: on ? { ...form, notes: [form.edges.left + 5, form.edges.top + 5] } : (without(form, 'notes') as Form) })}
/>
{#if form.notes}
  <div class="pair">
    {#each ['From the left, mm', 'From the top, mm'] as label, k (label)}
      <TextField {label} value={String(form.notes[k])} onchange={(v) => notesAt(k, v)} />
    {/each}
  </div>
{/if}
<p class="q-row">
  <button class="q-button main" onclick={() => leaveFormat(drawing)}>Back to the sheets</button>
  <button class="q-button" onclick={() => (tools.formats = true)}>Keep, put on sheets …</button>
  <button class="q-button" onclick={remove}>Remove</button>
</p>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
  }
</style>
