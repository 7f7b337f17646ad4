<script lang="ts">
  import { Box, Columns3, Rotate3d, ListFilter, Search, Sparkles, Upload } from '@lucide/svelte';
  import ColumnsPanel from './ColumnsPanel.svelte';
  import type { Grid } from './grid.svelte';
  import TakePanel from './TakePanel.svelte';
  import SuggestPanel from './SuggestPanel.svelte';

  const { grid, solid, onsolid, onnewer }: { grid: Grid; solid: boolean; onsolid: () => void; onnewer: () => void } = $props();
  let open = $state<'' | 'columns' | 'suggest' | 'take' | 'filter'>('');
  const flip = (what: typeof open) => (open = open === what ? '' : what);
  const filtered = $derived(Object.values(grid.filters).filter(Boolean).length);
</script>

<div class="bar">
  <h1 class="sr-only">Every part, and what the list needs of it</h1>
  <button class="chip" aria-pressed={solid} onclick={onsolid} title="Ctrl 3"><Rotate3d size={14} /> 3D</button>
  <button class="chip" class:trouble={grid.gapCount > 0} aria-pressed={grid.gapsOnly} onclick={() => grid.setGapsOnly(!grid.gapsOnly)}>
    {grid.gapCount === 0 ? 'No gaps' : grid.gapCount === 1 ? '1 gap' : `${grid.gapCount} gaps`}
  </button>
  <button class="chip" disabled={grid.gapCount === 0} onclick={() => grid.nextGap()} title="Ctrl Enter">Next gap</button>
  {#if grid.suggestions.length}
    <button class="chip" aria-expanded={open === 'suggest'} onclick={() => flip('suggest')}
      ><Sparkles size={14} /> {grid.suggestions.length} {grid.suggestions.length === 1 ? 'proposal' : 'proposals'}</button
    >
  {/if}
  <span class="push"></span>
  <label class="search"
    ><Search size={15} /><input class="q-field" type="search" placeholder="Search" aria-label="Search the parts" bind:value={grid.search} /></label
  >
  <button class="chip" aria-expanded={open === 'filter'} onclick={() => flip('filter')}
    ><ListFilter size={14} /> Filter{filtered ? ` (${filtered})` : ''}</button
  >
  <button class="chip" aria-expanded={open === 'columns'} onclick={() => flip('columns')}><Columns3 size={14} /> Columns</button>
  <button class="chip" aria-expanded={open === 'take'} onclick={() => flip('take')}><Upload size={14} /> In and out</button>
  <button class="chip" onclick={onnewer}><Box size={14} /> Newer model</button>
</div>
{#if open === 'filter'}
  <div class="panel filters">
    {#each grid.columns as c (c.key)}
      <label class="q-caption"
        >{c.title}
        <input class="q-field" value={grid.filters[c.key] ?? ''} oninput={(e) => (grid.filters = { ...grid.filters, [c.key]: e.currentTarget.value })} />
      </label>
    {/each}
    <button class="q-button" onclick={() => (grid.filters = {})}>Clear all</button>
  </div>
{:else if open === 'columns'}<div class="panel"><ColumnsPanel {grid} /></div>
{:else if open === 'suggest'}<div class="panel"><SuggestPanel {grid} /></div>
{:else if open === 'take'}<div class="panel"><TakePanel {grid} /></div>{/if}

<style>
  .bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.5rem;
    padding: 0.55rem 0.9rem;
  }
  .push {
    flex: 1;
  }
  .chip {
    display: inline-flex;
    align-items: center;
    gap: 0.3rem;
    min-height: 28px;
    padding: 0 0.7rem;
    border-radius: 999px;
    background: color-mix(in srgb, var(--line) 45%, transparent);
    font-size: 0.9rem;
    cursor: pointer;
  }
  .chip:disabled {
    opacity: 0.5;
    cursor: default;
  }
  .chip.trouble {
    background: var(--trouble-soft);
    color: var(--trouble);
  }
  .chip[aria-pressed='true'],
  .chip[aria-expanded='true'] {
    box-shadow: inset 0 0 0 2px var(--teal);
  }
  .search {
    display: flex;
    align-items: center;
    gap: 0.3rem;
    color: var(--mute);
  }
  .search input {
    width: 110px;
  }
  .panel {
    max-height: 45vh;
    overflow-y: auto;
    padding: 0.7rem 0.9rem;
    border-top: 1px solid var(--line);
  }
  .filters {
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 0.5rem 0.8rem;
  }
  .filters label {
    display: grid;
    width: 125px;
  }
</style>
