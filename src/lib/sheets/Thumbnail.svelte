<script lang="ts">
  import type { SheetRecord } from '$core/document/records';
  import { pageOf } from '$core/sheet/page';
  import { composeSheet } from '$elements/compose';
  import type { Drawing } from '../shared/drawing.svelte';
  import GroupPicture from './GroupPicture.svelte';
  import { shadingUrl } from './images.svelte';

  const { drawing, sheet, number }: { drawing: Drawing; sheet: SheetRecord; number: number } = $props();

  const page = $derived(pageOf(sheet).geometry);
  /** Only what is in sight is drawn. */
  let inSight = $state(false);
  const picture = $derived(inSight ? composeSheet(drawing.scene, sheet.id) : undefined);

  // The open sheet comes first.
  $effect(() => {
    if (inSight && drawing.openReady) drawing.fetchSheet(sheet.id);
  });

  function watch(node: HTMLElement) {
    const look = new IntersectionObserver((seen) => (inSight = seen.at(-1)!.isIntersecting), { root: node.parentElement, rootMargin: '0px 200px' });
    look.observe(node);
    return () => look.disconnect();
  }
</script>

<button
  {@attach watch}
  class:on={sheet.id === drawing.sheetId}
  aria-current={sheet.id === drawing.sheetId ? 'page' : undefined}
  onclick={() => (drawing.sheetId = sheet.id)}
  aria-label="Sheet {number}: {sheet.name}"
  title={sheet.name}
  style="aspect-ratio: {page.width} / {page.height}"
>
  {#if picture}
    <svg viewBox="0 0 {picture.width} {picture.height}" aria-hidden="true">
      {#each picture.groups as g (g.id)}<GroupPicture group={g} images={(id) => shadingUrl(drawing.results.get(id))} />{/each}
    </svg>
  {/if}
  <span>{number}</span>
</button>

<style>
  button {
    position: relative;
    flex: none;
    height: 68px;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: #fffefb;
    overflow: hidden;
    cursor: pointer;
  }
  button.on {
    box-shadow: 0 0 0 2px var(--teal);
  }
  svg {
    height: 100%;
    display: block;
  }
  span {
    position: absolute;
    left: 4px;
    top: 1px;
    padding: 0 4px;
    border-radius: 4px;
    font-size: 0.78rem;
    font-weight: 600;
    background: #fffefbd0;
    color: #2a2926;
  }
</style>
