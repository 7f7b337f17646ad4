<script lang="ts">
  import { Drawing } from '$lib/shared/drawing.svelte';
  import StageFrame from '$lib/shared/StageFrame.svelte';
  import SlipItem from '$lib/shared/SlipItem.svelte';
  import { Grid } from '$lib/model/grid.svelte';
  import GridBar from '$lib/model/GridBar.svelte';
  import { modelActions } from '$lib/model/actions';
  import PropertiesGrid from '$lib/model/PropertiesGrid.svelte';
  import PartPicture from '$lib/model/PartPicture.svelte';
  import ModelOffer from '$lib/model/ModelOffer.svelte';
  import ImportReport from '$lib/model/ImportReport.svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const grid = new Grid(drawing);
  let offer = $state<ReturnType<typeof ModelOffer>>();
  /** The 3D view above the grid: loaded when it is asked for. */
  let solid = $state(false);
  const bar = $state({ quickBar: false });
  const actions = $derived(
    modelActions(
      drawing,
      grid,
      () => (bar.quickBar = true),
      () => offer?.choose(),
      () => (solid = !solid),
    ),
  );

  onMount(() => {
    if (drawing.items[0]) grid.go(0, 1);
    return drawing.open(false);
  });
  const item = $derived(grid.activeItem);
  // What is picked in the model is chosen in the grid.
  $effect(() => {
    const part = drawing.selectedPart;
    untrack(() => {
      const row = grid.items.findIndex((i) => i.part === part);
      if (row >= 0 && row !== grid.active.row) grid.reveal(row);
    });
  });
</script>

<StageFrame {drawing} current="Model" {actions} tools={bar} rightWidth={320}>
  {#snippet right()}
    {#if item}
      <PartPicture {drawing} {item} />
      <div class="slip"><SlipItem {drawing} {item} /></div>
    {/if}
    <ImportReport {drawing} />
  {/snippet}

  <GridBar {grid} {solid} onsolid={() => (solid = !solid)} onnewer={() => offer?.choose()} />
  <ModelOffer {drawing} bind:this={offer} />
  {#if solid}
    <div class="frame">
      {#await import('$lib/model/ModelView.svelte')}<p class="wait">Opening the 3D view …</p>
      {:then { default: ModelView }}<ModelView {drawing} />
      {:catch}<p class="wait">The 3D view could not be loaded. Reload the page.</p>{/await}
    </div>
  {/if}
  <div class="frame"><PropertiesGrid {grid} /></div>
</StageFrame>

<style>
  .frame {
    flex: 1;
    min-height: 0;
    border-top: 1px solid var(--line);
  }
  .wait {
    padding: 1.5rem;
  }
  .slip {
    padding: 0.9rem;
  }
</style>
