<script lang="ts">
  import type { GridColumn } from '$core/ledger/columns';
  import { guessScheme, nextDrawingNumber } from '$core/ledger/suggest';
  import { onMount } from 'svelte';
  import type { Grid } from './grid.svelte';

  const { grid, column, refocus }: { grid: Grid; column: GridColumn; refocus: () => void } = $props();
  let input = $state<HTMLInputElement>();

  onMount(() => {
    input?.focus();
    input?.setSelectionRange(input.value.length, input.value.length);
  });
  /** What a drawing number could be: shown beside the cursor, taken with the right arrow. */
  const proposal = $derived.by(() => {
    if (column.key !== 'drawingNumber' || grid.activeItem?.values.drawingNumber.text) return '';
    const scheme = grid.ledger.scheme.prefix ? grid.ledger.scheme : guessScheme(grid.drawing.items);
    const next = scheme ? nextDrawingNumber(scheme, grid.drawing.items) : '';
    return next.startsWith(grid.editing ?? '') ? next : '';
  });
  const options = $derived(column.options?.filter((o) => o.toLowerCase().includes((grid.editing ?? '').toLowerCase())).slice(0, 8) ?? []);
  let picked = $state(-1);

  function key(e: KeyboardEvent) {
    const leave = (down: number, right: number) => {
      if (picked >= 0 && options[picked] !== undefined) grid.editing = options[picked]!;
      grid.commit(down, right);
      refocus();
    };
    if (e.key === 'Enter') leave(e.shiftKey ? -1 : 1, 0);
    else if (e.key === 'Tab') leave(0, e.shiftKey ? -1 : 1);
    else if (e.key === 'Escape') {
      grid.editing = undefined;
      refocus();
    } else if (e.key === 'ArrowDown' && options.length) picked = Math.min(options.length - 1, picked + 1);
    else if (e.key === 'ArrowUp' && options.length) picked = Math.max(-1, picked - 1);
    else if (e.key === 'ArrowRight' && proposal && input?.selectionStart === (grid.editing ?? '').length) grid.editing = proposal;
    else {
      e.stopPropagation();
      return;
    }
    e.preventDefault();
    e.stopPropagation();
  }
</script>

<div class="editor">
  <input
    bind:this={input}
    bind:value={grid.editing}
    aria-label="{column.title} of item {grid.activeItem?.number ?? ''}"
    aria-autocomplete={options.length ? 'list' : undefined}
    aria-controls={options.length ? 'cell-options' : undefined}
    oninput={() => (picked = -1)}
    onkeydown={key}
    onblur={() => grid.editing !== undefined && grid.commit(0, 0)}
  />
  {#if proposal && proposal !== grid.editing}<small>→ {proposal}</small>{/if}
  {#if options.length}
    <ul id="cell-options" role="listbox" aria-label="Choices">
      {#each options as o, i (o)}
        <li
          role="option"
          aria-selected={i === picked}
          class:on={i === picked}
          onpointerdown={(e) => {
            e.preventDefault();
            grid.editing = o;
            grid.commit(0, 0);
            refocus();
          }}
        >
          {o}
        </li>
      {/each}
    </ul>
  {/if}
</div>

<style>
  .editor {
    position: absolute;
    inset: 0;
    z-index: 5;
    display: flex;
    align-items: center;
    background: var(--field);
    box-shadow: inset 0 0 0 2px var(--teal);
    text-align: left;
  }
  input {
    flex: 1;
    min-width: 0;
    height: 100%;
    padding: 0 9px;
    background: none;
    color: var(--ink);
    outline: none;
  }
  small {
    padding-right: 6px;
    color: var(--mute);
    white-space: nowrap;
  }
  ul {
    position: absolute;
    left: 0;
    top: 100%;
    min-width: 100%;
    border: 1px solid var(--line);
    border-radius: 0 0 8px 8px;
    background: var(--field);
    color: var(--ink);
    box-shadow: 0 4px 12px rgb(0 0 0 / 0.2);
  }
  li {
    padding: 2px 9px;
    line-height: 24px;
    cursor: pointer;
  }
  li.on,
  li:hover {
    background: var(--teal-soft);
  }
</style>
