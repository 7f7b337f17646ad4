<script lang="ts">
  import type { Drawing } from '../shared/drawing.svelte';
  import GroupPicture from './GroupPicture.svelte';
  import { shadingUrl } from './images.svelte';

  const { drawing }: { drawing: Drawing } = $props();
</script>

<nav class="strip" aria-label="Sheets">
  {#each drawing.sheets as sheet, i (sheet.id)}
    {@const list = drawing.composed.get(sheet.id)}
    <button
      class:on={sheet.id === drawing.sheetId}
      aria-current={sheet.id === drawing.sheetId ? 'page' : undefined}
      onclick={() => (drawing.sheetId = sheet.id)}
      aria-label="Sheet {i + 1}: {sheet.name}"
      title={sheet.name}
    >
      {#if list}
        <svg viewBox="0 0 {list.width} {list.height}" aria-hidden="true">
          {#each list.groups as g (g.id)}<GroupPicture group={g} images={(id) => shadingUrl(drawing.results.get(id))} />{/each}
        </svg>
      {/if}
      <span>{i + 1}</span>
    </button>
  {/each}
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
  button {
    position: relative;
    flex: none;
    height: 68px;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: #fffefb;
    overflow: hidden;
    cursor: pointer;
  }
  button.on {
    box-shadow: 0 0 0 2px var(--teal);
  }
  svg {
    height: 100%;
    display: block;
  }
  span {
    position: absolute;
    left: 4px;
    top: 1px;
    padding: 0 4px;
    border-radius: 4px;
    font-size: 0.78rem;
    font-weight: 600;
    background: #fffefbd0;
    color: #2a2926;
  }
</style>
