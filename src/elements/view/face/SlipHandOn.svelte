<script lang="ts">
  import type { ViewRecord } from '$core/document/records';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { SETTINGS, settingsOn, type SettingsGroup } from '../settings';

  const { drawing, view }: { drawing: Drawing; view: ViewRecord } = $props();

  let groups = $state<SettingsGroup[]>(['lines', 'shading']);
  let targets = $state<string[]>([]);
  const others = $derived(drawing.sheets.flatMap((s, n) => drawing.scene.viewsOn(s.id).flatMap((v) => (v.id === view.id ? [] : [{ view: v, sheet: n + 1 }]))));
  function run() {
    drawing.edit(
      `Settings of ${view.name} put on ${targets.length === 1 ? 'one view' : `${targets.length} views`}`,
      settingsOn(drawing.scene, view, targets, groups),
    );
    targets = [];
  }
</script>

<p class="q-caption">Which settings</p>
{#each Object.entries(SETTINGS) as [key, title] (key)}<label><input type="checkbox" value={key} bind:group={groups} /> {title}</label>{/each}
<p class="q-caption">On which views</p>
{#each others as o (o.view.id)}<label><input type="checkbox" value={o.view.id} bind:group={targets} /> {o.view.name}, sheet {o.sheet}</label>{/each}
<p><button class="q-button" disabled={!targets.length || !groups.length} onclick={run}>Put on {targets.length || 'them'}</button></p>

<style>
  label {
    display: flex;
    gap: 0.4rem;
    min-height: 24px;
    align-items: center;
  }
</style>
