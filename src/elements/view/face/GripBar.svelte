<script lang="ts">
  import { scaleView } from '$core/document/moves';
  import { drawingOf, type ViewRecord } from '$core/document/records';
  import { scaleText, standardScales } from '$core/sheet/paper';
  import { Minus, Plus } from '@lucide/svelte';
  import { identifyAll } from '../../balloon/face/actions';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  const { drawing, record: view, x, y, width }: { drawing: Drawing; record: ViewRecord; x: number; y: number; width: number } = $props();

  const scales = $derived(standardScales(drawingOf(drawing.document).standard));
  const larger = $derived([...scales].reverse().find((s) => s > view.scale * 1.001));
  const smaller = $derived(scales.find((s) => s < view.scale * 0.999));
  const setScale = (s: number | undefined) => s && drawing.edit(`Scale ${scaleText(s)}`, scaleView(drawing.document, view.id, s));
  const toggle = (key: 'hidden' | 'tangent' | 'shaded' | 'label', label: string) =>
    drawing.edit(`${label} ${view[key] ? 'off' : 'on'}`, [{ op: 'put', record: { ...view, [key]: !view[key] } }]);
</script>

<div class="grip" role="toolbar" aria-label="{view.name}: view" style="left: {Math.min(width - 215, Math.max(215, x))}px; top: {Math.max(4, y - 54)}px">
  <button onclick={() => setScale(smaller)} disabled={!smaller} aria-label="Smaller scale" title="Smaller scale"><Minus size={14} /></button>
  <span>{scaleText(view.scale)}</span>
  <button onclick={() => setScale(larger)} disabled={!larger} aria-label="Larger scale" title="Larger scale"><Plus size={14} /></button>
  <button aria-pressed={view.hidden} onclick={() => toggle('hidden', 'Hidden lines')}>Hidden</button>
  <button aria-pressed={view.tangent} onclick={() => toggle('tangent', 'Tangent edges')}>Tangent</button>
  <button aria-pressed={view.shaded} onclick={() => toggle('shaded', 'Shading')}>Shaded</button>
  <button aria-pressed={view.label} onclick={() => toggle('label', 'Label')}>Label</button>
  <button onclick={() => identifyAll(drawing, view)} aria-label="Balloons for all in this view" title="Balloons for all in this view (I)">Balloons</button>
</div>

<style>
  .grip {
    position: absolute;
    transform: translateX(-50%);
    display: flex;
    align-items: center;
    gap: 1px;
    padding: 2px 8px;
    border-radius: 999px;
    background: #12707a;
    color: #fff;
    font-size: 0.85rem;
    white-space: nowrap;
    box-shadow: 0 1px 4px rgb(0 0 0 / 0.25);
  }
  button {
    min-height: 26px;
    padding: 0 8px;
    border-radius: 999px;
    color: inherit;
    cursor: pointer;
  }
  button:hover:not(:disabled) {
    background: rgb(255 255 255 / 0.16);
  }
  button:disabled {
    opacity: 0.45;
  }
  button[aria-pressed='true'] {
    background: #fff;
    color: #0b5058;
    font-weight: 600;
  }
  button:focus-visible {
    outline-color: #fff;
  }
</style>
