<script lang="ts">
  import { plural } from '$core/base/plural';
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
  import { Tabs } from '@skeletonlabs/skeleton-svelte';
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
  function stepBack() {
    if (explode.work) explode.work.stop();
    else if (explode.active !== undefined) explode.active = undefined;
    else explode.choose(new Set());
  }
</script>

<StageFrame {drawing} current="Explode" {actions} tools={explode} onescape={stepBack}>
  {#snippet left()}
    <Tabs value={side} onValueChange={(d) => (side = d.value as typeof side)} class="gap-0">
      <Tabs.List class="sticky top-0 z-1 mb-0 bg-(--panel)">
        <Tabs.Trigger value="pulls" class="flex-1">Pulls</Tabs.Trigger>
        <Tabs.Trigger value="parts" class="flex-1">Parts</Tabs.Trigger>
        <Tabs.Indicator class="bg-secondary-500" />
      </Tabs.List>
      <Tabs.Content value="pulls"
        >{#if side === 'pulls'}<PullList {explode} />{/if}</Tabs.Content
      >
      <Tabs.Content value="parts"
        >{#if side === 'parts'}<PartTree {explode} />{/if}</Tabs.Content
      >
    </Tabs>
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
            >Keep the {plural(explode.work.found.pulls, 'pull')} found</button
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
