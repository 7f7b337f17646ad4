<script lang="ts">
  import { KIND_LAYERS } from '$core/picture/layers';
  import { layersOff, ownLayers, switchLayer } from '$elements/layers';
  import Fold from '$lib/kit/Fold.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  const { drawing }: { drawing: Drawing } = $props();
  const off = $derived(new Set(layersOff(drawing.scene)));
  const names = $derived([...KIND_LAYERS, ...ownLayers(drawing.scene)]);
</script>

<Fold title="Layers" folded>
  <p class="q-caption">Of the whole drawing. What is off is not printed.</p>
  {#each names as name (name)}
    <Toggle label={name} checked={!off.has(name)} onchange={(on) => drawing.edit(`Layer ${name} ${on ? 'on' : 'off'}`, switchLayer(drawing.scene, name, on))} />
  {/each}
</Fold>
