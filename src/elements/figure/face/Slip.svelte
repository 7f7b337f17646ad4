<script lang="ts">
  import { without } from '$core/base/without';
  import type { FigureRecord } from '$elements/figure/draw';
  import { RELATIONS, tied, tiedPoints } from '$elements/figure/ties';
  import Chips from '$lib/shared/Chips.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: FigureRecord } = $props();
  const put = (label: string, next: FigureRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  /** The line stays as it is drawn, and is free. */
  function takeOff(index: number) {
    const ties = (record.ties ?? []).filter((_, i) => i !== index);
    const points = tiedPoints(record, drawing.scene);
    put('Take a relation off', ties.length ? { ...record, points, ties } : without({ ...record, points }, 'ties'));
  }
  const NAMES = { line: 'Line', rectangle: 'Rectangle', circle: 'Circle', arc: 'Arc', curve: 'Curve' } as const;
</script>

<SlipHead title={NAMES[record.shape]} subtitle="Ends that meet stay together: pull a ring" />
<Toggle label="Wide" checked={record.wide ?? false} onchange={(on) => put('Width of the line', on ? { ...record, wide: true } : without(record, 'wide'))} />
<Chips
  label="Line"
  options={[
    ['plain', 'plain'],
    ['dashed', 'dashed'],
    ['chain', 'chain'],
    ['phantom', 'double chain'],
  ]}
  value={record.dash ?? 'plain'}
  onchange={(dash) => put('Kind of line', dash === 'plain' ? without(record, 'dash') : { ...record, dash: dash as 'chain' })}
/>
{#if record.shape === 'line' || record.ties}
  <p class="q-caption">Stays</p>
  <p class="q-row">
    {#if record.shape === 'line'}
      <button class="q-button" onclick={() => drawing.edit('Level', tied(drawing.scene, record, { is: 'level' }))}>Level</button>
      <button class="q-button" onclick={() => drawing.edit('Upright', tied(drawing.scene, record, { is: 'upright' }))}>Upright</button>
      <button class="q-button" onclick={() => tools.take('figure-tie')}>By an edge …</button>
    {/if}
  </p>
  <ul aria-label="Relations">
    {#each record.ties ?? [] as tie, i (i)}
      <li>
        {RELATIONS[tie.is].sign}
        {RELATIONS[tie.is].name}{tie.on ? ' to an edge' : tie.to ? ' to another line' : ''}
        <button class="q-link" aria-label="Take “{RELATIONS[tie.is].name}” off" onclick={() => takeOff(i)}>×</button>
      </li>
    {/each}
  </ul>
{/if}
<p class="q-row">
  <label class="q-caption"
    >Colour <input type="color" value={record.color ?? '#000000'} onchange={(e) => put('Colour', { ...record, color: e.currentTarget.value })} /></label
  >
  {#if record.color}<button class="q-button" onclick={() => put('Colour', without(record, 'color'))}>Black</button>{/if}
  <button class="q-button" onclick={() => tools.remove()}>Remove</button>
</p>
