<script lang="ts">
  import { scaleView } from '$core/document/moves';
  import { drawingOf, type ViewRecord } from '$core/document/records';
  import { SEEN_MM2, visibleOnPaper } from '$core/proof/coverage';
  import { scaleText, standardScales } from '$core/sheet/paper';
  import { scaleFrom } from '$core/sheet/scale-text';
  import { lengthsOf } from '$lib/shared/lengths';
  import { notify, offer } from '$lib/shared/notices.svelte';
  import SlipDirection from './SlipDirection.svelte';
  import SlipHandOn from './SlipHandOn.svelte';
  import SlipPart from './SlipPart.svelte';
  import SlipShows from './SlipShows.svelte';
  import { broughtInLine, projectedFrom, projectedSide } from '$elements/view/in-line';
  import { without } from '$core/base/without';
  import Choice from '$lib/kit/Choice.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Fold from '$lib/kit/Fold.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import { arrangeAnew } from '$lib/shared/balloons';
  import { setParallel, identify, putRail } from '../../balloon/face/actions';
  import { RAIL_NAMES, type Rail } from '../../balloon/rail';
  import { addView } from './actions';
  import { boxFromParts } from '$elements/view/extent';
  import { largestFor } from '$elements/view/scale';
  import SlipSection from './SlipSection.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record: view }: { drawing: Drawing; tools: Tools; record: ViewRecord } = $props();
  const id = $props.id();

  const scales = $derived(standardScales(drawingOf(drawing.document).standard));
  const near = $derived.by(() => {
    const i = scales.findIndex((s) => s <= view.scale * 1.001);
    return scales.slice(Math.max(0, i - 2), Math.max(0, i - 2) + 5);
  });
  const put = (label: string, change: Partial<ViewRecord>) => drawing.edit(label, [{ op: 'put', record: { ...view, ...change } }]);
  const setScale = (s: number) => drawing.edit(`Scale ${scaleText(s)}`, scaleView(drawing.document, view.id, s));
  function custom(text: string) {
    const s = scaleFrom(text);
    if (s) setScale(s);
    else notify('trouble', 'Write a scale such as 1:5, 0.7:1 or 3/8.');
  }

  const lengths = $derived(lengthsOf(drawing.scene));
  const setFlag = (key: 'flat' | 'colorByItem', label: string, on: boolean) =>
    drawing.edit(`${label} ${on ? 'on' : 'off'}`, [{ op: 'put', record: on ? { ...view, [key]: true } : without(view, key) }]);
  function thin(text: string) {
    const mm = lengths.mm(text);
    if (text.trim() === '') drawing.edit('Lines: all', [{ op: 'put', record: without(view, 'thinMm') }]);
    else if (mm >= 0 && mm <= 10) put(`Thin out lines closer than ${text} ${lengths.unit}`, { thinMm: mm });
  }
  function hiddenWithin(text: string) {
    const mm = lengths.mm(text);
    if (text.trim() === '') drawing.edit('Hidden lines: all', [{ op: 'put', record: without(view, 'hiddenWithinMm') }]);
    else if (mm > 0 && Number.isFinite(mm)) put(`Hidden lines to ${text} ${lengths.unit}`, { hiddenWithinMm: mm });
  }
  const spreads = $derived(drawing.scene.all('spread'));
  /** The view keeps place, scale and balloons; those are aimed again once its lines are there. */
  function switchSpread(spread: string | null) {
    put(spread ? 'Another spread' : 'Together', { spread, pullLines: spread !== null });
    if (here.size) void arrangeAnew(drawing, view.id);
    // Pulled apart it is larger: the scale that fits is offered in the same moment.
    const fits = largestFor(drawing.scene, view, boxFromParts(drawing.scene, view, { ...view, spread }));
    if (fits && fits < view.scale * 0.999)
      offer(`At ${scaleText(view.scale)} it is larger than its room on the sheet now.`, `Draw it at ${scaleText(fits)}`, () => setScale(fits));
  }
  const secondPosition = (id: string) => drawing.edit('Second position', [{ op: 'put', record: id ? { ...view, second: id } : without(view, 'second') }]);
  const result = $derived(drawing.scene.result(view.id));
  const seen = $derived(drawing.items.filter((i) => result && visibleOnPaper(i, result.visibleArea, view.scale) >= SEEN_MM2));
  const here = $derived(
    new Set(
      drawing.scene
        .all('balloon')
        .filter((b) => b.view === view.id)
        .map((b) => drawing.itemOfPath(b.component)?.part),
    ),
  );
  const anywhere = $derived(new Set(drawing.scene.all('balloon').map((b) => drawing.itemOfPath(b.component)?.part)));
  const open = $derived(seen.filter((i) => !anywhere.has(i.part)).length);
  const parent = $derived(view.parent ? drawing.document[view.parent] : undefined);
  /** The view with which it would stand in line by projection. */
  const projected = $derived.by(() => {
    const from = projectedFrom(drawing.scene, view);
    return from && projectedSide(view, from, drawing.scene.drawing.standard) ? from : undefined;
  });
  function keepInLine(on: boolean) {
    const record = on ? broughtInLine(drawing.scene, view) : { ...view, align: null };
    if (record) drawing.edit(on ? 'Keep in line' : 'Free from line', [{ op: 'put', record }]);
    else notify('trouble', 'There is no room where projection has this view. Make room beside the view that it belongs to first.');
  }
</script>

<SlipHead
  title={view.name}
  subtitle="sheet {drawing.sheets.findIndex((s) => s.id === view.sheet) + 1}{parent?.type === 'view' && view.align
    ? ` · ${view.align === 'level' ? 'level' : 'in line'} with ${parent.name}`
    : ''} · press again: the component"
/>

