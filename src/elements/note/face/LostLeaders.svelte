<script lang="ts">
  import type { RecordOf } from '$core/document/records';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { lostLeaders } from '../../leader';
  import { leadersInstead } from '../../reattach';

  const { drawing, record }: { drawing: Drawing; record: RecordOf<'note'> | RecordOf<'sign'> } = $props();
  const lost = $derived(lostLeaders(record.leaders).length > 0);
  const instead = $derived(lost ? leadersInstead(record.leaders, drawing.scene.one('view', record.view), drawing.scene) : undefined);
</script>

{#if lost}
  <p class="trouble" role="status">What it points at has another shape now{instead ? '.' : ': drag its leader to the new place.'}</p>
  {#if instead}
    <p class="q-row">
      <button class="q-button" onclick={() => drawing.edit('Hold on anew', [{ op: 'put', record: { ...record, leaders: instead } }])}>
        Point at what is there now
      </button>
    </p>
  {/if}
{/if}

<style>
  .trouble {
    color: var(--trouble);
  }
</style>
