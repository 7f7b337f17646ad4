<script lang="ts">
  import { without } from '$core/base/without';
  import { styleOf, textOf, valuesOf } from '$elements/dimension/draw';
  import { roundTargets, seenNow, toleranceFrom, toleranceText, withEnd, withStyle, withText } from '$elements/dimension/edit';
  import { awkwardText, awkwardValues, changedValues, nameOf, sourceOf } from '$elements/dimension/findings';
  import type { DimensionRecord } from '$elements/dimension/measure';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { dimensionInstead } from '../../reattach';
  import { isLost } from '../../target';
  import { againstStated, statedOf, statedText } from '../stated';
  import Chips from '$lib/shared/Chips.svelte';
  import type { DimensionTool } from './dimension-tool.svelte';
  import { KIND_NAMES } from './names';
  import SlipJob from './SlipJob.svelte';
  import UnitChips from './UnitChips.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: DimensionRecord } = $props();

  const scene = $derived(drawing.scene);
  const style = $derived(styleOf(record, scene));
  const values = $derived(valuesOf(record, scene));
  const lost = $derived(record.of.filter(isLost));
  const instead = $derived(lost.length ? dimensionInstead(record, scene) : []);
  const changed = $derived(changedValues(record, scene));
  const stated = $derived(statedOf(record, scene));
  const against = $derived(againstStated(record, '', scene));
  const ownText = $derived(stated ? statedText(stated) : {});
  const awkward = $derived(awkwardValues(record, scene));
  const said = $derived(awkwardText(record, scene));
  const rounds = $derived(roundTargets(record, scene));
  const put = (label: string, next: DimensionRecord) => drawing.edit(label, [{ op: 'put', record: next }]);

  function tolerate(typed: string) {
    const t = toleranceFrom(typed);
    if (t === undefined) notify('trouble', `“${typed}” is no tolerance. Write 0.2, +0.1 -0.05 or a class such as H7.`);
    else put('Tolerance', withText(record, { tolerance: t ?? undefined }));
  }
  function addTo() {
    const tool = tools.byNameOf('dimension') as DimensionTool | undefined;
    tools.take('dimension');
    tool?.addTo(record);
  }
  const END_NAMES = { near: 'nearer rim', far: 'farther rim' } as const;
</script>

<SlipHead
  title={textOf(record, scene) || 'Dimension'}
  subtitle="{KIND_NAMES[record.kind]} · {lost.length ? 'lost' : `true value, from ${sourceOf(record, scene)}`}"
