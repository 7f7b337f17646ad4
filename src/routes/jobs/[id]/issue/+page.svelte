<script lang="ts">
  import Compare from '$lib/issue/Compare.svelte';
  import { IssueDesk } from '$lib/issue/issue-desk.svelte';
  import GuideSteps from '$lib/issue/GuideSteps.svelte';
  import Issues from '$lib/issue/Issues.svelte';
  import NextIssue from '$lib/issue/NextIssue.svelte';
  import type { Action } from '$lib/shared/action';
  import { Drawing } from '$lib/shared/drawing.svelte';
  import StageFrame from '$lib/shared/StageFrame.svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();
  const drawing = untrack(() => new Drawing(data.drawing));
  const desk = untrack(() => new IssueDesk(drawing));
  const tools = $state({ quickBar: false });
  /** The words of the guide are shown instead of what changed. */
  let words = $state(false);
  const close = untrack(() => drawing.open());
  onMount(() => {
    for (const s of drawing.sheets) drawing.fetchSheet(s.id);
    const stop = drawing.proof.follow(drawing, { ways: true });
    void desk.load();
    return () => {
      stop();
      close();
    };
  });
  const actions = $derived.by((): Action[] => [
    { id: 'compare', label: 'Compare again', key: 'C', run: () => void desk.compare() },
    { id: 'guide', label: 'Words of the build guide', key: 'G', run: () => (words = !words) },
    { id: 'clouds', label: 'Clouds around what changed', key: '', disabled: !desk.issues.length, run: () => desk.putClouds() },
    {
      id: 'next-sheet',
      label: 'Next sheet',
      key: 'N',
      run: () => (desk.sheet = Math.min((desk.difference?.sheets.length ?? 1) - 1, desk.sheet + 1)),
    },
    { id: 'sheet-before', label: 'Sheet before', key: 'B', run: () => (desk.sheet = Math.max(0, desk.sheet - 1)) },
    { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
    { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: () => (tools.quickBar = true) },
  ]);
</script>

{#snippet left()}<div class="side"><Issues {drawing} {desk} /></div>{/snippet}
{#snippet right()}<div class="side"><NextIssue {drawing} {desk} /></div>{/snippet}
<StageFrame {drawing} current="Issue" {actions} {tools} {left} {right} rightWidth={300}>
  <div class="middle">
    <p class="tabs" role="group" aria-label="Middle">
      <button class="q-chip" class:on={!words} aria-pressed={!words} onclick={() => (words = false)}>What changed</button>
      <button class="q-chip" class:on={words} aria-pressed={words} onclick={() => (words = true)}>Build guide</button>
    </p>
    {#if words}<GuideSteps {drawing} />{:else}<Compare {drawing} {desk} />{/if}
  </div>
</StageFrame>

<style>
  .side {
    padding: 0.9rem;
  }
  .tabs {
    display: flex;
    gap: 0.3rem;
    padding: 0.6rem 1rem 0;
  }
  .middle {
    flex: 1;
    display: flex;
    flex-direction: column;
    min-height: 0;
    background: var(--desk);
  }
</style>
