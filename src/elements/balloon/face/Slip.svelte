<script lang="ts">
  import { without } from '$core/base/without';
  import type { BalloonRecord } from '$core/document/records';
  import { balloonWords } from '$elements/balloon/says';
  import { fastenedWith, stacked } from '$elements/balloon/stack';
  import Chips from '$lib/shared/Chips.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record: balloon }: { drawing: Drawing; tools: Tools; record: BalloonRecord } = $props();
  const item = $derived(drawing.itemOfPath(balloon.component));
  const view = $derived(drawing.document[balloon.view]);
  const id = $props.id();
  const words = $derived(balloonWords(drawing.scene));
  const fastened = $derived(fastenedWith(balloon, drawing.scene));
  const put = (label: string, record: BalloonRecord) => drawing.edit(label, [{ op: 'put', record }]);
</script>

<SlipHead title="Balloon {item?.number ?? '?'}" subtitle="{view?.type === 'view' ? view.name : ''} · points at {balloon.component}" />
<p class="help">Drag the circle to move it. Drag the ring at the leader's end onto another edge or component to re-aim it.</p>
<Toggle
  label="End with a dot inside the face"
  checked={balloon.end === 'dot'}
  onchange={(on) =>
    drawing.edit(on ? 'Leader ends with a dot' : 'Leader ends with an arrow', [{ op: 'put', record: { ...balloon, end: on ? 'dot' : 'arrow' } }])}
/>
<Toggle
  label="Stays where it was put"
  checked={balloon.byHand ?? false}
  onchange={(on) =>
    drawing.edit(on ? 'Balloon stays' : 'Balloon may be arranged', [{ op: 'put', record: on ? { ...balloon, byHand: true } : without(balloon, 'byHand') }])}
/>
<Toggle
  label="Leader"
  checked={!balloon.noLeader}
  onchange={(on) => put(on ? 'Leader' : 'No leader', on ? (without(balloon, 'noLeader') as BalloonRecord) : { ...balloon, noLeader: true })}
/>
<Chips
  label="Shape"
  options={[
    ['circle', 'circle'],
    ['hexagon', 'hexagon'],
    ['split', 'two halves'],
    ['underline', 'underlined'],
    ['none', 'none'],
  ]}
  value={balloon.shape ?? 'circle'}
  onchange={(s) => put('Shape of the balloon', s === 'circle' ? (without(balloon, 'shape') as BalloonRecord) : { ...balloon, shape: s as 'split' })}
/>
<label class="q-caption" for="{id}-says">Says</label>
<select
  id="{id}-says"
  class="q-field"
  value={balloon.says ?? 'number'}
  onchange={(e) =>
    put(
      'What the balloon says',
      e.currentTarget.value === 'number' ? (without(balloon, 'says') as BalloonRecord) : { ...balloon, says: e.currentTarget.value },
    )}
>
  {#each words as [word, name] (word)}<option value={word}>{name}</option>{/each}
</select>
{#if balloon.shape === 'split'}
  <label class="q-caption" for="{id}-lower">Under the line</label>
  <select
    id="{id}-lower"
    class="q-field"
    value={balloon.lower ?? 'quantity'}
    onchange={(e) => put('What the balloon says', { ...balloon, lower: e.currentTarget.value })}
  >
    {#each words as [word, name] (word)}<option value={word}>{name}</option>{/each}
  </select>
{/if}
<TextField
  label="In front of it"
  value={balloon.before ?? ''}
  onchange={(v) => put('Text before', v.trim() ? { ...balloon, before: v.trim().slice(0, 20) } : (without(balloon, 'before') as BalloonRecord))}
/>
<TextField
  label="Level shoulder of the leader, mm"
  value={balloon.jogMm ? String(balloon.jogMm) : ''}
  onchange={(v) => {
    const mm = Number(v.replace(',', '.'));
    if (v.trim() === '') put('Straight leader', without(balloon, 'jogMm') as BalloonRecord);
    else if (mm >= 1 && mm <= 50) put('Shoulder of the leader', { ...balloon, jogMm: mm });
    else notify('trouble', 'Write a number of millimetres between 1 and 50.');
  }}
/>
{#if balloon.stack?.length}
  <Chips
    label="Stack"
    options={[
      ['right', 'to the right'],
      ['left', 'to the left'],
      ['up', 'upwards'],
      ['down', 'downwards'],
    ]}
    value={balloon.stackWay ?? 'right'}
    onchange={(w) => put('Way of the stack', w === 'right' ? (without(balloon, 'stackWay') as BalloonRecord) : { ...balloon, stackWay: w as 'up' })}
  />
  <p class="q-row">
    <button class="q-button" onclick={() => put('Stack taken apart', without(balloon, 'stack') as BalloonRecord)}>Take the stack apart</button>
  </p>
{:else if fastened.length}
  <p class="q-row">
    <button class="q-button" onclick={() => drawing.edit('Stack', stacked(balloon, fastened, drawing.scene))}
      >Stack with {fastened.map((p) => drawing.itemOfPath(p)?.number).join(', ')}</button
    >
  </p>
{/if}
<p><button class="q-button" onclick={() => tools.remove()}>Remove balloon</button></p>
<hr />

<style>
  .help {
    margin-bottom: 0.5rem;
    font-size: 0.88rem;
    color: var(--mute);
  }
  hr {
    margin: 0.9rem 0;
    border-color: var(--line);
  }
</style>
