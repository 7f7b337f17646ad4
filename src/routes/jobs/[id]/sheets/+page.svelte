<script lang="ts">
  import { drawingOf } from '$core/document/records';
  import { actionFor, actionsOf } from '$lib/sheets/actions';
  import { Drawing } from '$lib/sheets/drawing.svelte';
  import Ledger from '$lib/sheets/Ledger.svelte';
  import QuickBar from '$lib/sheets/QuickBar.svelte';
  import Shelf from '$lib/sheets/Shelf.svelte';
  import SheetCanvas from '$lib/sheets/SheetCanvas.svelte';
  import SheetStrip from '$lib/sheets/SheetStrip.svelte';
  import Slip from '$lib/sheets/Slip.svelte';
  import { Tools } from '$lib/sheets/tools.svelte';
  import Stages from '$lib/shared/Stages.svelte';
  import TopBar from '$lib/shared/TopBar.svelte';
  import { PanelLeft, PanelRight, Redo2, Undo2 } from '@lucide/svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const tools = new Tools(drawing);
  const actions = $derived(actionsOf(drawing, tools));
  const record = $derived(drawingOf(drawing.document));

  let mounted = $state(false);
  onMount(() => {
    mounted = true;
    return drawing.open();
  });

  function key(e: KeyboardEvent) {
    if (tools.quickBar) return;
    if (e.key === 'Escape') {
      tools.stepBack();
      return;
    }
    const action = actionFor(actions, e);
    if (!action) return;
    e.preventDefault();
    action.run();
  }
  function leave(e: BeforeUnloadEvent) {
    if (!drawing.kept) e.preventDefault();
  }
</script>

<svelte:window onkeydown={key} onbeforeunload={leave} />
<svelte:head><title>{record.title} · Nimble Quarry</title></svelte:head>

<div class="page">
  <TopBar title={record.title} subtitle={[record.number, record.revision && `revision ${record.revision}`].filter(Boolean).join(' · ')}>
    <Stages current="Sheets" />
    {#snippet end()}
      <button class="icon" onclick={() => drawing.undo()} disabled={!drawing.canUndo} aria-label="Undo" title="Undo (Ctrl Z)"><Undo2 size={17} /></button>
      <button class="icon" onclick={() => drawing.redo()} disabled={!drawing.canRedo} aria-label="Redo" title="Redo (Ctrl Shift Z)"><Redo2 size={17} /></button>
      <span class="kept" role="status" data-testid="kept">{drawing.kept ? 'All changes kept' : drawing.lost ? 'Not kept: no answer' : 'Keeping …'}</span>
      <button class="quick" onclick={() => (tools.quickBar = true)}>Do anything <kbd>Ctrl K</kbd></button>
    {/snippet}
  </TopBar>
  <div class="body">
    {#if tools.ledger}<aside class="left"><Ledger {drawing} /></aside>{/if}
    <main>
      <div class="canvas">
        {#if mounted}<SheetCanvas {drawing} {tools} />{/if}
        <button
          class="fold left"
          onclick={() => (tools.ledger = !tools.ledger)}
          aria-label={tools.ledger ? 'Fold the ledger away' : 'Show the ledger'}
          title="Ledger ( [ )"><PanelLeft size={16} /></button
        >
        <button
          class="fold right"
          onclick={() => (tools.slip = !tools.slip)}
          aria-label={tools.slip ? 'Fold the slip away' : 'Show the slip'}
          title="Slip ( ] )"><PanelRight size={16} /></button
        >
        <Shelf actions={actions.filter((a) => a.shelf)} />
      </div>
      {#if mounted}<SheetStrip {drawing} />{/if}
    </main>
    {#if tools.slip}<aside class="right"><Slip {drawing} {tools} /></aside>{/if}
  </div>
</div>
<QuickBar {drawing} {tools} {actions} />

<style>
  .page {
    display: flex;
    flex-direction: column;
    height: 100vh;
    overflow: hidden;
  }
  .body {
    flex: 1;
    display: flex;
    min-height: 0;
  }
  aside {
    flex: none;
    background: var(--panel);
    min-height: 0;
  }
  .left {
    width: 290px;
    border-right: 1px solid var(--line);
  }
  .right {
    width: 264px;
    border-left: 1px solid var(--line);
  }
  main {
    flex: 1;
    display: flex;
    flex-direction: column;
    min-width: 0;
  }
  .canvas {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
  }
  .kept {
    font-size: 0.85rem;
    color: #b9b1a4;
    white-space: nowrap;
    min-width: 105px;
    text-align: right;
  }
  .quick {
    min-height: 32px;
    padding: 0 0.8rem;
    border: 1px solid #6b655b;
    border-radius: 8px;
    white-space: nowrap;
    cursor: pointer;
  }
  .quick kbd {
    font-family: inherit;
    font-size: 0.82rem;
    color: #b9b1a4;
    margin-left: 0.3rem;
  }
  .fold {
    position: absolute;
    top: 6px;
    display: grid;
    place-items: center;
    width: 28px;
    height: 28px;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--panel);
    color: var(--mute);
    cursor: pointer;
  }
  .fold.left {
    left: 6px;
    width: 28px;
  }
  .fold.right {
    right: 6px;
    width: 28px;
  }
</style>
