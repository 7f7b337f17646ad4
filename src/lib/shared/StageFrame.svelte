<script lang="ts">
  import type { Snippet } from 'svelte';
  import { actionFor, isLetter, isTyping, type Action } from './action';
  import { letters } from './letters';
  import type { Drawing } from './drawing.svelte';
  import JobBar from './JobBar.svelte';
  import QuickBar from './QuickBar.svelte';
  import UnitChoice from './UnitChoice.svelte';

  interface Props {
    drawing: Drawing;
    /** Name of the stage. */
    current: string;
    actions: readonly Action[];
    /** Whether the quick bar is open. */
    tools: { quickBar: boolean };
    /** Escape; without it the key does what an action says. */
    onescape?: () => void;
    left?: Snippet | undefined;
    right?: Snippet | undefined;
    /** A key that is meant for what is in hand. @returns whether it was */
    onkey?: (e: KeyboardEvent) => boolean;
    /** Pixels. */
    rightWidth?: number;
    children: Snippet;
  }
  const { drawing, current, actions, tools, onescape, onkey, left, right, rightWidth = 268, children }: Props = $props();

  function key(e: KeyboardEvent) {
    if (tools.quickBar) return;
    if (e.key === 'Escape' && onescape) {
      onescape();
      return;
    }
    // The space bar presses what has the focus.
    if (e.key === ' ' && (e.target as HTMLElement).closest('button, select, a, input')) return;
    if (onkey?.(e)) {
      e.preventDefault();
      return;
    }
    const action = actionFor(actions, e);
    if (isLetter(e) && !e.repeat && !isTyping(e)) letters.press(() => action?.run());
    else letters.flush();
    if (!action) return;
    e.preventDefault();
    if (!isLetter(e) || e.repeat) action.run();
  }
</script>

<svelte:window onkeydown={key} onpointerdowncapture={() => letters.flush()} />

<div class="page">
  <JobBar {drawing} {current} onquick={() => (tools.quickBar = true)} />
  <UnitChoice {drawing} ask />
  <div class="body">
    {#if left}<aside class="left">{@render left()}</aside>{/if}
    <main>{@render children()}</main>
    {#if right}<aside class="right" style:width="{rightWidth}px">{@render right()}</aside>{/if}
  </div>
</div>
<QuickBar {drawing} {tools} {actions} />

<style>
  .page {
    /* Hidden inputs of switches are placed absolutely: they belong to the page, and never make it scroll. */
    position: relative;
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
  main {
    flex: 1;
    display: flex;
    flex-direction: column;
    min-width: 0;
    background: var(--panel);
  }
  aside {
    position: relative;
    flex: none;
    min-height: 0;
    overflow-y: auto;
    background: var(--panel);
  }
  .left {
    width: 295px;
    border-right: 1px solid var(--line);
  }
  .right {
    border-left: 1px solid var(--line);
  }
</style>
