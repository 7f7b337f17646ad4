<script lang="ts">
  import { without } from '$core/base/without';
  import type { BalloonRecord } from '$core/document/records';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record: balloon }: { drawing: Drawing; tools: Tools; record: BalloonRecord } = $props();
  const item = $derived(drawing.itemOfPath(balloon.component));
  const view = $derived(drawing.document[balloon.view]);
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