/>
{#if stated}
  <p role="note">The model states this size itself.</p>
  {#if against.length}
    <p class="trouble" role="status">{against[0]!.text}</p>
    <p class="q-row"><button class="q-button" onclick={() => put('As the model states', withText(record, ownText))}>As the model states it</button></p>
  {/if}
{/if}
{#if lost.length}
  <p class="trouble" role="status">
    What it measured on {lost.map((t) => nameOf(t, scene)).join(' and ')} is gone.
    {instead.length ? 'There is now:' : 'Nothing like it is there now: press the new edges.'}
  </p>
  <p class="q-row">
    {#each instead as { record: next } (textOf(next, scene))}
      <button class="q-button" onclick={() => put('Hold on anew', next)}>Take {textOf(next, scene)}</button>
    {/each}
    <button class="q-button" onclick={() => tools.take('dimension')}>Dimension anew</button>
  </p>
{/if}
{#if changed.length}
  <p class="trouble" role="status">The value has changed.</p>
  <p class="q-row"><button class="q-button" onclick={() => put('Value seen', seenNow(record, scene))}>Seen</button></p>
{/if}
{#if awkward[0] && said}
  <p class="trouble" role="status">
    {said.value} cannot be set in the field: {said.instead} would be {said.off}. It comes from {sourceOf(record, scene)}.
  </p>
  <p class="q-row"><button class="q-button" onclick={() => put('Accept the value', { ...record, accepted: awkward[0]!.value })}>It is meant so</button></p>
{/if}
{#each rounds as i (i)}
  <Chips
    label="To {nameOf(record.of[i]!, scene)}"
    options={[
      ['near', END_NAMES.near],
      ['centre', 'centre'],
      ['far', END_NAMES.far],
    ]}
    value={record.of[i]!.as ?? 'centre'}
    onchange={(as) => put('End of the dimension', withEnd(record, i, as === 'centre' ? undefined : (as as 'near'), scene))}
  />
{/each}
<UnitChips label="Shown as" {style} onchange={(change) => put('Shown as', withStyle(record, change))} />
{#if style.unit !== 'mm' && style.fraction > 1}
  <Chips
    label="Fractions"
    options={[
      ['level', 'stacked'],
      ['slanted', 'slanted'],
      ['line', 'in line'],
    ]}
    value={style.stack}
    onchange={(stack) => put('Fractions', withStyle(record, { stack: stack as 'level' }))}
  />
  <Chips
    label="Height of a fraction's figures"
    options={[1, 0.8, 0.7, 0.6, 0.5].map((s) => [String(s), `${s * 100} %`] as const)}
    value={String(style.stackShare)}
    onchange={(share) => put('Height of fractions', withStyle(record, { stackShare: Number(share) }))}
  />
{:else}
  <Chips
    label="Decimals"
    options={['0', '1', '2', '3', '4', '5', '6'].map((d) => [d, d] as const)}
    value={String(style.decimals)}
    onchange={(d) => put('Decimals', withStyle(record, { decimals: Number(d) }))}
  />
  <Toggle label="Zeros at the end, 270.000" checked={style.zeros} onchange={(zeros) => put('Zeros at the end', withStyle(record, { zeros }))} />
{/if}
<TextField label="Tolerance: ±, limits or a fit" value={toleranceText(record.text?.tolerance)} onchange={tolerate} />
{#if record.text?.tolerance?.kind === 'fit'}
  {@const t = record.text.tolerance}
  <Chips
    label="Fit shown as"
    options={[
      ['class', 'class'],
      ['deviations', 'deviations'],
      ['both', 'both'],
    ]}
    value={t.shows}
    onchange={(shows) => put('Fit', withText(record, { tolerance: { ...t, shows: shows as 'both' } }))}
  />
{/if}
<Chips
  label="Form"
  options={[
    ['plain', 'plain'],
    ['reference', '(reference)'],
    ['basic', 'basic'],
    ['notToScale', 'not to scale'],
  ]}
  value={record.text?.form ?? 'plain'}
  onchange={(form) => put('Form of the dimension', withText(record, { form: form === 'plain' ? undefined : (form as 'basic') }))}
/>
<div class="pair">
  <TextField label="Before" value={record.text?.before ?? ''} onchange={(v) => put('Text before', withText(record, { before: v || undefined }))} />
  <TextField label="After" value={record.text?.after ?? ''} onchange={(v) => put('Text after', withText(record, { after: v || undefined }))} />
  <TextField label="Above" value={record.text?.above ?? ''} onchange={(v) => put('Text above', withText(record, { above: v || undefined }))} />
  <TextField label="Below" value={record.text?.below ?? ''} onchange={(v) => put('Text below', withText(record, { below: v || undefined }))} />
</div>
{#if record.text?.typed !== undefined}
  <p class="trouble">“{record.text.typed}” is written instead of the true value.</p>
  <p class="q-row"><button class="q-button" onclick={() => put('True value', withText(record, { typed: undefined }))}>Show the true value</button></p>
{/if}
<Chips
  label="Ends"
  options={[
    ['auto', 'as fits'],
    ['inside', 'inside'],
    ['outside', 'outside'],
  ]}
  value={record.arrows ?? 'auto'}
  onchange={(a) => {
    const rest = without(record, 'arrows');
    put('Arrows', a === 'auto' ? rest : { ...rest, arrows: a as 'inside' });
  }}
/>
<Chips
  label="Drawn with"
  options={[
    ['arrow', 'arrows'],
    ['open', 'open'],
    ['stroke', 'strokes'],
    ['dot', 'dots'],
  ]}
  value={style.arrows}
  onchange={(a) => put('Ends', withStyle(record, { arrows: a as 'dot' }))}
/>
{#if values.length > 0 && values[0]!.measured.shape === 'stretch' && !record.row}
  <Chips
    label="Half"
    options={[
      ['both', 'both ends'],
      ['first', 'last end only'],
      ['last', 'first end only'],
    ]}
    value={record.half ?? 'both'}
    onchange={(h) => {
      const rest = without(record, 'half');
      put('Half dimension', h === 'both' ? rest : { ...rest, half: h as 'first' });
    }}
  />
{/if}
<p class="q-row">
  {#if record.of.length > 1 && (record.kind === 'level' || record.kind === 'upright')}
    <button class="q-button" onclick={() => addTo()}>Add to it</button>
  {/if}
  <button class="q-button" onclick={() => tools.remove()}>Remove</button>
</p>
<SlipJob {drawing} />

<style>
  .trouble {
    color: var(--trouble);
  }
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
  }
</style>
