<script lang="ts">
  import { paperMapOf } from '$elements/view/draw';
  import type { SectionTool } from './section-tool.svelte';
  import type { ToolName } from './tools.svelte';

  const { sections, tool, zoom }: { sections: SectionTool; tool: ToolName; zoom: number } = $props();

  const map = $derived(sections.view && paperMapOf(sections.view));
  const corners = $derived(map ? sections.points.map(([x, y]) => [map.x(x), map.y(y)] as const) : []);
  const next = $derived(map && sections.next && tool === 'section' ? ([map.x(sections.next[0]), map.y(sections.next[1])] as const) : undefined);
  const path = $derived([...corners, ...(next ? [next] : [])].map(([x, y], i) => `${i ? 'L' : 'M'}${x} ${y}`).join(''));
</script>

{#if corners.length}
  <g pointer-events="none" fill="none" stroke="#12707a" stroke-width={2 / zoom} data-testid="cutting-line">
    <path d={path + (tool === 'break' ? 'Z' : '')} stroke-dasharray={tool === 'break' ? undefined : `${14 / zoom} ${3 / zoom} ${2 / zoom} ${3 / zoom}`} />
    {#if tool === 'section'}
      {#each corners as [x, y], i (i)}<circle cx={x} cy={y} r={4 / zoom} fill="#d9ebec" />{/each}
    {/if}
  </g>
{/if}
