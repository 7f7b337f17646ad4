<script lang="ts">
  import SlipHead from '../shared/SlipHead.svelte';
  import type { Look } from '../shared/Stage3d.svelte';
  import Toggle from '../shared/Toggle.svelte';
  import DirectionChoice from './DirectionChoice.svelte';
  import type { Explode } from './explode.svelte';
  import { plan } from './planning';
  import { addPull, holdTogether, showLines } from './pull-edits';

  const { explode, look }: { explode: Explode; look: Look | undefined } = $props();
  const n = $derived(explode.chosen.size);
  const paths = $derived(explode.paths(explode.chosen));
  const names = $derived([...new Set([...explode.chosen].map((c) => explode.label(c)))].slice(0, 2).join(', '));
</script>

<SlipHead title="{n} {n === 1 ? 'part' : 'parts'} picked" subtitle={names} />
<p class="q-caption">Pick more</p>
<div class="q-row">
  <button class="q-button" onclick={() => explode.grow('item')}>All of the item</button>
  <button class="q-button" onclick={() => explode.grow('up')}>Sub-assembly</button>
  <button class="q-button" onclick={() => explode.grow('fastened')}>What fastens it</button>
</div>
<p class="q-caption">Pull along</p>
<DirectionChoice {explode} {look} direction={explode.direction} onaim={(d) => ((explode.direction = d), (explode.aimed = true))} />
<div class="q-row">
  <button class="q-button main" onclick={() => void addPull(explode)}>Pull</button>
  <button class="q-button" onclick={() => void plan(explode, 'chosen')}>Plan these</button>
  <button class="q-button" onclick={() => holdTogether(explode)}>Hold together</button>
</div>
{#if explode.spread}<Toggle
    label="Pull lines of these"
    checked={!paths.every((p) => explode.spread?.linesOff?.includes(p))}
    onchange={(on) => showLines(explode, paths, on)}
  />{/if}
