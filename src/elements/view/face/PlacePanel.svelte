<script lang="ts">
  import { scaleText } from '$core/sheet/paper';
  import Choice from '$lib/kit/Choice.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Tool } from '$lib/sheets/tool';
  import DirectionChoice from './DirectionChoice.svelte';
  import type { PlaceTool } from './place-tool.svelte';

  const { drawing, tool: given }: { drawing: Drawing; tool: Tool } = $props();
  const tool = $derived(given as PlaceTool);
  const spreads = $derived(drawing.scene.all('spread'));
</script>

<SlipHead
  title="Place a view"
  subtitle={tool.planned ? `${tool.title}, ${scaleText(tool.planned.record.scale)}: press where it goes` : 'Choose a side, then press where it goes'}
/>
<DirectionChoice {drawing} frame={tool.frame} onchange={(title, frame) => tool.choose(title, frame)} />
<Choice
  label="Scale (wheel, + or −)"
  options={tool.scales.map((s) => [String(s), scaleText(s)] as const)}
  value={String(tool.scales.find((s) => Math.abs(s / tool.scale - 1) < 1e-9) ?? '')}
  onchange={(s) => (tool.scale = Number(s))}
/>
{#if spreads.length}
  <p class="q-caption"><label for="place-spread">Exploded by</label></p>
  <select id="place-spread" class="q-field" value={tool.spread ?? ''} onchange={(e) => (tool.spread = e.currentTarget.value || null)}>
    <option value="">together</option>
    {#each spreads as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
  </select>
{/if}
<Toggle label="Hidden lines" checked={tool.hidden} onchange={(on) => (tool.hidden = on)} />
