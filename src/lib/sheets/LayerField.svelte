<script lang="ts">
  import { ownLayer, ownLayers, putOnLayer } from '$elements/layers';
  import type { Drawing } from '../shared/drawing.svelte';

  /** On which layer the chosen elements lie: one of one's own by its name, or that of their kind. */
  const { drawing, ids }: { drawing: Drawing; ids: readonly string[] } = $props();
  const field = $props.id();
  const names = $derived([...new Set(ids.map((i) => ownLayer(drawing.scene, i) ?? ''))]);
  const value = $derived(names.length === 1 ? names[0]! : '');
  function put(typed: string) {
    const name = typed.trim().slice(0, 60);
    if (names.length === 1 && name === value) return;
    drawing.edit(name ? `On layer ${name}` : 'On the layer of its kind', putOnLayer(drawing.scene, ids, name || undefined));
  }
</script>

<label class="q-caption" for={field}>Layer of one’s own{names.length > 1 ? ' (several)' : ''}</label>
<input id={field} class="q-field last" list="{field}-list" {value} placeholder="that of its kind" onchange={(e) => put(e.currentTarget.value)} />
<datalist id="{field}-list"
  >{#each ownLayers(drawing.scene) as name (name)}<option value={name}></option>{/each}</datalist
>

<style>
  .last {
    margin-bottom: 0.9rem;
  }
</style>
