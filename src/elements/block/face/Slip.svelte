<script lang="ts">
  import { laidBlock } from '$elements/block/draw';
  import { docked, withCellChanged, withCellJoined, withCellSplit, withoutCell, withRowAdded } from '$elements/block/edit';
  import type { BlockCell, BlockRecord } from '$elements/block/layout';
  import { FIELD_TITLES } from '$elements/field-values';
  import { without } from '$core/base/without';
  import Chips from '$lib/shared/Chips.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { Columns2, Rows2, TableCellsMerge } from '@lucide/svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: BlockRecord } = $props();
  const id = $props.id();
  const laid = $derived(laidBlock(record, drawing.scene));
  const part = $derived(drawing.selection.kind === 'record' ? Number(/^cell-(\d+)$/.exec(drawing.selection.part ?? '')?.[1] ?? -1) : -1);
  const cell = $derived(record.cells[part]);
  /** Fields of one's own that this drawing has, and what the file of its model states. */
  const own = $derived([...new Set([...Object.keys(drawing.scene.drawing.fields ?? {}), ...Object.keys(drawing.assembly.properties)])]);

  const put = (label: string, next: BlockRecord) => next !== record && drawing.edit(label, [{ op: 'put', record: next }]);
  const change = (label: string, c: { readonly [K in keyof BlockCell]?: BlockCell[K] | undefined }) => put(label, withCellChanged(record, part, c));
  const choose = (index: number) => drawing.select({ kind: 'record', id: record.id, part: `cell-${index}` });

  function height(typed: string) {
    const mm = Number(typed.replace(',', '.'));
    if (typed.trim() === '') change('Letters of the cell', { heightMm: undefined });
    else if (mm >= 1 && mm <= 50) change('Letters of the cell', { heightMm: mm });
    else notify('trouble', 'Write a number of millimetres between 1 and 50.');
  }
  function measure(kind: 'columns' | 'rows', typed: string) {
    const mm = Number(typed.replace(',', '.'));
    const index = kind === 'columns' ? cell!.column : cell!.row;
    const rest = record[kind].map((v, i) => (i === index ? mm : v));
    if (mm >= 3 && mm <= 500) put(kind === 'columns' ? 'Width of the column' : 'Height of the row', { ...record, [kind]: rest });
    else notify('trouble', 'Write a number of millimetres between 3 and 500.');
  }
  function insert(field: string) {
    if (field) change('Field of the cell', { text: `${cell!.text}${cell!.text && !cell!.text.endsWith(' ') ? ' ' : ''}{${field}}` });
  }
  function split(kind: 'column' | 'row') {
    const next = withCellSplit(record, part, kind);
    if (next === record) notify('trouble', 'The cell is too small to be split: make it larger first.');
    else put('Split the cell', next);
  }
  function join(kind: 'column' | 'row') {
    const next = withCellJoined(record, part, kind);
    if (next === record) notify('trouble', kind === 'column' ? 'No cell as high stands to its right.' : 'No cell as wide stands under it.');
    else put('Join cells', next);
  }
  function corner(to: string) {
    if (to) put('Place of the block', docked(record, to as NonNullable<BlockRecord['corner']>));
    else put('Place of the block', { ...without(record, 'corner'), at: [laid.rect.x, laid.rect.y] });
  }
  const percent = (v: number, of: number) => `${(100 * v) / of}%`;
</script>

<SlipHead title={record.corner === 'bottom right' ? 'Title block' : 'Block'} subtitle="{record.cells.length} cells: press one; a double press writes in it" />
<div class="map" style="aspect-ratio: {laid.rect.width} / {Math.max(laid.rect.height, laid.rect.width / 5)}" role="group" aria-label="Cells">
  {#each laid.cells as c (c.index)}
    <button
      class:on={c.index === part}
      aria-pressed={c.index === part}
      aria-label={c.cell.caption || c.cell.text || `Cell ${c.index + 1}`}
      title={c.cell.text || c.cell.caption || 'empty'}
      style="left: {percent(c.rect.x - laid.rect.x, laid.rect.width)}; top: {percent(c.rect.y - laid.rect.y, laid.rect.height)}; width: {percent(
        c.rect.width,
        laid.rect.width,
      )}; height: {percent(c.rect.height, laid.rect.height)}"
      onclick={() => choose(c.index)}>{c.cell.symbol ? '⊕' : c.cell.caption || c.cell.text}</button
    >
  {/each}
