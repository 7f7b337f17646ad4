<script lang="ts">
  import { without } from '$core/base/without';
  import { positionsOf, type PositionsRecord } from '$elements/positions/draw';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: PositionsRecord } = $props();
  const count = $derived(positionsOf(record, drawing.scene).length);
</script>

<SlipHead
  title="Positions"
  subtitle="{count === 1 ? 'one hole' : `${count} holes`} of {drawing.scene.one('view', record.view)?.name ?? ''}, from {record.zeroX || record.zeroY
    ? 'the zero that was pressed'
    : 'its lower left corner'}"
/>
<p class="q-row">
  <button class="q-button" onclick={() => tools.take('positions-zero')}>Press the zero</button>
  {#if record.zeroX || record.zeroY}
    <button class="q-button" onclick={() => drawing.edit('Zero of the positions', [{ op: 'put', record: without(record, 'zeroX', 'zeroY') }])}
      >From the corner</button
    >
  {/if}
  <button class="q-button" onclick={() => tools.remove()}>Remove</button>
</p>
