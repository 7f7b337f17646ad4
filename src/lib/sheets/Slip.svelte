<script lang="ts">
  import type { Drawing } from '../shared/drawing.svelte';
  import SlipBalloon from './SlipBalloon.svelte';
  import SlipItem from '../shared/SlipItem.svelte';
  import SlipList from './SlipList.svelte';
  import SlipSheet from './SlipSheet.svelte';
  import SlipTitle from './SlipTitle.svelte';
  import SlipView from './SlipView.svelte';
  import type { Tools } from './tools.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: Tools } = $props();

  const record = $derived(drawing.selection.kind === 'record' ? drawing.document[drawing.selection.id] : undefined);
  const item = $derived(drawing.items.find((i) => i.part === drawing.selectedPart));
</script>

<section class="slip" aria-label="Slip">
  {#if drawing.selection.kind === 'field'}
    <SlipTitle {drawing} field={drawing.selection.field} />
  {:else if record?.type === 'view'}
    <SlipView {drawing} {tools} view={record} />
  {:else if record?.type === 'balloon'}
    <SlipBalloon {drawing} {tools} balloon={record} />
    {#if item}<SlipItem {drawing} {item} />{/if}
  {:else if record?.type === 'list'}
    <SlipList {drawing} list={record} />
  {:else if item}
    <SlipItem {drawing} {item} />
  {:else}
    <SlipSheet {drawing} {tools} />
  {/if}
</section>

<style>
  .slip {
    height: 100%;
    overflow-y: auto;
    padding: 0.8rem 0.9rem;
  }
</style>
