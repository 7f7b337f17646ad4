<script lang="ts">
  import type { Drawing } from '../shared/drawing.svelte';
  import Thumbnail from './Thumbnail.svelte';

  const { drawing }: { drawing: Drawing } = $props();
</script>

<nav class="strip" aria-label="Sheets">
  {#each drawing.sheets as sheet, i (sheet.id)}<Thumbnail {drawing} {sheet} number={i + 1} />{/each}
</nav>

<style>
  .strip {
    display: flex;
    gap: 10px;
    padding: 7px 12px;
    height: 84px;
    overflow-x: auto;
    background: var(--panel);
    border-top: 1px solid var(--line);
  }
</style>
