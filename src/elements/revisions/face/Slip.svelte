<script lang="ts">
  import { without } from '$core/base/without';
  import { revisionsOf, type RevisionsRecord } from '$elements/revisions/kind';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';

  const { drawing, record }: { drawing: Drawing; record: RevisionsRecord } = $props();
  const rows = $derived(revisionsOf(drawing.scene));
</script>

<SlipHead title="Revision table" subtitle="rows come with each issue; a double press changes what is said" />
<ol>
  {#each rows as r (r.id)}<li><b>{r.letter}</b> {r.text} <small>{r.date} {r.by}</small></li>{:else}<li>No revision was issued yet.</li>{/each}
</ol>
{#if record.at}
  <p>
    <button class="q-button" onclick={() => drawing.edit('Revision table docked', [{ op: 'put', record: without(record, 'at') as RevisionsRecord }])}
      >Dock it beside the title block</button
    >
  </p>
{/if}

<style>
  li {
    margin: 0.3rem 0;
  }
</style>
