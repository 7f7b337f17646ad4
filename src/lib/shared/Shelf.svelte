<script lang="ts">
  import { ChevronDown } from '@lucide/svelte';
  import type { Action } from './action';
  import ShelfMenu from './ShelfMenu.svelte';

  const { actions }: { actions: readonly Action[] } = $props();

  interface Entry {
    readonly group: string | undefined;
    readonly of: readonly Action[];
  }

  /** What is one kind of work stands behind one button, in the order in which the kinds come. */
  const entries = $derived.by(() => {
    const out: { group: string | undefined; of: Action[] }[] = [];
    for (const a of actions) {
      const known = a.group === undefined ? undefined : out.find((e) => e.group === a.group);
      if (known) known.of.push(a);
      else if (a.group !== undefined || a.shelf) out.push({ group: a.group, of: [a] });
    }
    return out satisfies Entry[];
  });

  /** Which of a group was used last: it is on the button. */
  let last = $state<Record<string, string>>({});
  let open = $state<string | undefined>(undefined);
  const shown = (e: Entry): Action =>
    e.of.find((a) => a.on) ?? e.of.find((a) => e.group !== undefined && a.id === last[e.group]) ?? e.of.find((a) => a.shelf) ?? e.of[0]!;
  function run(e: Entry, a: Action) {
    // What is done in one press is not what the button is pressed for next.
    if (e.group !== undefined && a.on !== undefined) last[e.group] = a.id;
    open = undefined;
    a.run();
  }
</script>

<div class="shelf" role="toolbar" aria-label="Tools">
  {#each entries as e (e.group ?? e.of[0]!.id)}
    {@const a = shown(e)}
    <div class="entry" class:on={e.of.some((x) => x.on)}>
      <button aria-pressed={a.on ?? undefined} disabled={a.disabled} onclick={() => run(e, a)} aria-keyshortcuts={a.key} title={a.label}>
        <span>{a.short ?? e.group ?? a.label}</span>
        <kbd>{a.key}</kbd>
      </button>
      {#if e.of.length > 1}
        <button
          class="more"
          aria-label="More of {e.group}"
          aria-haspopup="menu"
          aria-expanded={open === e.group}
          onclick={() => (open = open === e.group ? undefined : e.group)}
        >
          <ChevronDown size={14} />
        </button>
        {#if open === e.group}<ShelfMenu title={e.group ?? ''} actions={e.of} onrun={(x) => run(e, x)} onclosed={() => (open = undefined)} />{/if}
      {/if}
    </div>
  {/each}
</div>

<style>
  .shelf {
    position: absolute;
    left: 50%;
    bottom: 10px;
    transform: translateX(-50%);
    display: flex;
    padding: 4px;
    border-radius: 12px;
    background: #2a2926;
    color: #f6f3ee;
    box-shadow: 0 3px 14px rgb(0 0 0 / 0.3);
  }
  .entry {
    position: relative;
    display: flex;
    border-radius: 8px;
  }
  button {
    display: grid;
    justify-items: center;
    align-content: center;
    min-width: 40px;
    white-space: nowrap;
    padding: 5px 6px;
    border-radius: 8px;
    line-height: 1.15;
    cursor: pointer;
  }
  .more {
    min-width: 24px;
    padding: 0;
  }
  button:hover:not(:disabled) {
    background: rgb(255 255 255 / 0.12);
  }
  button:disabled {
    opacity: 0.4;
  }
  .on {
    background: #9c590a;
  }
  kbd {
    font-family: inherit;
    font-size: 0.75rem;
    min-height: 1em;
    color: #c9c2b6;
  }
  .on kbd {
    color: #fff;
  }
</style>
