<script lang="ts">
  import { pageOf } from '$core/sheet/page';
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { reorderSheet } from '$elements/sheet/sheets';
  import { BookCopy, Frame, Plus } from '@lucide/svelte';
  import { DragGesture } from '@use-gesture/vanilla';
  import { untrack } from 'svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import { observeSize } from '../shared/observe-size';
  import { actionsOf } from './actions';
  import { sheetMenu } from './menu';
  import type { Tools } from './tools.svelte';
  import Bar from '../kit/Bar.svelte';
  import Thumbnail from './Thumbnail.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: Tools } = $props();

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
  /** A thumbnail that is dragged to another place in the set, and the gap it would go to. */
  let moving = $state.raw<{ readonly id: string; readonly by: number; readonly to: number } | undefined>(undefined);

  /** The gap nearest to a place in the strip: 0 before the first sheet. */
  function gapAt(x: number): number {
    let at = EDGE_PX;
    for (const [i, w] of widths.entries()) {
      if (x < at + w / 2) return i;
      at += w + GAP_PX;
    }
    return widths.length;
  }
  const gapX = (gap: number) => EDGE_PX + widths.slice(0, gap).reduce((sum, w) => sum + w + GAP_PX, 0) - GAP_PX / 2;

  const dragged = (id: string) => (node: HTMLElement) => {
    const gesture = new DragGesture(
      node,
      ({ movement: [by], xy: [x], last, canceled, tap }) => {
        if (tap || canceled) {
          moving = undefined;
          return;
        }
        const from = drawing.sheets.findIndex((s) => s.id === id);
        const inStrip = x - scroll!.getBoundingClientRect().left + scroll!.scrollLeft;
        const gap = gapAt(inStrip);
        const to = gap > from ? gap - 1 : gap;
        moving = last ? undefined : { id, by, to: gap };
        if (last && to !== from) drawing.edit('Order of sheets', reorderSheet(drawing.scene, id, to));
      },
      // A press that hardly moves opens the sheet.
      { threshold: 6, filterTaps: true, axis: 'x', pointer: { buttons: [1] } },
    );
    return () => {
      gesture.destroy();
      moving = undefined;
    };
  };

  function menuOf(sheet: string, e: MouseEvent) {
    e.preventDefault();
    drawing.sheetId = sheet;
    const r = (e.currentTarget as Element).getBoundingClientRect();
    tools.menu = { x: e.clientX || r.left, y: e.clientY || r.top, of: sheetMenu(drawing, tools) };
  }
  const add = $derived(actionsOf(drawing, tools).find((a) => a.id === 'sheet-add'));

  // The open sheet is in sight.
  $effect(() => {
    const at = drawing.sheets.findIndex((s) => s.id === drawing.sheetId);
    if (at >= 0 && scroll) untrack(() => $strip.scrollToIndex(at, { align: 'auto' }));
  });
</script>

<div class="shelf">
  <nav class="strip" aria-label="Sheets" bind:this={scroll}>
    <ol style="width: {$strip.getTotalSize()}px">
      {#each $strip.getVirtualItems() as place (place.key)}
        {@const sheet = drawing.sheets[place.index]}
        {#if sheet}
          {@const by = moving?.id === sheet.id ? moving.by : 0}
          <li
            class:moving={by !== 0}
            style="left: {place.start + by}px; width: {place.size}px"
            aria-posinset={place.index + 1}
            aria-setsize={drawing.sheets.length}
            {@attach dragged(sheet.id)}
          >
            <Thumbnail {drawing} {sheet} number={place.index + 1} drop={tools.dropOn === sheet.id} onmenu={(e) => menuOf(sheet.id, e)} />
          </li>
        {/if}
      {/each}
      {#if moving?.by}<li class="gap" style="left: {gapX(moving.to) - 1.5}px" aria-hidden="true"></li>{/if}
    </ol>
  </nav>
  {#if drawing.drafting}
    <div class="more" role="status">
      <span>More sheets: {drawing.drafting.stage} …</span>
      <Bar label="The rest of the first drawing" share={drawing.drafting.share} />
      <button class="q-button" onclick={() => drawing.stopDrafting()} title="Leave it at the sheets that stand">Stop</button>
    </div>
  {/if}
  <button class="add" onclick={() => (tools.formats = true)} aria-label="Sheet formats" title="Sheet formats: frame, title block, logo"
    ><Frame size={18} /></button
  >
  <button class="add" onclick={() => (tools.recipes = true)} aria-label="Recipes" title="Recipes: sheets that are made again from any assembly"
    ><BookCopy size={18} /></button
  >
  <button class="add" onclick={() => add?.run()} aria-label="Add a sheet after this one" title="Add a sheet after this one (Insert)"><Plus size={18} /></button>
</div>

<style>
  .shelf {
    flex: none;
    display: flex;
    height: 84px;
    background: var(--panel);
    border-top: 1px solid var(--line);
  }
  .strip {
    flex: 1;
    min-width: 0;
    overflow: auto hidden;
  }
  .more {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0.3rem 0.6rem;
    align-items: center;
    align-content: center;
    width: 270px;
    padding: 0 0.8rem;
    border-left: 1px solid var(--line);
    font-size: 0.86rem;
    color: var(--mute);
  }
  .more span {
    grid-column: 1 / -1;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .add {
    display: grid;
    place-items: center;
    width: 44px;
    border-left: 1px solid var(--line);
    color: var(--mute);
    cursor: pointer;
  }
  .add:hover {
    color: var(--teal);
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
    touch-action: pan-x;
  }
  li.moving {
    z-index: 2;
    opacity: 0.8;
  }
  li.gap {
    width: 3px;
    border-radius: 2px;
    background: var(--teal);
  }
</style>
