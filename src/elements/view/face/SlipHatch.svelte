<script lang="ts">
  import type { ViewRecord } from '$core/document/records';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { hatchedEverywhere, withHatch, type Hatch } from '../hatch';

  interface Props {
    drawing: Drawing;
    view: ViewRecord;
    /** Components of one item. */
    paths: readonly string[];
    title: string;
  }
  const { drawing, view, paths, title }: Props = $props();

  const own = $derived<Hatch>(view.hatch?.find((h) => paths.some((p) => h.of.includes(p))) ?? {});
  const PATTERNS = [
    ['', 'by its material'],
    ['metal', 'general'],
    ['plastic', 'plastics, rubber'],
    ['wood', 'wood'],
    ['glass', 'glass'],
    ['filled', 'filled'],
    ['none', 'none'],
  ] as const;
  const degrees = 180 / Math.PI;
  const put = (change: Hatch) => drawing.edit(`Hatching of ${title}`, [{ op: 'put', record: withHatch(view, paths, { ...own, ...change }) }]);
  const number = (t: string) => (t.trim() === '' ? undefined : Number(t.replace(',', '.')));
  function angle(t: string) {
    const v = number(t);
    if (v === undefined || Number.isFinite(v)) put({ angle: v === undefined ? undefined : (v % 360) / degrees });
  }
  function spacing(t: string) {
    const v = number(t);
    if (v === undefined || (v >= 0.5 && v <= 30)) put({ spacingMm: v });
  }
</script>

<p class="q-caption">Hatching of {title}</p>
<select
  class="q-field"
  aria-label="Pattern of {title}"
  value={own.pattern ?? ''}
  onchange={(e) => put({ pattern: (e.currentTarget.value || undefined) as Hatch['pattern'] })}
>
  {#each PATTERNS as [value, text] (value)}<option {value}>{text}</option>{/each}
</select>
<div class="pair">
  <TextField label="Slope, °" value={own.angle === undefined ? '' : String(Math.round(own.angle * degrees * 10) / 10)} onchange={angle} />
  <TextField label="Spacing, mm" value={own.spacingMm === undefined ? '' : String(own.spacingMm)} onchange={spacing} />
</div>
<p>
  <button class="q-button" onclick={() => drawing.edit(`Hatching of ${title} everywhere`, hatchedEverywhere(drawing.scene, paths, own))}
    >So in every view</button
  >
</p>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.6rem;
  }
</style>
