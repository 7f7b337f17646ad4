<script lang="ts">
  import { leaveFormat } from '$elements/sheet/face/format-actions';
  import type { Drawing } from '../shared/drawing.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: { formats: boolean } } = $props();
  const format = $derived(drawing.openFormat);
  const users = $derived(drawing.sheets.filter((s) => s.format === format?.id).length);
</script>

{#if format}
  <div class="bar" role="status">
    <b>Sheet format “{format.name}”</b>
    <span>{users === 0 ? 'No sheet lies on it.' : users === 1 ? 'One sheet follows.' : `${users} sheets follow.`}</span>
    <button class="q-button" onclick={() => (tools.formats = true)}>Keep, put on sheets …</button>
    <button class="q-button main" onclick={() => leaveFormat(drawing)}>Back to the sheets</button>
  </div>
{/if}

<style>
  .bar {
    flex: none;
    display: flex;
    align-items: center;
    gap: 0.7rem;
    min-height: 40px;
    padding: 0.3rem 0.8rem;
    border-bottom: 1px solid var(--ochre);
    background: var(--ochre-soft);
    font-size: 0.92rem;
  }
  span {
    flex: 1;
  }
</style>
