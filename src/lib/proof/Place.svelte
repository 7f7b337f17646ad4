<script lang="ts">
  import { composeSheet } from '$elements/compose';
  import { inflate, rectOf, type Rect } from '$core/base/rect';
  import { inkOf, joined } from '$core/picture/ink';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { shadingUrl } from '$lib/sheets/images.svelte';
  import { markupOf } from '$lib/sheets/markup';
  import type { ProvedFinding } from './desk.svelte';

  const { drawing, finding }: { drawing: Drawing; finding: ProvedFinding } = $props();

  /** What is shown around what is marked, mm. */
  const AROUND_MM = 20;
  const SHAPE = 16 / 9;

  const list = $derived(finding.sheet !== null && drawing.calm.one('sheet', finding.sheet) ? composeSheet(drawing.calm, finding.sheet) : undefined);
  const groups = $derived((list?.groups ?? []).filter((g) => finding.about.some((a) => g.id === a || g.id.split('/')[0] === a)));
  const marked = $derived(groups.map((g) => inflate(rectOf(g.box), 1.5)));
  const window = $derived.by((): Rect | undefined => {
    if (!list || !marked.length) return undefined;
    // A leader is seen to its end.
    const r = inflate(joined([...marked, ...groups.flatMap((g) => inkOf(g.items))]), AROUND_MM);
    const width = Math.max(r.width, r.height * SHAPE);
    const height = width / SHAPE;
    return { x: r.x + r.width / 2 - width / 2, y: r.y + r.height / 2 - height / 2, width, height };
  });
</script>

{#if list && window}
  <svg viewBox="{window.x} {window.y} {window.width} {window.height}" role="img" aria-label="Where it is">
    <rect x="0" y="0" width={list.width} height={list.height} fill="#fffefb" />
    <g class="picture">
      {#each list.groups as g (g.id)}
        <!-- eslint-disable-next-line svelte/no-at-html-tags -- written by ourselves, texts escaped -->
        {@html markupOf(g, (id) => shadingUrl(drawing.results.get(id)))}
      {/each}
    </g>
    {#each marked as r, i (i)}
      <rect class="mark" x={r.x} y={r.y} width={r.width} height={r.height} rx="1.5" vector-effect="non-scaling-stroke" />
    {/each}
  </svg>
{/if}

<style>
  svg {
    display: block;
    flex: none;
    aspect-ratio: 16 / 9;
    width: 100%;
    max-width: 480px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: #ddd8cd;
  }
  .picture {
    fill: none;
    stroke: #000;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .picture :global(text) {
    font-family: osifont;
    fill: #000;
    stroke: none;
  }
  .mark {
    fill: rgb(192 57 43 / 0.08);
    stroke: #c0392b;
    stroke-width: 2px;
  }
</style>
