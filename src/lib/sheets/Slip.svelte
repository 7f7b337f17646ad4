<script lang="ts">
  import { faceOf } from '$elements/faces';
  import SlipTitle from '$elements/sheet/face/SlipTitle.svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import { shownRecord } from '../shared/selection';
  import SlipItem from '../shared/SlipItem.svelte';
  import LayerField from './LayerField.svelte';
  import Place from './Place.svelte';
  import SlipSeveral from './SlipSeveral.svelte';
  import type { Tools } from './tools.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: Tools } = $props();

  const several = $derived(drawing.selection.kind === 'records' ? tools.pick.chosen : []);
  const item = $derived(drawing.items.find((i) => i.part === drawing.selectedPart));
  /** Everything is read each time, so that it follows whatever changes. */
  const record = $derived.by(() => {
    const { selection, sheetId, scene } = drawing;
    return shownRecord(selection, sheetId, scene);
  });
</script>

<section class="slip" aria-label="Slip">
  {#if tools.current.panel}
    {@const Panel = tools.current.panel}
    <Panel {drawing} {tools} tool={tools.current} />
  {:else if drawing.selection.kind === 'field'}
    <SlipTitle {drawing} field={drawing.selection.field} />
  {:else if several.length > 1}
    <SlipSeveral {drawing} {tools} records={several} />
  {:else if record}
    <!-- A slip is of one record: fields of another never stay in it. -->
    {#key record.id}
      {@const Face = faceOf(record).slip}
      <Face {drawing} {tools} {record} />
      {#if record.type !== 'sheet'}<Place {drawing} {record} /><LayerField {drawing} ids={[record.id]} />{/if}
    {/key}
  {/if}
  {#if item && !tools.current.panel}<SlipItem {drawing} {item} />{/if}
</section>

<style>
  .slip {
    height: 100%;
    overflow-y: auto;
    padding: 0.8rem 0.9rem;
  }
</style>
