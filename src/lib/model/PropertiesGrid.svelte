<script lang="ts">
  import { gridText, isTyped, type GridColumn } from '$core/ledger/columns';
  import type { Item } from '$core/ledger/items';
  import { ArrowDown, ArrowUp } from '@lucide/svelte';
  import CellEditor from './CellEditor.svelte';
  import type { Grid } from './grid.svelte';

  const { grid }: { grid: Grid } = $props();

  let frame: HTMLDivElement;
  let choosing = false;
  let resize = $state.raw<{ key: string; from: number; width: number; now: number } | undefined>(undefined);
  let dragged = $state('');

  const widthOf = (c: GridColumn) => (resize?.key === c.key ? resize.now : c.width);
  const frozen = $derived(Math.min(grid.ledger.frozen, grid.columns.length));
  /** Left edge of the frozen columns. */
  const lefts = $derived.by(() => {
    let x = 0;
    return grid.columns.map((c) => {
      const at = x;
      x += widthOf(c);
      return at;
    });
  });
  const template = $derived(grid.columns.map((c) => `${widthOf(c)}px`).join(' '));
  const inRange = (r: number, c: number) => r >= grid.range.top && r <= grid.range.bottom && c >= grid.range.left && c <= grid.range.right;
  const stick = (c: number) => (c < frozen ? `position: sticky; left: ${lefts[c]}px; z-index: 1;` : '');

  $effect(() => {
    grid.focus = () => frame.focus({ preventScroll: true });
  });
  // The active cell stays in sight.
  $effect(() => {
    const { row, column } = grid.end;
    frame?.querySelector(`[data-cell="${row}/${column}"]`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  });

  function key(e: KeyboardEvent) {
    if (grid.editing !== undefined) return;
    const { row, column } = grid.end;
    const ctrl = e.ctrlKey || e.metaKey;
    const page = Math.max(1, Math.floor((frame.clientHeight - 60) / 29));
    const move = (r: number, c: number) => grid.go(r, c, e.shiftKey);
    const moves: Readonly<Record<string, () => void>> = {
      ArrowUp: () => move(ctrl ? 0 : row - 1, column),
      ArrowDown: () => move(ctrl ? grid.items.length - 1 : row + 1, column),
      ArrowLeft: () => move(row, ctrl ? 0 : column - 1),
      ArrowRight: () => move(row, ctrl ? grid.columns.length - 1 : column + 1),
      Home: () => move(ctrl ? 0 : row, 0),
      End: () => move(ctrl ? grid.items.length - 1 : row, grid.columns.length - 1),
      PageUp: () => move(row - page, column),
      PageDown: () => move(row + page, column),
      Tab: () => grid.go(grid.active.row, grid.active.column + (e.shiftKey ? -1 : 1)),
      Enter: () => (ctrl ? grid.nextGap() : grid.edit()),
      F2: () => grid.edit(),
      Delete: () => grid.putBack(),
      Backspace: () => grid.edit(''),
    };
    // Tab leaves the grid at its ends, as everywhere else.
    const last = grid.columns.length - 1;
    if (e.key === 'Tab' && grid.active.column === (e.shiftKey ? 0 : last)) return;
    const run = moves[e.key];
    if (run) run();
    else if (ctrl && e.key.toLowerCase() === 'd') grid.fillDown();
    else if (ctrl && e.key.toLowerCase() === 'a') {
      grid.active = { row: 0, column: 0 };
      grid.end = { row: grid.items.length - 1, column: last };
    } else if (!ctrl && !e.altKey && e.key.length === 1) grid.edit(e.key);
    else return;
    e.preventDefault();
    e.stopPropagation();
  }
  function press(e: PointerEvent, row: number, column: number) {
    if (e.button !== 0 || (e.target as HTMLElement).closest('input, select, a')) return;
    if (grid.editing !== undefined) grid.commit(0, 0);
    grid.go(row, column, e.shiftKey);
    choosing = true;
    frame.focus({ preventScroll: true });
  }
  function enter(row: number, column: number) {
    if (choosing) grid.end = { row, column };
  }
  const copy = (e: ClipboardEvent) => {
    if (grid.editing !== undefined) return;
    e.clipboardData?.setData('text/plain', grid.copy());
    e.preventDefault();
  };
  const paste = (e: ClipboardEvent) => {
    if (grid.editing !== undefined) return;
    const text = e.clipboardData?.getData('text/plain') ?? '';
    if (text) grid.paste(text);
    e.preventDefault();
  };
  function endResize() {
    if (resize && resize.now !== resize.width) grid.setLedger('Width of a column', { widths: { ...grid.ledger.widths, [resize.key]: resize.now } });
    resize = undefined;
  }
  const isLink = (c: GridColumn, text: string) => c.kind === 'link' && /^https?:\/\//i.test(text);
  const describe = (i: Item, c: GridColumn) => (grid.gapAt(i, c) ? `${c.title}: missing` : undefined);
</script>

<svelte:window onpointerup={() => (choosing = false)} />

<div
  class="cells"
  bind:this={frame}
  role="grid"
  tabindex="0"
  aria-label="Properties of every part"
  aria-rowcount={grid.items.length + 1}
  aria-colcount={grid.columns.length}
  aria-activedescendant="cell-{grid.end.row}-{grid.end.column}"
  onkeydown={key}
  oncopy={copy}
  onpaste={paste}
>
  <div class="row head" role="row" style="grid-template-columns: {template}">
    {#each grid.columns as c, n (c.key)}
      {@const sorted = grid.sorting[0]?.id === c.key ? grid.sorting[0] : undefined}
      <div
        role="columnheader"
        tabindex="-1"
        class="cell"
        class:target={dragged !== '' && dragged !== c.key}
        style="{stick(n)} {n < frozen ? 'z-index: 3' : ''}"
        aria-sort={sorted ? (sorted.desc ? 'descending' : 'ascending') : 'none'}
        draggable={resize === undefined}
        ondragstart={() => (dragged = c.key)}
        ondragend={() => (dragged = '')}
        ondragover={(e) => e.preventDefault()}
        ondrop={(e) => {
          e.preventDefault();
          if (dragged) grid.moveColumn(dragged, c.key);
          dragged = '';
        }}
      >
        <button tabindex="-1" title="Sort by {c.title}; drag to move the column" onclick={() => grid.sortBy(c.key)}>
          {c.title}{c.unit ? `, ${c.unit}` : ''}
          {#if sorted}{#if sorted.desc}<ArrowDown size={13} />{:else}<ArrowUp size={13} />{/if}{/if}
        </button>
        {#if grid.gapsOf[c.key]}<span class="count" title="{grid.gapsOf[c.key]} missing">{grid.gapsOf[c.key]}</span>{/if}
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <i
          class="handle"
          onpointerdown={(e) => {
            (e.currentTarget as Element).setPointerCapture(e.pointerId);
            resize = { key: c.key, from: e.clientX, width: c.width, now: c.width };
          }}
          onpointermove={(e) => resize && (resize = { ...resize, now: Math.max(36, Math.min(900, Math.round(resize.width + e.clientX - resize.from))) })}
          onpointerup={endResize}
        ></i>
      </div>
    {/each}
  </div>
  {#each grid.items as item, r (item.part)}
    <div class="row" role="row" aria-rowindex={r + 2} class:on={r === grid.active.row} style="grid-template-columns: {template}">
      {#each grid.columns as c, n (c.key)}
        {@const text = gridText(item, c, grid.ledger.massUnit)}
        <div
          id="cell-{r}-{n}"
          data-cell="{r}/{n}"
          data-title={c.title}
          role="gridcell"
          tabindex="-1"
          aria-selected={inRange(r, n)}
          aria-label={describe(item, c)}
          class="cell"
          class:gap={grid.gapAt(item, c)}
          class:chosen={inRange(r, n)}
          class:active={r === grid.active.row && n === grid.active.column}
          class:figure={c.kind === 'number' || c.kind === 'mass' || c.kind === 'fixed'}
          class:typed={isTyped(item, c.key)}
          style={stick(n)}
          onpointerdown={(e) => press(e, r, n)}
          onpointerenter={() => enter(r, n)}
          ondblclick={() => grid.edit()}
        >
          {#if grid.editing !== undefined && r === grid.active.row && n === grid.active.column}
            <CellEditor {grid} column={c} refocus={() => frame.focus({ preventScroll: true })} />
          {:else if isLink(c, text)}<a href={text} target="_blank" rel="noreferrer noopener" tabindex="-1">{text}</a>
          {:else}{text}{/if}
        </div>
      {/each}
    </div>
  {:else}
    <p class="none">Nothing fits the search and filters.</p>
  {/each}
</div>

<style>
  .cells {
    height: 100%;
    overflow: auto;
    background: var(--paper);
    color: #2a2926;
    outline-offset: -2px;
    user-select: none;
  }
  :global(.dark) .cells {
    background: var(--panel);
    color: var(--ink);
  }
  .row {
    display: grid;
    width: max-content;
    min-width: 100%;
    content-visibility: auto;
    contain-intrinsic-height: 29px;
  }
  .head {
    position: sticky;
    top: 0;
    z-index: 2;
    content-visibility: visible;
  }
  .cell {
    position: relative;
    height: 29px;
    padding: 0 9px;
    border-right: 1px solid var(--line);
    border-bottom: 1px solid var(--line);
    background: inherit;
    line-height: 28px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    background: var(--paper);
  }
  :global(.dark) .cell {
    background: var(--panel);
  }
  .head .cell {
    display: flex;
    align-items: center;
    gap: 4px;
    background: var(--panel);
    color: var(--ink);
    font-weight: 600;
    font-size: 0.88rem;
  }
  .head .target {
    box-shadow: inset 3px 0 var(--teal);
  }
  .head button {
    display: flex;
    align-items: center;
    gap: 3px;
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    cursor: pointer;
    font-weight: 600;
  }
  .count {
    color: var(--trouble);
  }
  .handle {
    position: absolute;
    right: 0;
    top: 0;
    width: 6px;
    height: 100%;
    cursor: col-resize;
  }
  .figure {
    text-align: right;
  }
  .on .cell {
    background: color-mix(in srgb, var(--teal-soft) 55%, var(--paper));
  }
  :global(.dark) .on .cell {
    background: color-mix(in srgb, var(--teal-soft) 45%, var(--panel));
  }
  .cell.gap {
    background: var(--trouble-soft);
  }
  .cell.gap::after {
    content: '';
    position: absolute;
    right: 4px;
    top: 4px;
    border: 4px solid var(--trouble);
    border-left-color: transparent;
    border-bottom-color: transparent;
  }
  .cell.typed:not(.gap) {
    font-weight: 500;
  }
  .cell.chosen {
    background: var(--teal-soft);
  }
  .cell.active {
    box-shadow: inset 0 0 0 2px var(--teal);
    overflow: visible;
  }
  a {
    color: var(--teal);
    text-decoration: underline;
  }
  .none {
    padding: 1.5rem;
    color: var(--mute);
  }
</style>
