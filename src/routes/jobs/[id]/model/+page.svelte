<script lang="ts">
  import { actionFor } from '$lib/shared/action';
  import { Drawing } from '$lib/shared/drawing.svelte';
  import JobBar from '$lib/shared/JobBar.svelte';
  import QuickBar from '$lib/shared/QuickBar.svelte';
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
  function key(e: KeyboardEvent) {
    if (bar.quickBar) return;
    const action = actionFor(actions, e);
    if (!action) return;
    e.preventDefault();
    action.run();
  }
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

<svelte:window onkeydown={key} />

<div class="page">
  <JobBar {drawing} current="Model" onquick={() => (bar.quickBar = true)} />
  <div class="body">
    <main>
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
    </main>
    <aside>
      {#if item}
        <PartPicture {drawing} {item} />
        <div class="slip"><SlipItem {drawing} {item} /></div>
      {/if}
      <ImportReport {drawing} />
    </aside>
  </div>
</div>
<QuickBar {drawing} tools={bar} {actions} />

<style>
  .page {
    display: flex;
    flex-direction: column;
    height: 100vh;
    overflow: hidden;
  }
  .body {
    flex: 1;
    display: flex;
    min-height: 0;
  }
  main {
    flex: 1;
    display: flex;
    flex-direction: column;
    min-width: 0;
    background: var(--panel);
  }
  .frame {
    flex: 1;
    min-height: 0;
    border-top: 1px solid var(--line);
  }
  aside {
    flex: none;
    width: 320px;
    overflow-y: auto;
    border-left: 1px solid var(--line);
    background: var(--panel);
  }
  .wait {
    padding: 1.5rem;
  }
  .slip {
    padding: 0.9rem;
  }
</style>
