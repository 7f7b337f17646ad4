<script lang="ts">
  import type { ViewRecord } from '$core/document/records';
  import type { ViewFrame } from '$core/outline/directions';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { arrangeAnew } from '$lib/shared/balloons';
  import { redirected } from '../settings';
  import DirectionChoice from './DirectionChoice.svelte';

  const { drawing, view }: { drawing: Drawing; view: ViewRecord } = $props();

  let wanted = $state.raw<{ readonly of: string; readonly title: string; readonly frame: ViewFrame } | undefined>(undefined);
  const chosen = $derived(wanted?.of === view.id ? wanted : undefined);
  function apply() {
    if (!chosen) return;
    const { title, frame } = chosen;
    const had = drawing.scene.all('balloon').some((b) => b.view === view.id);
    drawing.edit(`See ${view.name} from elsewhere`, [{ op: 'put', record: { ...redirected(drawing.scene, view, frame), name: title } }]);
    wanted = undefined;
    // Leaders are aimed again as soon as its lines are there; what shows no edge any more is among the findings.
    if (had) void arrangeAnew(drawing, view.id);
  }
</script>

<DirectionChoice {drawing} frame={chosen?.frame ?? view} onchange={(title, frame) => (wanted = { of: view.id, title, frame })} />
<p class="q-row">
  <button class="q-button" disabled={!chosen} onclick={apply}>See it from there</button>
  {#if chosen}<button class="q-button" onclick={() => (wanted = undefined)}>Leave it</button>{/if}
</p>
