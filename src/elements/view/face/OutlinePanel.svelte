<script lang="ts">
  import Choice from '$lib/kit/Choice.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Tool } from '$lib/sheets/tool';
  import type { OutlineTool, OutlineWay } from './outline-tool.svelte';

  const { tool: given }: { tool: Tool } = $props();
  const tool = $derived(given as OutlineTool);

  const WAYS = [
    ['circle', 'Circle'],
    ['box', 'Rectangle'],
    ['corners', 'Corners'],
    ['stroke', 'Stroke'],
  ] as const;
  const HOW: Readonly<Record<OutlineWay, string>> = {
    circle: 'Press its centre and pull to its rim.',
    box: 'Press one corner and pull to the opposite one.',
    corners: 'Press corner after corner; press the first one again, or Enter, to close it. Escape takes the last one back.',
    stroke: 'Press, go around it, and let go.',
  };
</script>

<SlipHead title={tool.purpose.title} subtitle={tool.purpose.hint} />
<Choice label="Outline" options={WAYS} value={tool.way} onchange={(w) => (tool.cancel(), (tool.way = w as OutlineWay))} />
<p>{tool.places ? 'Press where it goes; Escape leaves it.' : HOW[tool.way]}</p>
{#if tool.purpose.sizeOf}<Toggle label="Put it where I press" checked={tool.byHand} onchange={(on) => (tool.byHand = on)} />{/if}
