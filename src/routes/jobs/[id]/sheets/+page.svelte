<script lang="ts">
  import { actionFor } from '$lib/shared/action';
  import { actionsOf } from '$lib/sheets/actions';
  import { Drawing } from '$lib/shared/drawing.svelte';
  import Ledger from '$lib/sheets/Ledger.svelte';
  import QuickBar from '$lib/shared/QuickBar.svelte';
  import Shelf from '$lib/shared/Shelf.svelte';
  import SheetCanvas from '$lib/sheets/SheetCanvas.svelte';
  import SheetStrip from '$lib/sheets/SheetStrip.svelte';
  import Slip from '$lib/sheets/Slip.svelte';
  import { Tools } from '$lib/sheets/tools.svelte';
  import JobBar from '$lib/shared/JobBar.svelte';
  import { PanelLeft, PanelRight } from '@lucide/svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const tools = new Tools(drawing);
  const actions = $derived(actionsOf(drawing, tools));

  let mounted = $state(false);
  onMount(() => {
    mounted = true;
    return drawing.open();
  });

  $effect(() => sessionStorage.setItem(`sheet:${drawing.id}`, drawing.sheetId));

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
</script>

<svelte:window onkeydown={key} />

<div class="page">
  <JobBar {drawing} current="Sheets" onquick={() => (tools.quickBar = true)} />
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
