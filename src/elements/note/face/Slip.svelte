<script lang="ts">
  import { without } from '$core/base/without';
  import { heightOf } from '$elements/note/draw';
  import { FIELDS, wordsOf, type NoteRecord } from '$elements/note/words';
  import LeaderEnds from './LeaderEnds.svelte';
  import LostLeaders from './LostLeaders.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: NoteRecord } = $props();
  const id = $props.id();
  const put = (label: string, next: NoteRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  const said = $derived(wordsOf(record, drawing.scene));

  function write(text: string) {
    if (text === record.text) return;
    if (text.trim() === '') drawing.edit('Remove note', [{ op: 'drop', id: record.id }]);
    else put('Text of the note', { ...record, text });
  }
  function size(typed: string, key: 'heightMm' | 'widthMm', least: number, most: number) {
    if (typed.trim() === '') {
      put('Size of the note', without(record, key) as NoteRecord);
      return;
    }
    const mm = Number(typed.replace(',', '.'));
    if (mm >= least && mm <= most) put('Size of the note', { ...record, [key]: mm });
    else notify('trouble', `Write a number of millimetres between ${least} and ${most}.`);
  }
</script>

<SlipHead title="Note" subtitle={record.view ? `beside ${drawing.scene.one('view', record.view)?.name ?? 'its view'}` : 'on the sheet'} />
<LostLeaders {drawing} {record} />
<label class="q-caption" for="{id}-text">Text: *bold*, lines with - or 1. are a list</label>
<textarea id="{id}-text" class="q-field text" rows="5" value={record.text} onchange={(e) => write(e.currentTarget.value)}></textarea>
{#if said !== record.text}<p class="said">{said}</p>{/if}
<label class="q-caption" for="{id}-field">Put a value in</label>
<select id="{id}-field" class="q-field" value="" onchange={(e) => (write(`${record.text} {${e.currentTarget.value}}`), (e.currentTarget.value = ''))}>
  <option value="">of …</option>
  {#each Object.entries(FIELDS) as [name, what] (name)}<option value={name}>{what}</option>{/each}
</select>
<div class="pair">
  <TextField label="Height, mm" value={String(heightOf(record, drawing.scene))} onchange={(v) => size(v, 'heightMm', 1, 100)} />
  <TextField label="Width, mm" value={record.widthMm === undefined ? '' : String(record.widthMm)} onchange={(v) => size(v, 'widthMm', 5, 2000)} />
</div>
<Toggle label="Frame" checked={record.frame ?? false} onchange={(on) => put('Frame of the note', on ? { ...record, frame: true } : without(record, 'frame'))} />
<LeaderEnds {drawing} {record} />
<p class="q-row">
  {#if record.view}<button class="q-button" onclick={() => tools.take('note-leader')}>One more leader</button>{/if}
  <button class="q-button" onclick={() => tools.remove()}>Remove</button>
</p>

<style>
  .text {
    width: 100%;
    margin-bottom: 0.4rem;
    font-family: inherit;
  }
  .said {
    margin-bottom: 0.4rem;
    color: var(--mute);
    white-space: pre-wrap;
  }
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
    margin-top: 0.5rem;
  }
</style>
