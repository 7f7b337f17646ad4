<script lang="ts">
  import { drawingOf } from '$core/document/records';
  import { Redo2, Undo2 } from '@lucide/svelte';
  import { isMade, type Drawing } from './drawing.svelte';
  import Stages from './Stages.svelte';
  import TopBar from './TopBar.svelte';

  const { drawing, current, onquick }: { drawing: Drawing; current: string; onquick: () => void } = $props();
  const record = $derived(drawingOf(drawing.document));

  function leave(e: BeforeUnloadEvent) {
    if (!drawing.kept) e.preventDefault();
  }
</script>

<svelte:window onbeforeunload={leave} />
<svelte:head><title>{record.title} · Nimble Quarry</title></svelte:head>

<TopBar title={record.title} subtitle={[record.number, record.revision && `revision ${record.revision}`].filter(Boolean).join(' · ')}>
  <Stages
    {current}
    job={drawing.id}
    counts={drawing.proof.proved && drawing.proof.counts}
    making={isMade(drawing.issuing) ? drawing.issuing?.progress : undefined}
    onstop={() => drawing.stopIssuing()}
  />
  {#snippet end()}
    <button class="icon" onclick={() => drawing.undo()} disabled={!drawing.canUndo} aria-label="Undo" title="Undo (Ctrl Z)"><Undo2 size={17} /></button>
    <button class="icon" onclick={() => drawing.redo()} disabled={!drawing.canRedo} aria-label="Redo" title="Redo (Ctrl Shift Z)"><Redo2 size={17} /></button>
    <span class="kept" role="status" data-testid="kept" class:lost={drawing.lost}
      >{drawing.kept ? 'All changes kept' : drawing.lost ? 'Not connected: changes wait here' : 'Keeping …'}</span
    >
    <button class="quick" onclick={onquick}>Do anything <kbd>Ctrl K</kbd></button>
  {/snippet}
</TopBar>

<style>
  .kept {
    font-size: 0.85rem;
    color: #b9b1a4;
    white-space: nowrap;
    min-width: 105px;
    text-align: right;
  }
  .kept.lost {
    color: #ffd28a;
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
</style>
