<script lang="ts">
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { markedBy, type CentreRecord } from '../kind';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: CentreRecord } = $props();
  const view = $derived(drawing.scene.one('view', record.view));
  const count = $derived(markedBy(record, drawing.scene).length);
</script>

<SlipHead
  title={record.circle ? 'Centre mark' : 'Centre marks'}
  subtitle="{view?.name ?? ''} · {record.circle?.lost ? 'its circle is lost' : count === 1 ? 'one circle' : `${count} circles`}"
/>
<p class="help">Take the tool and press a circle: its mark goes on, or off again. Marks follow the model.</p>
<p class="row">
  <button class="q-button" onclick={() => tools.take('centre')}>Mark single circles</button>
  <button class="q-button" onclick={() => tools.remove()}>{record.circle ? 'Remove mark' : 'Remove all'}</button>
</p>

<style>
  .help {
    margin-bottom: 0.5rem;
    font-size: 0.88rem;
    color: var(--mute);
  }
  .row {
    display: flex;
    gap: 0.4rem;
  }
</style>
