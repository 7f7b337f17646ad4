<script lang="ts">
  import type { DisplayGroup } from '$core/picture/display-list';
  import { emFor } from '$core/picture/lettering';

  interface Props {
    group: DisplayGroup;
    /** Components to show as selected. */
    highlight?: ReadonlySet<number> | undefined;
    highlightItem?: number | undefined;
    images: (id: string) => string | undefined;
  }
  const { group, highlight, highlightItem, images }: Props = $props();

  const isOn = (source: { component?: number; item?: number } | undefined) =>
    source !== undefined &&
    ((source.component !== undefined && (highlight?.has(source.component) ?? false)) || (source.item !== undefined && source.item === highlightItem));
</script>

{#each group.items as item, i (i)}
  {#if item.kind === 'stroke'}
    <path
      d={item.d}
      fill="none"
      stroke={isOn(item.source) ? '#12707a' : '#000'}
      stroke-width={isOn(item.source) ? item.width * 1.3 : item.width}
      stroke-dasharray={item.dash?.join(' ')}
      stroke-linecap="round"
      stroke-linejoin="round"
    />
  {:else if item.kind === 'fill'}
    <path d={item.d} fill={isOn(item.source) ? '#12707a' : item.color} fill-rule="evenodd" />
  {:else if item.kind === 'text'}
    <text x={item.x} y={item.y} font-size={emFor(item.height)} text-anchor={item.anchor} font-family="osifont" fill={isOn(item.source) ? '#12707a' : '#000'}
      >{item.text}</text
    >
  {:else if images(item.image)}
    <image x={item.x} y={item.y} width={item.width} height={item.height} href={images(item.image)} preserveAspectRatio="none" />
  {/if}
{/each}