</div>
{#if cell}
  <TextField label="Says of itself" value={cell.caption ?? ''} onchange={(v) => change('Caption of the cell', { caption: v.slice(0, 100) || undefined })} />
  <label class="q-caption" for="{id}-text">Text: fields stand in braces</label>
  <textarea
    id="{id}-text"
    class="q-field text"
    rows="2"
    value={cell.text}
    onchange={(e) => change('Text of the cell', { text: e.currentTarget.value.slice(0, 2000) })}></textarea>
  <label class="q-caption" for="{id}-field">Put a field in</label>
  <select id="{id}-field" class="q-field" value="" onchange={(e) => (insert(e.currentTarget.value), (e.currentTarget.value = ''))}>
    <option value="">of …</option>
    {#each Object.entries(FIELD_TITLES).filter(([name]) => name !== 'projection') as [name, title] (name)}<option value={name}>{title}</option>{/each}
    {#each own.filter((n) => !(n in FIELD_TITLES)) as name (name)}<option value={name}>{name}</option>{/each}
  </select>
  <p class="hint">
    Any other word in braces is a field of your own. After a colon: {'{date:dd.MM.yyyy}'}, {'{mass:0.0}'}, or what stands for several scales, {'{scale:as shown}'}.
  </p>
  <div class="pair">
    <TextField label="Letters, mm" value={cell.heightMm === undefined ? '' : String(cell.heightMm)} onchange={height} />
    <TextField label="Row, mm" value={String(record.rows[cell.row])} onchange={(v) => measure('rows', v)} />
    <TextField label="Column, mm" value={String(record.columns[cell.column])} onchange={(v) => measure('columns', v)} />
  </div>
  <Chips
    label="Stands"
    options={[
      ['', 'left'],
      ['middle', 'middle'],
      ['end', 'right'],
    ]}
    value={cell.anchor ?? ''}
    onchange={(v) => change('Place of the text', { anchor: (v || undefined) as BlockCell['anchor'] })}
  />
  <Chips
    label="What is too long"
    options={[
      ['', 'smaller letters'],
      ['wrap', 'two lines'],
      ['grow', 'the row grows'],
    ]}
    value={cell.long ?? ''}
    onchange={(v) => change('What is too long', { long: (v || undefined) as BlockCell['long'] })}
  />
  <Toggle label="Bold" checked={cell.bold ?? false} onchange={(on) => change('Bold', { bold: on || undefined })} />
  <Toggle label="Lines around it" checked={!cell.bare} onchange={(on) => change('Lines of the cell', { bare: !on || undefined })} />
  <Toggle label="Projection symbol" checked={cell.symbol ?? false} onchange={(on) => change('Projection symbol', { symbol: on || undefined })} />
  <p class="q-row">
    <button class="q-button" onclick={() => split('column')} title="Split it, side by side"><Columns2 size={16} /> Split</button>
    <button class="q-button" onclick={() => split('row')} title="Split it, one below the other"><Rows2 size={16} /> Split</button>
    <button class="q-button" onclick={() => join('column')} title="Join it with the cell to its right"><TableCellsMerge size={16} /> Right</button>
    <button class="q-button" onclick={() => join('row')} title="Join it with the cell under it"><TableCellsMerge size={16} /> Below</button>
    <button class="q-button" onclick={() => put('Remove the cell', withoutCell(record, part))} disabled={record.cells.length < 2}>Remove cell</button>
  </p>
{/if}
<Chips
  label="The block stands"
  options={[
    ['top left', 'upper left'],
    ['top right', 'upper right'],
    ['bottom left', 'lower left'],
    ['bottom right', 'lower right'],
    ['', 'free'],
  ]}
  value={record.corner ?? ''}
  onchange={corner}
/>
<p class="q-row">
  <button class="q-button" onclick={() => put('Row on top', withRowAdded(record))}>Row on top</button>
  <button class="q-button" onclick={() => tools.remove()}>Remove block</button>
</p>

<style>
  .map {
    position: relative;
    width: 100%;
    margin-bottom: 0.7rem;
    border: 1px solid var(--line);
    background: var(--panel);
  }
  .map button {
    position: absolute;
    padding: 0 2px;
    border: 0.5px solid var(--line);
    font-size: 0.62rem;
    line-height: 1.1;
    color: var(--mute);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    cursor: pointer;
  }
  .map button.on {
    background: var(--teal-soft);
    color: var(--ink);
    outline: 2px solid var(--teal);
    z-index: 1;
  }
  .text {
    width: 100%;
    font-family: inherit;
  }
  .hint {
    margin: 0.3rem 0 0.5rem;
    font-size: 0.82rem;
    color: var(--mute);
  }
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    gap: 0 0.5rem;
  }
</style>
