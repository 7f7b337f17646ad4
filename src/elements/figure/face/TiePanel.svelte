<script lang="ts">
  import { RELATIONS, type Relation } from '$elements/figure/ties';
  import Choice from '$lib/kit/Choice.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Tool } from '$lib/sheets/tool';
  import type { TieTool } from './tie-tool.svelte';

  const { tool: given }: { tool: Tool } = $props();
  const tool = $derived(given as TieTool);
  const options = (Object.keys(RELATIONS) as Relation[]).filter((r) => RELATIONS[r].needs !== 'nothing').map((r) => [r, RELATIONS[r].name] as const);
</script>

<SlipHead title="By an edge of a view" subtitle="Press the edge that the line goes by; it stays so when either moves" />
<Choice label="Relation" {options} value={tool.is} onchange={(r) => (tool.is = r as Relation)} />
