<script lang="ts">
  import { numberText } from '$core/ledger/items';
  import { without } from '$core/base/without';
  import type { CutRecord, ViewRecord } from '$core/document/records';
  import Choice from '$lib/kit/Choice.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import { lengthsOf } from '$lib/shared/lengths';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { breaksOf } from '../break-out';
  import { toggleHalf } from './actions';
  import SlipCutLine from './SlipCutLine.svelte';
  import SlipHatch from './SlipHatch.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, view, cut }: { drawing: Drawing; tools: Tools; view: ViewRecord; cut: CutRecord } = $props();

  const put = (label: string, change: CutRecord | null) => drawing.edit(label, [{ op: 'put', record: { ...view, cut: change } }]);
  const kind = $derived(cut.shape?.kind);
  const breaks = $derived(breaksOf(view));
  const lengths = $derived(lengthsOf(drawing.scene));
  const numberOf = (text: string) => lengths.mm(text);

  function behind(text: string) {
    const mm = numberOf(text);
    if (text.trim() === '') put('Depth behind the cut: all', without(cut, 'behindMm'));
    else if (mm >= 0 && Number.isFinite(mm)) put(`Depth behind the cut: ${text} ${lengths.unit}`, { ...cut, behindMm: mm });
  }
  function move(text: string) {
    const mm = numberOf(text);
    if (Number.isFinite(mm)) put(`Cut at ${text} ${lengths.unit}`, { ...cut, d: mm });
  }

  /** Items that the section cuts now. */
  const cutItems = $derived.by(() => {
    const cutNow = new Set(drawing.scene.result(view.id)?.caps.map((c) => c.component));
    return drawing.items.filter((i) => i.components.some((c) => cutNow.has(c)));
  });
  function keep(label: string, paths: readonly string[]) {
    put(label, { ...cut, keptWhole: [...new Set([...cut.keptWhole, ...paths])] });
  }
  function keepItem(part: string) {
    const item = drawing.items.find((i) => i.part === part);
    if (item)
      keep(
        `Keep ${numberText(item)} whole`,
        item.components.map((c) => drawing.components[c]!.path),
      );
  }
  const name = (path: string) => {
    const item = drawing.itemOfPath(path);
    return item ? `${numberText(item)} ${item.values.description.text}` : path;
  };

  const grouped = (paths: readonly string[]) => {
    const groups = new Map<string, string[]>();
    for (const p of paths) groups.set(name(p), [...(groups.get(name(p)) ?? []), p]);
    return [...groups].map(([n, list]) => ({ name: n, paths: list }));
  };
  const whole = $derived(grouped(cut.keptWhole));

  let hatched = $state('');
  const hatchedItem = $derived(drawing.items.find((i) => i.part === hatched));

  let suggested = $state.raw<readonly { readonly path: string; readonly why: string }[] | undefined>(undefined);
  const open = $derived((suggested ?? []).filter((s) => !cut.keptWhole.includes(s.path)));
  async function suggest() {
    suggested = await tools.sections.suggestions(view);
  }

  let sliceText = $state('');
  /** `10, 20 45` names distances; `3 x 12` three slices 12 mm apart. */
  function slices() {
    const row = /^\s*(\d{1,2})\s*[x×]\s*(-?\d+(?:[.,]\d+)?)\s*$/i.exec(sliceText);
    const step = row ? numberOf(row[2]!) : 0;
    const at = row
      ? Array.from({ length: Number(row[1]) }, (_, i) => (i + 1) * step)
      : sliceText
          .split(/[;\s]+|,\s+/)
          .filter(Boolean)
          .map(numberOf);
    if (at.length === 0 || at.length > 20 || at.some((v) => !Number.isFinite(v))) {
      notify('trouble', 'Write up to 20 distances such as “10 20 45”, or “3 x 12” for three slices 12 apart.');
      return;
    }
    tools.sections.slices(view, at);
    sliceText = '';
  }
</script>

