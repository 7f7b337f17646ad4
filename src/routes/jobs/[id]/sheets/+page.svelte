<script lang="ts">
  import { plainKey } from '$lib/shared/action';
  import { actionsOf } from '$lib/sheets/actions';
  import { Drawing } from '$lib/shared/drawing.svelte';
  import FormatBar from '$lib/sheets/FormatBar.svelte';
  import Formats from '$lib/formats/Formats.svelte';
  import Print from '$lib/print/Print.svelte';
  import Recipes from '$lib/recipes/Recipes.svelte';
  import Ledger from '$lib/sheets/Ledger.svelte';
  import StageFrame from '$lib/shared/StageFrame.svelte';
  import Shelf from '$lib/shared/Shelf.svelte';
  import SheetCanvas from '$lib/sheets/SheetCanvas.svelte';
  import SheetStrip from '$lib/sheets/SheetStrip.svelte';
  import Slip from '$lib/sheets/Slip.svelte';
  import { chooseFromAddress } from '$lib/shared/go';
  import { Tools } from '$lib/sheets/tools.svelte';
  import { PanelLeft, PanelRight } from '@lucide/svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const tools = new Tools(drawing);
  const actions = $derived(actionsOf(drawing, tools));

  let mounted = $state(false);
  // Views are asked for before the page stands: they come while it is built.
  const close = untrack(() => drawing.open());
  onMount(() => {
    mounted = true;
    chooseFromAddress(drawing);
    return close;
  });
  // The sheet comes first, then what a checker says of it.
  $effect(() => (drawing.openReady ? untrack(() => drawing.proof.follow(drawing)) : undefined));

  $effect(() => sessionStorage.setItem(`sheet:${drawing.id}`, drawing.sheetId));
</script>

<Recipes {drawing} {tools} />
<Formats {drawing} {tools} />
<Print {drawing} {tools} />
{#snippet ledger()}<Ledger {drawing} />{/snippet}
{#snippet slip()}<Slip {drawing} {tools} />{/snippet}
<StageFrame
  {drawing}
  current="Sheets"
  {actions}
  {tools}
  onescape={() => tools.stepBack()}
  onkey={(e) => {
    const key = plainKey(e);
    return key !== undefined && (tools.current.key?.(key) ?? false);
  }}
  left={tools.ledger ? ledger : undefined}
  right={tools.slip ? slip : undefined}
>
  <FormatBar {drawing} {tools} />
  <div class="canvas">
    {#if mounted}<SheetCanvas {drawing} {tools} />{/if}
    <button
      class="fold left"
      onclick={() => (tools.ledger = !tools.ledger)}
      aria-label={tools.ledger ? 'Fold the ledger away' : 'Show the ledger'}
      title="Ledger ( [ )"><PanelLeft size={16} /></button
    >
    <button class="fold right" onclick={() => (tools.slip = !tools.slip)} aria-label={tools.slip ? 'Fold the slip away' : 'Show the slip'} title="Slip ( ] )"
      ><PanelRight size={16} /></button
    >
    <Shelf actions={actions.filter((a) => a.shelf || a.group)} />
  </div>
  {#if mounted}<SheetStrip {drawing} {tools} />{/if}
</StageFrame>

<style>
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
