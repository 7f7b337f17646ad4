<script lang="ts">
  import { drawingOf } from '$core/document/records';
  import { mmPerUnit, sizeOf, sizeText, unitChoices, unlikelySize } from '$core/assembly/units';
  import { call, type ApiFailure } from './api';
  import type { Drawing } from './drawing.svelte';
  import { notify } from './notices.svelte';

  /** Asks by itself only when the size is unlikely and nobody has answered; otherwise offers a change. */
  const { drawing, ask }: { drawing: Drawing; ask: boolean } = $props();
  const now = $derived(mmPerUnit(drawing.assembly.unit) ?? 1);
  const size = $derived(sizeOf(drawing.assembly));
  const unlikely = $derived(unlikelySize(drawing.assembly));
  const asked = $derived(unlikely !== undefined && drawingOf(drawing.document).unit === undefined);
  const choices = $derived(unitChoices(size.map((v) => v / now)));
  let busy = $state(false);

  async function choose(unit: string) {
    busy = true;
    try {
      await call(`/api/jobs/${drawing.id}/unit`, { method: 'PUT', body: { version: drawing.version, unit } });
    } catch (e) {
      notify('trouble', (e as ApiFailure).message);
    } finally {
      busy = false;
    }
  }
</script>

{#if !ask || asked}
  <div class="unit" class:asked={ask} role="group" aria-label="Unit of the file">
    {#if ask}
      <p>
        <b>The whole would be {sizeText(size)}.</b>
        {#if busy}Drawing it in the other unit …{:else}Does the file mean {choices.find((c) => c.unitMm === now)?.plural ?? drawing.assembly.unit}?{/if}
      </p>
    {/if}
    <div class="choices">
      {#each choices.filter((c) => c.unitMm !== now) as c, i (c.unit)}
        <button class="q-button" class:main={ask && i === 0} disabled={busy || !drawing.kept} onclick={() => void choose(c.unit)}>
          {c.plural}: {sizeText(c.sizeMm)}
        </button>
      {/each}
      {#if ask}<button class="q-button" disabled={busy || !drawing.kept} onclick={() => void choose(drawing.assembly.unit)}>It is right</button>{/if}
    </div>
  </div>
{/if}

<style>
  .asked {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.4rem 0.8rem;
    padding: 0.5rem 0.9rem;
    background: var(--ochre-soft);
  }
  .choices {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem;
    margin-top: 0.3rem;
  }
  .asked .choices {
    margin-top: 0;
  }
</style>
