<script lang="ts">
  import Chips from '$lib/shared/Chips.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tool } from '$lib/sheets/tool';
  import type { ThreadTool } from './thread-tool.svelte';

  const { drawing, tool: given }: { drawing: Drawing; tool: Tool } = $props();
  const tool = $derived(given as ThreadTool);
  const id = $props.id();
  const name = $derived(tool.on ? (drawing.scene.itemOf(tool.on.component)?.values.description.text ?? '') : '');
  const FROM = { helix: 'modelled', cylinders: 'recognised by its diameters', name: 'recognised by its name', hand: 'set by hand' } as const;
  let length = $state('');
  /** Of equal holes usually all have the thread. */
  let all = $state(true);

  function set(designation: string) {
    const mm = length.trim() === '' ? undefined : Number(length.replace(',', '.'));
    if (mm !== undefined && !(mm > 0)) notify('trouble', `“${length}” is no length in millimetres.`);
    else if (!tool.set(designation.trim(), mm, all)) notify('trouble', `“${designation}” is no thread. Write M8, M10 × 1.25 or 1/2-13 UNC; LH for left hand.`);
  }
</script>

<SlipHead
  title="Screw thread"
  subtitle={tool.on ? `${name} · Ø${Math.round(tool.on.diameterMm * 1000) / 1000}` : 'Press a cylinder: its outline, or its circle'}
/>
{#if tool.on}
  <p>{tool.thread ? `${tool.thread.designation}, ${FROM[tool.thread.from]}` : 'No thread'}</p>
  <Chips label="As wide as" options={tool.fitting.map((d) => [d, d] as const)} value={tool.thread?.designation ?? ''} onchange={set} />
  <label class="q-caption" for="{id}-thread">Designation</label>
  <input id="{id}-thread" class="q-field" placeholder="M8" value={tool.thread?.designation ?? ''} onchange={(e) => set(e.currentTarget.value)} />
  <label class="q-caption" for="{id}-length">Length from the end, mm; empty: all of it</label>
  <input id="{id}-length" class="q-field" bind:value={length} onchange={() => tool.thread && set(tool.thread.designation)} />
  {#if tool.alike.length > 1}
    <label class="q-row"><input type="checkbox" bind:checked={all} /> All {tool.alike.length} holes like it</label>
  {/if}
  <p class="q-row"><button class="q-button" disabled={!tool.thread} onclick={() => set('')}>No thread here</button></p>
{/if}
