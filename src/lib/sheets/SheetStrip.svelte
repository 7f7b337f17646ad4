<script lang="ts">
  import { pageOf } from '$core/sheet/page';
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack } from 'svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import { observeSize } from '../shared/observe-size';
  import Thumbnail from './Thumbnail.svelte';

  const { drawing }: { drawing: Drawing } = $props();

  const HEIGHT_PX = 68;
  const GAP_PX = 10;
  const EDGE_PX = 12;
  const widths = $derived(
    drawing.sheets.map((s) => {
      const { width, height } = pageOf(s).geometry;
      return Math.round((HEIGHT_PX * width) / height);
    }),
  );

  /** Only thumbnails in sight, and some beside them, stand on the page. */
  let scroll = $state.raw<HTMLElement | null>(null);
  const strip = createVirtualizer<HTMLElement, HTMLElement>({
    count: 0,
    horizontal: true,
    getScrollElement: () => scroll,
    estimateSize: () => 96,
    initialRect: { width: 1280, height: 0 },
    observeElementRect: observeSize,
    gap: GAP_PX,
    paddingStart: EDGE_PX,
    paddingEnd: EDGE_PX,
    overscan: 3,
  });
  $effect(() => {
    const [sheets, sizes, element] = [drawing.sheets, widths, scroll];
    untrack(() => {
      $strip.setOptions({
        count: sheets.length,
        estimateSize: (i) => sizes[i] ?? 96,
        getItemKey: (i) => sheets[i]?.id ?? i,
        getScrollElement: () => element,
      });
      $strip.measure();
    });
  });
  // The open sheet is in sight.
  $effect(() => {
    const at = drawing.sheets.findIndex((s) => s.id === drawing.sheetId);
    if (at >= 0 && scroll) untrack(() => $strip.scrollToIndex(at, { align: 'auto' }));
  });
</script>

<nav class="strip" aria-label="Sheets" bind:this={scroll}>
  <ol style="width: {$strip.getTotalSize()}px">
    {#each $strip.getVirtualItems() as place (place.key)}
      {@const sheet = drawing.sheets[place.index]}
      {#if sheet}
        <li style="left: {place.start}px; width: {place.size}px" aria-posinset={place.index + 1} aria-setsize={drawing.sheets.length}>
          <Thumbnail {drawing} {sheet} number={place.index + 1} />
        </li>
      {/if}
    {/each}
  </ol>
</nav>

<style>
  .strip {
    height: 84px;
    overflow: auto hidden;
    background: var(--panel);
    border-top: 1px solid var(--line);
  }
  ol {
    position: relative;
    height: 100%;
    margin: 0;
    padding: 0;
    list-style: none;
  }
  li {
    position: absolute;
    top: 7px;
    height: 68px;
  }
</style>
