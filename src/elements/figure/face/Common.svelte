<script lang="ts">
  import type { FigureRecord } from '$elements/figure/draw';
  import { mayTie, RELATIONS, tied, type Relation } from '$elements/figure/ties';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  const { drawing, records }: { drawing: Drawing; records: readonly FigureRecord[] } = $props();
  const [first, second] = $derived(records.length === 2 ? records : []);
  const relations = $derived((Object.keys(RELATIONS) as Relation[]).filter((r) => RELATIONS[r].needs !== 'nothing'));
  const may = (is: Relation) => first !== undefined && second !== undefined && mayTie(second, is, first);
  const set = (is: Relation) => first && second && drawing.edit(`${RELATIONS[is].name} to another line`, tied(drawing.scene, second, { is, to: first.id }));
</script>

{#if first && second}
  <p class="q-caption">The second to the first, and stays so</p>
  <p class="q-row" role="group" aria-label="Relation">
    {#each relations as is (is)}
      <button class="q-button" disabled={!may(is)} onclick={() => set(is)}>{RELATIONS[is].name}</button>
    {/each}
  </p>
{/if}
