<script lang="ts">
  import { faceOf } from '$elements/faces';
  import { kindOf, type ElementRecord } from '$elements/kinds';
  import {
    AlignCenterHorizontal,
    AlignCenterVertical,
    AlignEndHorizontal,
    AlignEndVertical,
    AlignHorizontalSpaceBetween,
    AlignStartHorizontal,
    AlignStartVertical,
    AlignVerticalSpaceBetween,
  } from '@lucide/svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import SlipHead from '../shared/SlipHead.svelte';
  import LayerField from './LayerField.svelte';
  import { actionsOf } from './actions';
  import type { Tools } from './tools.svelte';

  const { drawing, tools, records }: { drawing: Drawing; tools: Tools; records: readonly ElementRecord[] } = $props();

  const counted = $derived.by(() => {
    const out = new Map<string, number>();
    for (const r of records) out.set(kindOf(r).title, (out.get(kindOf(r).title) ?? 0) + 1);
    return [...out].map(([title, n]) => `${n} ${title}${n > 1 ? 's' : ''}`).join(', ');
  });
  const actions = $derived(new Map(actionsOf(drawing, tools).map((a) => [a.id, a])));
  const BUTTONS = [
    ['align-left', AlignStartVertical],
    ['align-centre', AlignCenterVertical],
    ['align-right', AlignEndVertical],
    ['spread-across', AlignHorizontalSpaceBetween],
    ['align-top', AlignStartHorizontal],
    ['align-middle', AlignCenterHorizontal],
    ['align-bottom', AlignEndHorizontal],
    ['spread-down', AlignVerticalSpaceBetween],
  ] as const;
  /** What several of one kind have in common. */
  const Common = $derived(records.every((r) => r.type === records[0]!.type) ? faceOf(records[0]!).common : undefined);
</script>

<SlipHead title="{records.length} elements" subtitle={counted} />
<div class="grid" role="group" aria-label="Bring into line">
  {#each BUTTONS as [id, Icon] (id)}
    {@const a = actions.get(id)!}
    <button class="q-button" onclick={a.run} disabled={a.disabled} aria-label={a.label} title={a.label}><Icon size={18} /></button>
  {/each}
</div>
<LayerField {drawing} ids={records.map((r) => r.id)} />
{#if Common}<Common {drawing} {records} />{/if}
<p class="q-row">
  {#each ['cut', 'copy', 'duplicate', 'to-next', 'to-new', 'remove'] as id (id)}
    {@const a = actions.get(id)!}
    <button class="q-button" onclick={a.run} disabled={a.disabled}>{a.label}</button>
  {/each}
</p>

<style>
  .grid {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 4px;
    margin-bottom: 0.8rem;
  }
  .grid button {
    justify-content: center;
    padding: 0;
  }
</style>
