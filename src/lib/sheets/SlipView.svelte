<script lang="ts">
  import { scaleView } from '$core/document/moves';
  import { drawingOf, recordsOf, type ViewRecord } from '$core/document/records';
  import { SEEN_MM2, visibleOnPaper } from '$core/proof/findings';
  import { scaleText, standardScales } from '$core/sheet/formats';
  import TextField from '../shared/TextField.svelte';
  import Toggle from '../shared/Toggle.svelte';
  import type { Drawing } from './drawing.svelte';
  import SlipHead from './SlipHead.svelte';
  import type { Tools } from './tools.svelte';

  const { drawing, tools, view }: { drawing: Drawing; tools: Tools; view: ViewRecord } = $props();

  const scales = $derived(standardScales(drawingOf(drawing.document).standard));
  const near = $derived.by(() => {
    const i = scales.findIndex((s) => s <= view.scale * 1.001);
    return scales.slice(Math.max(0, i - 2), Math.max(0, i - 2) + 5);
  });
  const put = (label: string, change: Partial<ViewRecord>) => drawing.edit(label, [{ op: 'put', record: { ...view, ...change } }]);
  const setScale = (s: number) => drawing.edit(`Scale ${scaleText(s)}`, scaleView(drawing.document, view.id, s));
  function custom(text: string) {
    const m = /^\s*(\d+(?:\.\d+)?)\s*[:/]\s*(\d+(?:\.\d+)?)\s*$/.exec(text);
    const s = m ? Number(m[1]) / Number(m[2]) : NaN;
    if (s > 0 && s <= 1000) setScale(s);
  }

  /** A copy that leaves a setting to its default. */
  function without<T extends object, K extends keyof T>(record: T, key: K): Omit<T, K> {
    const copy: Partial<T> = { ...record };
    delete copy[key];
    return copy as Omit<T, K>;
  }
  function hiddenWithin(text: string) {
    const mm = Number(text.replace(',', '.'));
    if (text.trim() === '') drawing.edit('Hidden lines: all', [{ op: 'put', record: without(view, 'hiddenWithinMm') }]);
    else if (mm > 0 && Number.isFinite(mm)) put(`Hidden lines to ${mm} mm`, { hiddenWithinMm: mm });
  }
  function behind(text: string) {
    if (!view.cut) return;
    const mm = Number(text.replace(',', '.'));
    if (text.trim() === '') put('Depth behind the cut: all', { cut: without(view.cut, 'behindMm') });
    else if (mm >= 0 && Number.isFinite(mm)) put(`Depth behind the cut: ${mm} mm`, { cut: { ...view.cut, behindMm: mm } });
  }

  const result = $derived(drawing.results.get(view.id));
  const seen = $derived(drawing.items.filter((i) => result && visibleOnPaper(i, result, view.scale) >= SEEN_MM2));
  const here = $derived(
    new Set(
      recordsOf(drawing.document, 'balloon')
        .filter((b) => b.view === view.id)
        .map((b) => drawing.itemOfPath(b.component)?.part),
    ),
  );
  const anywhere = $derived(new Set(recordsOf(drawing.document, 'balloon').map((b) => drawing.itemOfPath(b.component)?.part)));
  const open = $derived(seen.filter((i) => !anywhere.has(i.part)).length);
  const parent = $derived(view.parent ? drawing.document[view.parent] : undefined);
  /** Items that the section cuts now. */
  const cutItems = $derived.by(() => {
    const cut = new Set(result?.caps.map((c) => c.component));
    return drawing.items.filter((i) => i.components.some((c) => cut.has(c)));
  });
  function keepWhole(part: string) {
    const item = drawing.items.find((i) => i.part === part);
    if (!item || !view.cut) return;
    const paths = item.components.map((c) => drawing.components[c]!.path);
    put(`Keep ${item.number} whole`, { cut: { ...view.cut, keptWhole: [...new Set([...view.cut.keptWhole, ...paths])] } });
  }
  const name = (path: string) => {
    const item = drawing.itemOfPath(path);
    return item ? `${item.number} ${item.values.description.text}` : path;
  };
</script>

<SlipHead
  title={view.name}
  subtitle="sheet {drawing.sheets.findIndex((s) => s.id === view.sheet) + 1}{parent?.type === 'view' && view.align
    ? ` · ${view.align === 'level' ? 'level' : 'in line'} with ${parent.name}`
    : ''}"
/>

