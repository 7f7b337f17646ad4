<script lang="ts">
  import { kindOf, type ElementRecord } from '$elements/kinds';
  import { boxOf, movedTogether } from '$elements/together';
  import type { Drawing } from '../shared/drawing.svelte';
  import { lengthsOf } from '../shared/lengths';
  import { notify } from '../shared/notices.svelte';
  import TextField from '../shared/TextField.svelte';

  /** Where an element stands, typed: its middle on the sheet. */
  const { drawing, record }: { drawing: Drawing; record: ElementRecord } = $props();
  const box = $derived(boxOf(drawing.scene, record));
  const middle = $derived(box && ([box.x + box.width / 2, box.y + box.height / 2] as const));
  const lengths = $derived(lengthsOf(drawing.scene));
  const text = (mm: number) => lengths.text(Math.round(mm * 100) / 100);

  function put(k: 0 | 1, typed: string) {
    const mm = lengths.mm(typed);
    if (!middle || !Number.isFinite(mm) || Math.abs(mm) > 10_000) {
      notify('trouble', `“${typed}” is no place on a sheet: give ${lengths.unit === 'in' ? 'inches' : 'millimetres'} from its upper left corner.`);
      return;
    }
    const by = mm - middle[k];
    drawing.edit(`Move ${kindOf(record).title}`, movedTogether(drawing.scene, [record.id], k === 0 ? [by, 0] : [0, by]));
  }
</script>

{#if middle && kindOf(record).drag}
  <div class="place">
    <TextField label="From the left, {lengths.unit}" value={text(middle[0])} onchange={(v) => put(0, v)} />
    <TextField label="From the top, {lengths.unit}" value={text(middle[1])} onchange={(v) => put(1, v)} />
  </div>
{/if}

<style>
  .place {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.6rem;
    margin-top: 0.6rem;
  }
</style>
