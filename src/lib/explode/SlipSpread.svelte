<script lang="ts">
  import { recordsOf } from '$core/document/records';
  import SlipHead from '../shared/SlipHead.svelte';
  import TextField from '../shared/TextField.svelte';
  import Toggle from '../shared/Toggle.svelte';
  import type { Explode } from './explode.svelte';
  import { duplicate, newSpread, removeSpread, showIn } from './spreads';

  const { explode }: { explode: Explode } = $props();
  const { drawing } = $derived(explode);
  const spread = $derived(explode.spread);
  const views = $derived(recordsOf(drawing.document, 'view').filter((v) => !v.cut));
  const query = $derived(`?spread=${encodeURIComponent(spread?.id ?? '')}`);
</script>

<SlipHead title={spread?.name ?? 'No spread'} subtitle="{spread?.pulls.length ?? 0} pulls" />
{#if spread}
  <TextField label="Name" value={spread.name} onchange={(name) => explode.put('Name of spread', { name })} />
  <Toggle label="Pull lines" checked={!spread.noLines} onchange={(on) => explode.put(on ? 'Pull lines on' : 'Pull lines off', { noLines: !on })} />
{/if}
<div class="q-row">
  <button class="q-button" onclick={() => newSpread(explode)}>New spread</button>
  <button class="q-button" disabled={!spread} onclick={() => duplicate(explode)}>Duplicate</button>
  <button class="q-button" disabled={!spread} onclick={() => removeSpread(explode)}>Remove</button>
</div>
{#if spread}
  <p class="q-caption gap">Take along</p>
  <div class="q-row">
    <a class="q-button" href="/api/jobs/{drawing.id}/files/apart.glb{query}" download>Animated model, GLB</a>
    <a class="q-button" href="/api/jobs/{drawing.id}/files/apart.html{query}" download>Page that plays it, HTML</a>
    <a class="q-button" href="/api/jobs/{drawing.id}/files/steps.zip{query}" download>Picture per step</a>
  </div>
  <p class="q-caption gap">Shown in</p>
  {#each views as v (v.id)}
    <Toggle
      label="{v.name}, sheet {drawing.sheets.findIndex((s) => s.id === v.sheet) + 1}"
      checked={v.spread === spread.id}
      onchange={(on) => showIn(explode, v, on)}
    />
  {/each}
{/if}

<style>
  .gap {
    margin-top: 0.6rem;
  }
</style>