<p class="q-caption" id="scale-label">Scale</p>
<div class="scales" role="group" aria-labelledby="scale-label">
  {#each near as s (s)}<button aria-pressed={Math.abs(s - view.scale) < 1e-9} onclick={() => setScale(s)}>{scaleText(s)}</button>{/each}
</div>
<TextField label="Any ratio" value={scaleText(view.scale)} onchange={custom} />
<TextField label="Name" value={view.name} onchange={(v) => put('Name of view', { name: v })} />

<hr />
<Toggle label="Hidden lines" checked={view.hidden} onchange={(on) => put(`Hidden lines ${on ? 'on' : 'off'}`, { hidden: on })} />
{#if view.hidden}<TextField
    label="Hidden to depth, mm (empty: all)"
    value={view.hiddenWithinMm === undefined ? '' : String(view.hiddenWithinMm)}
    onchange={hiddenWithin}
  />{/if}
<Toggle label="Tangent edges" checked={view.tangent} onchange={(on) => put(`Tangent edges ${on ? 'on' : 'off'}`, { tangent: on })} />
<Toggle label="Shaded" checked={view.shaded} onchange={(on) => put(`Shading ${on ? 'on' : 'off'}`, { shaded: on })} />
<Toggle label="Label" checked={view.label} onchange={(on) => put(`Label ${on ? 'on' : 'off'}`, { label: on })} />
{#if view.spread}<Toggle label="Pull lines" checked={view.pullLines} onchange={(on) => put(`Pull lines ${on ? 'on' : 'off'}`, { pullLines: on })} />{/if}
{#if view.parent}<Toggle
    label="Keep in line"
    checked={view.align !== null}
    onchange={(on) =>
      put(on ? 'Keep in line' : 'Free from line', {
        align: on ? (Math.abs(view.at[1] - ((parent as ViewRecord).at[1] ?? 0)) < 1 ? 'level' : 'upright') : null,
      })}
  />{/if}

{#if view.cut}
  <hr />
  <p class="q-caption" id="cut-label">Taken away</p>
  <div class="scales" role="group" aria-labelledby="cut-label">
    <button aria-pressed={!view.cut.shape} onclick={() => view.cut?.shape && tools.toggleHalf(view)}>All in front</button>
    <button aria-pressed={view.cut.shape?.kind === 'half'} onclick={() => view.cut?.shape?.kind !== 'half' && tools.toggleHalf(view)}>Right half</button>
  </div>
  <TextField label="Depth behind, mm (empty: all)" value={view.cut.behindMm === undefined ? '' : String(view.cut.behindMm)} onchange={behind} />
  <p class="q-caption">Kept whole (not cut)</p>
  <ul class="chips">
    {#each view.cut.keptWhole as path (path)}
      <li>
        {name(path)}
        <button
          aria-label="Cut {name(path)}"
          onclick={() => put('Cut a component', { cut: { ...view.cut!, keptWhole: view.cut!.keptWhole.filter((p) => p !== path) } })}>×</button
        >
      </li>
    {:else}
      <li class="none">Everything is cut.</li>
    {/each}
  </ul>
  <select class="q-field" aria-label="Keep another item whole" value="" onchange={(e) => keepWhole(e.currentTarget.value)}>
    <option value="">Keep another whole …</option>
    {#each cutItems as i (i.part)}<option value={i.part}>{i.number} {i.values.description.text}</option>{/each}
  </select>
{/if}

<hr />
<p class="q-caption">In this view</p>
<p>{seen.length} of {drawing.items.length} items seen, {here.size} identified here</p>
{#if open > 0}<button class="q-button main" onclick={() => tools.identifyRest(view)}>Identify the other {open}</button>{/if}
<p class="remove"><button class="q-button" onclick={() => tools.remove()}>Remove view</button></p>

<style>
  .scales {
    display: flex;
    gap: 2px;
    padding: 3px;
    margin-bottom: 0.5rem;
    border-radius: 8px;
    background: color-mix(in srgb, var(--line) 50%, transparent);
  }
  .scales button {
    flex: 1;
    min-height: 28px;
    border-radius: 6px;
    cursor: pointer;
  }
  .scales [aria-pressed='true'] {
    background: var(--field);
    font-weight: 600;
    box-shadow: 0 1px 2px rgb(0 0 0 / 0.15);
  }
  hr {
    margin: 0.7rem 0;
    border-color: var(--line);
  }
  .chips {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    margin-top: 0.3rem;
  }
  .chips li {
    padding: 0.05rem 0.5rem;
    border-radius: 6px;
    background: var(--teal-soft);
    font-size: 0.88rem;
  }
  .chips button {
    padding: 0 4px;
    min-width: 24px;
    min-height: 24px;
    cursor: pointer;
  }
  .chips .none {
    background: none;
    color: var(--mute);
  }
  .remove {
    margin-top: 1rem;
  }
</style>
