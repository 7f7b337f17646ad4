<script lang="ts">
  import type { Look } from '../shared/Stage3d.svelte';
  import type { Explode } from './explode.svelte';
  import PaperCard from './PaperCard.svelte';
  import SlipPicked from './SlipPicked.svelte';
  import SlipPull from './SlipPull.svelte';
  import SlipSpread from './SlipSpread.svelte';

  const { explode, look }: { explode: Explode; look: Look | undefined } = $props();
</script>

{#if explode.pull && explode.active !== undefined}<SlipPull {explode} {look} pull={explode.pull} i={explode.active} />
{:else if explode.chosen.size}<SlipPicked {explode} {look} />
{:else}<SlipSpread {explode} />{/if}
<hr />
<PaperCard {explode} {look} />

<style>
  hr {
    margin: 0.7rem 0;
    border-color: var(--line);
  }
</style>
