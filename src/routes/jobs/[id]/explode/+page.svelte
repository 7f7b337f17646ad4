<script lang="ts">
  import { Drawing } from '$lib/shared/drawing.svelte';
  import StageFrame from '$lib/shared/StageFrame.svelte';
  import Shelf from '$lib/shared/Shelf.svelte';
  import type { Look } from '$lib/shared/Stage3d.svelte';
  import { explodeActions } from '$lib/explode/actions';
  import { Explode } from '$lib/explode/explode.svelte';
  import PartTree from '$lib/explode/PartTree.svelte';
  import PullList from '$lib/explode/PullList.svelte';
  import PullSlip from '$lib/explode/PullSlip.svelte';
  import Timeline from '$lib/explode/Timeline.svelte';
  import type ExplodeView from '$lib/explode/ExplodeView.svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const explode = new Explode(drawing);
  let timeline = $state<ReturnType<typeof Timeline>>();
  let view = $state<ReturnType<typeof ExplodeView>>();
  let look = $state.raw<Look | undefined>(undefined);
  const actions = $derived(
    explodeActions(explode, {
      fit: (what) => view?.fit(what),
      toggle: () => timeline?.toggle(),
      step: (by) => timeline?.step(by),
    }),
  );

  let side = $state<'pulls' | 'parts'>('pulls');
  let mounted = $state(false);
  onMount(() => {
    mounted = true;
    const close = drawing.open(false);
    return () => {
      // Nobody is there any more to see what comes of it.
      explode.work?.stop();
      close();
    };
  });
  // Every change of the spread is checked again.
  $effect(() => {
    void [explode.spread, explode.view, explode.made.length];
    if (mounted && explode.drag === undefined) untrack(() => explode.recheck());
  });
  // A pull that is gone is no longer at hand.
  $effect(() => {
    if (explode.active !== undefined && explode.active >= (explode.spread?.pulls.length ?? 0)) explode.active = undefined;
    if (explode.time > explode.made.length) explode.time = explode.made.length;
  });
  const count = (n: number, of: string) => `${n} ${of}${n === 1 ? '' : 's'}`;
  function stepBack() {
    if (explode.work) explode.work.stop();
    else if (explode.active !== undefined) explode.active = undefined;
    else explode.choose(new Set());
  }
</script>

<StageFrame {drawing} current="Explode" {actions} tools={explode} onescape={stepBack}>
  {#snippet left()}
    <div class="tabs" role="tablist">
      <button role="tab" aria-selected={side === 'pulls'} onclick={() => (side = 'pulls')}>Pulls</button>
      <button role="tab" aria-selected={side === 'parts'} onclick={() => (side = 'parts')}>Parts</button>
    </div>
    {#if side === 'pulls'}<PullList {explode} />{:else}<PartTree {explode} />{/if}
  {/snippet}
  {#snippet right()}<div class="slip"><PullSlip {explode} {look} /></div>{/snippet}

  <div class="canvas">
    {#if mounted}
      {#await import('$lib/explode/ExplodeView.svelte')}<p class="wait">Opening the 3D view …</p>
      {:then { default: View }}<View {explode} bind:this={view} onlook={(l) => (look = l)} />
      {:catch}<p class="wait">The 3D view could not be loaded. Reload the page.</p>{/await}
    {/if}
    {#if explode.work}
      <p class="work" role="status">
        {explode.work.what} …{explode.work.share > 0 ? ` ${Math.round(100 * explode.work.share)} %` : ''}
        {#if explode.work.found}<button class="q-button" onclick={() => explode.work?.found?.keep()}
            >Keep the {count(explode.work.found.pulls, 'pull')} found</button
          >{/if}
        <button class="q-button" onclick={() => explode.work?.stop()}>Stop</button>
      </p>
    {/if}
    <Shelf actions={actions.filter((a) => a.shelf)} />
  </div>
  <Timeline {explode} bind:this={timeline} />
</StageFrame>

<style>
  .canvas {
    position: relative;
    flex: 1;
    min-height: 0;
  }
  .tabs {
    position: sticky;
    top: 0;
    z-index: 1;
    display: flex;
    border-bottom: 1px solid var(--line);
    background: var(--panel);
  }
  .tabs button {
    flex: 1;
    min-height: 34px;
    cursor: pointer;
  }
  .tabs [aria-selected='true'] {
    font-weight: 600;
    box-shadow: inset 0 -2px 0 var(--teal);
  }
  .slip {
    padding: 0.9rem;
  }
  .wait {
    padding: 1.5rem;
  }
  .work {
    position: absolute;
    left: 50%;
    top: 12px;
    transform: translateX(-50%);
    display: flex;
    align-items: center;
    gap: 0.6rem;
    padding: 0.4rem 0.9rem;
    border-radius: 10px;
    background: var(--panel);
    box-shadow: 0 3px 14px rgb(0 0 0 / 0.3);
  }
</style>
