<script lang="ts">
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Tool } from '$lib/sheets/tool';
  import { KEYS, type DimensionTool, type Row } from './dimension-tool.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { KIND_NAMES } from './names';
  import Slip from './Slip.svelte';

  const { drawing, tools, tool: given }: { drawing: Drawing; tools: Tools; tool: Tool } = $props();
  const tool = $derived(given as DimensionTool);
  /** What was placed last, to be refined at once. */
  const placed = $derived(drawing.chosen.length === 1 ? drawing.scene.one('dimension', drawing.chosen[0]) : undefined);
  const keyOf = (kind: string) => Object.entries(KEYS).find(([, k]) => k === kind)?.[0] ?? '';
  const ROWS: readonly (readonly [Row | undefined, string])[] = [
    [undefined, 'one'],
    ['chain', 'chain'],
    ['baseline', 'from one line'],
    ['running', 'running'],
  ];
</script>

<SlipHead
  title={tool.says?.text || 'Dimension'}
  subtitle={tool.says
    ? `${tool.says.between}: press where it goes`
    : tool.picks.length
      ? 'Press a second one, or where it goes'
      : 'Press an edge, a circle, an axis or an end'}
/>
{#if tool.says?.awkward}<p class="trouble" role="status">{tool.says.text} {tool.says.awkward}</p>{/if}
{#if tool.kinds.length}
  <p class="q-caption">Measured</p>
  <p class="row" role="group" aria-label="Measured">
    {#each tool.kinds as kind, i (kind)}
      <button class="q-chip" class:on={i === 0} aria-pressed={i === 0} onclick={() => tool.choose(kind)}>{KIND_NAMES[kind]} <kbd>{keyOf(kind)}</kbd></button>
    {/each}
  </p>
{/if}
<p class="q-caption">Several in one go</p>
<p class="row" role="group" aria-label="Several in one go">
  {#each ROWS as [row, name] (name)}
    <button class="q-chip" class:on={tool.row === row} aria-pressed={tool.row === row} onclick={() => (tool.row = row)}>{name}</button>
  {/each}
</p>
{#if placed && !tool.picks.length}
  <div class="placed"><Slip {drawing} {tools} record={placed} /></div>
{/if}
<p class="help">Shift places it even where something can be picked, Alt without bringing it into line. Esc takes the last one back.</p>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    margin-bottom: 0.6rem;
  }
  .placed {
    margin: 0.6rem 0;
    border-top: 1px solid var(--line);
    padding-top: 0.6rem;
  }
  .help {
    font-size: 0.88rem;
    color: var(--mute);
  }
  .trouble {
    margin-bottom: 0.5rem;
    color: var(--trouble);
  }
  kbd {
    font-family: inherit;
    font-size: 0.75rem;
    opacity: 0.75;
  }
</style>
