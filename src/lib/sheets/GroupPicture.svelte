<svelte:options namespace="svg" />

<script lang="ts">
  import type { DisplayGroup, DisplayItem } from '$core/picture/display-list';
  import { emFor } from '$core/picture/lettering';
  import { markupOf } from './markup';

  interface Props {
    group: DisplayGroup;
    /** Components to show as selected. */
    highlight?: ReadonlySet<number> | undefined;
    highlightItem?: number | undefined;
    images: (id: string) => string | undefined;
  }
  const { group, highlight, highlightItem, images }: Props = $props();

  const isOn = ({ source }: Extract<DisplayItem, { source?: unknown }>) =>
    source !== undefined &&
    ((source.component !== undefined && (highlight?.has(source.component) ?? false)) || (source.item !== undefined && source.item === highlightItem));
  /** What is selected is drawn over the picture, which stays as it is. */
  const lit = $derived(highlight?.size || highlightItem !== undefined ? group.items.filter((i) => i.kind !== 'image' && isOn(i)) : []);
  const litTexts = $derived(lit.filter((i) => i.kind === 'text'));
</script>

<g class="ink">
  <!-- eslint-disable-next-line svelte/no-at-html-tags -- thousands of lines: the browser reads them at once; texts are escaped -->
  {@html markupOf(group, images, litTexts)}
</g>
{#each lit as item, i (i)}
  {#if item.kind === 'stroke'}
    <path
      d={item.d}
      fill="none"
      stroke="#12707a"
      stroke-width={item.width * 1.3}
      stroke-dasharray={item.dash?.join(' ')}
      stroke-linecap="round"
      stroke-linejoin="round"
    />
  {:else if item.kind === 'fill'}
    <path d={item.d} fill="#12707a" fill-rule="evenodd" />
  {:else if item.kind === 'text'}
    <text x={item.x} y={item.y} font-size={emFor(item.height)} text-anchor={item.anchor} font-family="osifont" fill="#12707a">{item.text}</text>
  {/if}
{/each}

<style>
  .ink :global(path) {
    fill: none;
    stroke: #000;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .ink :global(text) {
    font-family: osifont;
    fill: #000;
  }
</style>