<Choice
  label="Scale"
  options={near.map((s) => [String(s), scaleText(s)] as const)}
  value={String(near.find((s) => Math.abs(s - view.scale) < 1e-9) ?? '')}
  onchange={(s) => setScale(Number(s))}
/>
<div class="pair">
  <TextField label="Any ratio" value={scaleText(view.scale)} onchange={custom} />
  <TextField label="Name" value={view.name} onchange={(v) => put('Name of view', { name: v })} />
</div>

<Fold title="Lines and label">
  <Toggle label="Hidden lines" checked={view.hidden} onchange={(on) => put(`Hidden lines ${on ? 'on' : 'off'}`, { hidden: on })} />
  {#if view.hidden}<TextField
      label="Hidden to depth, {lengths.unit} (empty: all)"
      value={view.hiddenWithinMm === undefined ? '' : lengths.text(view.hiddenWithinMm)}
      onchange={hiddenWithin}
    />{/if}
  <Toggle label="Tangent edges" checked={view.tangent} onchange={(on) => put(`Tangent edges ${on ? 'on' : 'off'}`, { tangent: on })} />
  {#if view.tangent}<Toggle
      label="Tangent edges wide"
      checked={view.tangentWide ?? false}
      onchange={(on) =>
        drawing.edit(`Tangent edges ${on ? 'wide' : 'narrow'}`, [{ op: 'put', record: on ? { ...view, tangentWide: true } : without(view, 'tangentWide') }])}
    />{/if}
  <Toggle label="Shaded" checked={view.shaded} onchange={(on) => put(`Shading ${on ? 'on' : 'off'}`, { shaded: on })} />
  {#if view.shaded}
    <Toggle label="Colour by item" checked={view.colorByItem ?? false} onchange={(on) => setFlag('colorByItem', 'Colour by item', on)} />
    <Toggle
      label="Without edges"
      checked={view.noEdges ?? false}
      onchange={(on) => drawing.edit(`Edges ${on ? 'off' : 'on'}`, [{ op: 'put', record: on ? { ...view, noEdges: true } : without(view, 'noEdges') }])}
    />
    <Toggle label="Flat tones" checked={view.flat ?? false} onchange={(on) => setFlag('flat', 'Flat tones', on)} />
  {/if}
  <TextField label="Thin out lines closer than, {lengths.unit} on paper" value={view.thinMm === undefined ? '' : lengths.text(view.thinMm)} onchange={thin} />
  <Toggle label="Label" checked={view.label} onchange={(on) => put(`Label ${on ? 'on' : 'off'}`, { label: on })} />
  {#if spreads.length && !view.detail}
    <p class="q-caption"><label for="view-spread">Exploded by</label></p>
    <select id="view-spread" class="q-field" value={view.spread ?? ''} onchange={(e) => switchSpread(e.currentTarget.value || null)}>
      <option value="">together</option>
      {#each spreads as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
    </select>
    <p class="q-caption"><label for="view-second">Second position, in phantom lines</label></p>
    <select id="view-second" class="q-field" value={view.second ?? ''} onchange={(e) => secondPosition(e.currentTarget.value)}>
      <option value="">none</option>
      {#each spreads as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
    </select>
  {/if}
  {#if view.spread}<Toggle label="Pull lines" checked={view.pullLines} onchange={(on) => put(`Pull lines ${on ? 'on' : 'off'}`, { pullLines: on })} />{/if}
  {#if projected}<Toggle label="Keep in line with {projected.name}" checked={view.align !== null} onchange={keepInLine} />{/if}
</Fold>
{#if !view.detail}<Fold title="Components" folded={!view.shows && !view.faint}><SlipShows {drawing} {view} /></Fold>{/if}
<Fold title="Part of the view" folded={!view.detail && !view.within && !view.gaps}><SlipPart {drawing} {tools} {view} /></Fold>
{#if !view.detail && !view.cut}<Fold title="Direction" folded><SlipDirection {drawing} {view} /></Fold>{/if}
<Fold title="Put settings on others" folded><SlipHandOn {drawing} {view} /></Fold>
{#if view.cut && !view.detail}
  <Fold title="Section"><SlipSection {drawing} {tools} {view} cut={view.cut} /></Fold>
{/if}

<Fold title="In this view">
  <p>{seen.length} of {drawing.items.length} items seen, {here.size} identified here</p>
  {#if open > 0}<button class="q-button main" onclick={() => identify(drawing, view)}>Identify the other {open}</button>{/if}
  {#if !view.cut}
    <p class="q-row">
      <button class="q-button" onclick={() => addView(drawing, `${view.name}, copy`, view, view.spread, view)}>Copy view</button>
      {#if view.spread}<button class="q-button" onclick={() => addView(drawing, `${view.name}, together`, view, null, view)}>The same together</button>{/if}
    </p>
  {/if}
  <label class="q-caption" for="{id}-rail">Balloons stand</label>
  <select
    id="{id}-rail"
    class="q-field"
    value={view.rail ?? 'rectangle'}
    onchange={(e) => putRail(drawing, view, e.currentTarget.value === 'rectangle' ? undefined : (e.currentTarget.value as Rail))}
  >
    {#each Object.entries(RAIL_NAMES) as [rail, name] (rail)}<option value={rail}>{name}</option>{/each}
  </select>
  <Toggle label="Parallel leaders" checked={view.parallel ?? false} onchange={(on) => setParallel(drawing, view, on)} />
  {#if here.size > 1}<p><button class="q-button" onclick={() => arrangeAnew(drawing, view.id)}>Arrange balloons anew</button></p>{/if}
  <p><button class="q-button" onclick={() => tools.remove()}>Remove view</button></p>
</Fold>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1.6fr;
    gap: 0 0.6rem;
  }
</style>
