<script lang="ts">
  import CurePanel from '$lib/proof/CurePanel.svelte';
  import { Cures } from '$lib/proof/cures.svelte';
  import { Desk } from '$lib/proof/desk.svelte';
  import Findings from '$lib/proof/Findings.svelte';
  import HeatMap from '$lib/proof/HeatMap.svelte';
  import Place from '$lib/proof/Place.svelte';
  import type { Action } from '$lib/shared/action';
  import { Drawing } from '$lib/shared/drawing.svelte';
  import { openSheetAt } from '$lib/shared/go';
  import StageFrame from '$lib/shared/StageFrame.svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const desk = new Desk(drawing);
  const cures = new Cures(drawing);
  const tools = $state({ quickBar: false });

  let mounted = $state(false);
  const close = untrack(() => drawing.open());
  onMount(() => {
    mounted = true;
    // A proof is of all sheets.
    for (const s of drawing.sheets) drawing.fetchSheet(s.id);
    const stop = drawing.proof.follow(drawing, { ways: true });
    return () => {
      stop();
      close();
    };
  });
  $effect(() => {
    for (const s of drawing.sheets) untrack(() => drawing.fetchSheet(s.id));
  });

  const actions = $derived.by((): Action[] => {
    const at = desk.current;
    const atPart = drawing.items.find((i) => at?.items.includes(i.number))?.part;
    return [
      { id: 'next', label: 'Next finding', key: 'N', disabled: !at, run: () => desk.walk(1) },
      { id: 'before', label: 'Finding before', key: 'B', disabled: !at, run: () => desk.walk(-1) },
      { id: 'fix', label: at?.fix ?? 'Put it right', key: 'F', disabled: !at?.fix, run: () => at && desk.fix(at) },
      { id: 'leave', label: 'Leave it so, with a reason', key: 'L', disabled: !at, run: () => at && (desk.look(at), (desk.accepting = true)) },
      { id: 'ways', label: 'Ways to show the item better', key: 'W', disabled: !atPart, run: () => atPart && void cures.look(atPart) },
      { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
      { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
      { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: () => (tools.quickBar = true) },
    ];
  });
</script>

<StageFrame {drawing} current="Proof" {actions} {tools} onescape={() => ((desk.accepting = false), cures.close())}>
  <div class="proof">
    <section aria-label="Findings"><Findings {drawing} {desk} {cures} /></section>
    <section class="seen" aria-label="Coverage">
      <CurePanel {drawing} {cures} />
      {#if desk.current?.sheet}<Place {drawing} finding={desk.current} />{/if}
      {#if mounted}
        <HeatMap
          {drawing}
          lit={desk.current?.items ?? []}
          onpress={(view, part) => openSheetAt(drawing, view.sheet, { kind: 'item', part, view: view.id })}
          onitem={(part) => void cures.look(part)}
        />
      {/if}
    </section>
  </div>
</StageFrame>

<style>
  .proof {
    flex: 1;
    display: grid;
    grid-template-columns: 400px minmax(0, 1fr);
    min-height: 0;
  }
  section {
    min-height: 0;
    overflow-y: auto;
    padding: 1rem;
    background: var(--panel);
  }
  .seen {
    display: flex;
    flex-direction: column;
    gap: 0.6rem;
    border-left: 1px solid var(--line);
    background: var(--desk, var(--panel));
  }
</style>