{#if kind === 'local'}
  <p class="q-caption">Broken-out section</p>
  {#each breaks as b, i (i)}
    <div class="break">
      <TextField
        label="{breaks.length > 1 ? `Break ${i + 1}: down` : 'Down'} to, {lengths.unit} along the line of sight"
        value={lengths.text(b.d)}
        onchange={(t) => Number.isFinite(numberOf(t)) && drawing.edit('Depth of the break', [{ op: 'put', record: b.set(numberOf(t)) }])}
      />
      <button class="q-button" onclick={() => drawing.edit('Close the break', [{ op: 'put', record: b.remove() }])}>Close it</button>
    </div>
  {/each}
  <p class="q-row">
    <button class="q-button" onclick={() => tools.take('break')}>One more …</button>
    <button class="q-button" onclick={() => tools.take('depth')}>Depth from another view …</button>
  </p>
  <button class="q-button" onclick={() => put('Close the break', null)}>Close the break</button>
{:else}
  {#if kind === 'stepped' || kind === 'aligned'}
    <p class="q-caption">Cutting line</p>
    <p>
      {cut.shape?.kind === 'stepped' ? `Stepped, ${cut.shape.steps.length} planes` : 'Bent: two planes, turned into one'}
      <button class="q-button" onclick={() => put('Straight section', without(cut, 'shape'))}>Make it straight</button>
    </p>
  {:else}
    <Choice
      label="Taken away"
      options={[
        ['all', 'All in front'],
        ['half', 'Right half'],
      ]}
      value={kind === 'half' ? 'half' : cut.shape ? '' : 'all'}
      onchange={(v) => (v === 'half') !== (kind === 'half') && toggleHalf(drawing, view)}
    />
    {#if !cut.shownIn}<TextField label="Cut at, {lengths.unit} along the line of sight" value={lengths.text(cut.d)} onchange={move} />{/if}
  {/if}
  <TextField label="Depth behind, {lengths.unit} (empty: all)" value={cut.behindMm === undefined ? '' : lengths.text(cut.behindMm)} onchange={behind} />
  <SlipCutLine {drawing} {view} {cut} />
  <p><button class="q-button" onclick={() => tools.sections.turnRound(view)}>Turn round</button></p>
{/if}

<p class="q-caption">Kept whole (not cut)</p>
<ul class="chips">
  {#each whole as group (group.name)}
    <li>
      {group.name}{group.paths.length > 1 ? `, ${group.paths.length} pieces` : ''}
      <button
        aria-label="Cut {group.name}"
        onclick={() => put(`Cut ${group.name}`, { ...cut, keptWhole: cut.keptWhole.filter((p) => !group.paths.includes(p)) })}>×</button
      >
    </li>
  {:else}
    <li class="none">Everything is cut.</li>
  {/each}
</ul>
<select class="q-field" aria-label="Keep another item whole" value="" onchange={(e) => keepItem(e.currentTarget.value)}>
  <option value="">Keep another whole …</option>
  {#each cutItems as i (i.part)}<option value={i.part}>{numberText(i)} {i.values.description.text}</option>{/each}
</select>
{#if suggested === undefined}
  <button class="q-button" disabled={tools.sections.busy} onclick={suggest}>Suggest what to keep whole</button>
{:else}
  <ul class="why" aria-label="Suggestions">
    {#each open as s (s.path)}
      <li><b>{name(s.path)}</b> {s.why} <button class="q-button" onclick={() => keep(`Keep ${name(s.path)} whole`, [s.path])}>Keep</button></li>
    {:else}
      <li>Nothing more to keep whole here.</li>
    {/each}
    {#if open.length > 1}<li>
        <button
          class="q-button main"
          onclick={() =>
            keep(
              `Keep ${open.length} whole`,
              open.map((s) => s.path),
            )}>Keep all {open.length}</button
        >
      </li>{/if}
  </ul>
{/if}

{#if cutItems.length}
  <p class="q-caption"><label for="hatch-of">Hatching</label></p>
  <select id="hatch-of" class="q-field" bind:value={hatched}>
    <option value="">of an item …</option>
    {#each cutItems as i (i.part)}<option value={i.part}>{numberText(i)} {i.values.description.text}</option>{/each}
  </select>
  {#if hatchedItem}
    <SlipHatch {drawing} {view} title="item {hatchedItem.number}" paths={hatchedItem.components.map((c) => drawing.components[c]!.path)} />
  {/if}
{/if}

{#if kind !== 'local'}
  <form
    onsubmit={(e) => {
      e.preventDefault();
      slices();
    }}
  >
    <label class="q-caption" for="slices">Slices, {lengths.unit} from here (“10 20” or “3 x 12”)</label>
    <div class="row"><input id="slices" class="q-field" bind:value={sliceText} /> <button class="q-button" type="submit">Add</button></div>
  </form>
{/if}

<style>
  .break {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0.4rem;
    align-items: end;
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
  .why {
    display: grid;
    gap: 0.4rem;
    margin: 0.5rem 0;
    font-size: 0.9rem;
  }
  .row {
    display: flex;
    gap: 0.4rem;
  }
  .row input {
    min-width: 0;
    flex: 1;
  }
  p {
    margin: 0.3rem 0;
  }
</style>
