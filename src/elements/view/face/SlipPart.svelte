<script lang="ts">
  import { without } from '$core/base/without';
  import type { ViewRecord } from '$core/document/records';
  import { GAP_MM } from '$core/views/view-map';
  import Choice from '$lib/kit/Choice.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { lengthsOf } from '$lib/shared/lengths';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { halved, type Half } from '../settings';
  import { suggestGap } from '../interrupt';

  const { drawing, tools, view }: { drawing: Drawing; tools: Tools; view: ViewRecord } = $props();

  const put = (label: string, record: ViewRecord) => drawing.edit(label, [{ op: 'put', record }]);
  const lengths = $derived(lengthsOf(drawing.scene));
  const numberOf = (text: string) => lengths.mm(text);
  const whole = $derived(drawing.scene.whole(view.id));
  const HALVES: readonly (readonly [Half, string])[] = [
    ['left', 'Left'],
    ['right', 'Right'],
    ['upper', 'Upper'],
    ['lower', 'Lower'],
  ];
  const BORDERS = [
    ['break', 'Break'],
    ['line', 'Line'],
    ['symmetry', 'Signs'],
    ['none', 'None'],
  ] as const;
  const BREAKS = [
    ['free', 'Free-hand'],
    ['zigzag', 'Zigzag'],
    ['round', 'Round bar'],
  ] as const;
  const border = $derived(view.border ?? (view.detail ? 'line' : 'break'));

  function letter(text: string) {
    const wanted = text.trim().toUpperCase();
    if (!view.detail || !wanted || wanted.length > 4) return;
    put(`Letter ${wanted}`, {
      ...view,
      name: view.name === `Detail ${view.detail.letter}` ? `Detail ${wanted}` : view.name,
      detail: { ...view.detail, letter: wanted },
    });
  }
  function width(text: string) {
    const mm = numberOf(text);
    if (mm >= 2 && mm <= 10) put(`Gap of ${text} ${lengths.unit} on paper`, { ...view, gapMm: mm });
    else notify('trouble', `A gap is seen on paper with ${lengths.text(2)} to ${lengths.text(10)} ${lengths.unit}.`);
  }
  function suggest() {
    const result = drawing.scene.result(view.id);
    const found = result && (['x', 'y'] as const).map((axis) => suggestGap(result, axis)).find(Boolean);
    if (found) put('Interrupt the view', { ...view, gaps: [...(view.gaps ?? []), found] });
    else notify('trouble', 'No stretch of this view stays the same long enough. Draw the gap with the tool.');
  }
  function moveGap(i: number, end: 'from' | 'to', text: string) {
    const v = numberOf(text);
    const gaps = view.gaps!.map((g, k) => (k === i ? { ...g, [end]: v } : g));
    if (Number.isFinite(v) && gaps[i]!.to > gaps[i]!.from) put('Move the gap', { ...view, gaps });
    else notify('trouble', 'A gap ends after it begins.');
  }
  const removeGap = (i: number) => {
    const gaps = view.gaps!.filter((_, k) => k !== i);
    put('Close the gap', gaps.length ? { ...view, gaps } : without(view, 'gaps', 'gapMm', 'breaks'));
  };
</script>

{#if view.detail}
  <TextField label="Letter" value={view.detail.letter} onchange={letter} />
{/if}
{#if view.within}
  <Choice label="Border" options={BORDERS} value={border} onchange={(b) => put('Border', { ...view, border: b })} />
  {#if !view.detail}<p>
      <button class="q-button" onclick={() => put('Show the whole view', without(view, 'within', 'border'))}>Show the whole view</button>
    </p>{/if}
{:else}
  <p class="q-row"><button class="q-button" onclick={() => tools.take('partial')}>Only a part …</button></p>
{/if}
{#if whole && !view.detail && (!view.within || border === 'symmetry')}
  <p class="q-caption">Half of a symmetric view</p>
  <p class="q-row">
    {#each HALVES as [half, title] (half)}<button class="q-button" onclick={() => put(`${title} half`, halved(view, whole, half))}>{title}</button>{/each}
  </p>
{/if}
<p class="q-caption">Interrupted</p>
<p class="q-row">
  <button class="q-button" onclick={() => tools.take('interrupt')}>Draw a gap …</button>
  <button class="q-button" onclick={suggest}>Suggest one</button>
</p>
{#if view.gaps}
  <Choice
    label="Break lines"
    options={BREAKS}
    value={view.breaks ?? 'free'}
    onchange={(b) => put('Break lines', b === 'free' ? without(view, 'breaks') : { ...view, breaks: b })}
  />
  <TextField label="Seen of a gap, {lengths.unit} on paper" value={lengths.text(view.gapMm ?? GAP_MM)} onchange={width} />
  {#each view.gaps as g, i (i)}
    <div class="gap">
      <TextField label="{g.axis === 'x' ? 'Upright' : 'Level'} from, {lengths.unit}" value={lengths.text(g.from)} onchange={(v) => moveGap(i, 'from', v)} />
      <TextField label="to, {lengths.unit}" value={lengths.text(g.to)} onchange={(v) => moveGap(i, 'to', v)} />
      <button class="q-button" onclick={() => removeGap(i)}>Close</button>
    </div>
  {/each}
{/if}

<style>
  .gap {
    display: grid;
    grid-template-columns: 1fr 1fr auto;
    gap: 0.4rem;
    align-items: end;
    margin-bottom: 0.3rem;
  }
</style>
