<script lang="ts">
  import { drawingOf, type ViewRecord } from '$core/document/records';
  import { scaleText, standardScales } from '$core/sheet/paper';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { scaledTogether } from '../scale';

  const { drawing, records }: { drawing: Drawing; records: readonly ViewRecord[] } = $props();

  const scales = $derived(standardScales(drawingOf(drawing.document).standard));
  const scale = $derived(records.every((v) => Math.abs(v.scale - records[0]!.scale) < 1e-9) ? records[0]!.scale : undefined);
  const setScale = (to: number) =>
    drawing.edit(
      `Scale ${scaleText(to)}`,
      scaledTogether(
        drawing.document,
        records.map((v) => v.id),
        to,
      ),
    );
  const set = (key: 'hidden' | 'tangent' | 'shaded' | 'label', label: string, on: boolean) =>
    drawing.edit(
      `${label} ${on ? 'on' : 'off'}`,
      records.map((v) => ({ op: 'put', record: { ...v, [key]: on } })),
    );
  const FLAGS = [
    ['hidden', 'Hidden lines'],
    ['tangent', 'Tangent edges'],
    ['shaded', 'Shaded'],
    ['label', 'Label'],
  ] as const;
</script>

<p class="q-caption"><label for="common-scale">Scale of all</label></p>
<select id="common-scale" class="q-field" value={scale === undefined ? '' : String(scale)} onchange={(e) => setScale(Number(e.currentTarget.value))}>
  {#if scale === undefined}<option value="" disabled>different</option>{:else if !scales.includes(scale)}<option value={String(scale)}
      >{scaleText(scale)}</option
    >{/if}
  {#each scales as s (s)}<option value={String(s)}>{scaleText(s)}</option>{/each}
</select>
{#each FLAGS as [key, label] (key)}
  {@const on = records.filter((v) => v[key]).length}
  <Toggle label="{label}{on && on < records.length ? ' (some)' : ''}" checked={on === records.length} onchange={(v) => set(key, label, v)} />
{/each}
