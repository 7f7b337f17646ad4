<script lang="ts">
  import type { Item } from '$core/ledger/items';
  import type { Drawing } from '../shared/drawing.svelte';

  const { drawing, item }: { drawing: Drawing; item: Item } = $props();
  const part = $derived(drawing.assembly.parts.find((p) => p.id === item.part));
  const size = $derived(part ? [0, 1, 2].map((k) => Number((part.box[k + 3]! - part.box[k]!).toPrecision(4))) : []);
</script>

<figure>
  {#if part}<img src="/api/parts/{part.geometryKey}" alt="" />{/if}
  <figcaption>{size.join(' × ')} mm{part?.looksLike ? ` · shape of a ${part.looksLike}` : ''}</figcaption>
</figure>

<style>
  figure {
    display: grid;
    place-items: center;
    padding: 0.8rem;
    border-bottom: 1px solid var(--line);
    background: var(--desk);
  }
  img {
    width: 190px;
    height: 150px;
    object-fit: contain;
    padding: 8px;
    border-radius: 8px;
    background: var(--paper);
  }
  figcaption {
    margin-top: 0.4rem;
    font-size: 0.85rem;
    color: var(--mute);
  }
</style>
