<script lang="ts">
  import type { Action } from './action';

  interface Props {
    title: string;
    actions: readonly Action[];
    onrun: (a: Action) => void;
    onclosed: () => void;
  }
  const { title, actions, onrun, onclosed }: Props = $props();

  let menu = $state<HTMLElement>();
  $effect(() => menu?.querySelector<HTMLElement>('button:not(:disabled)')?.focus());
  function key(e: KeyboardEvent) {
    const all = [...menu!.querySelectorAll<HTMLElement>('button:not(:disabled)')];
    const at = all.indexOf(document.activeElement as HTMLElement);
    if (e.key === 'Escape') onclosed();
    else if (e.key === 'ArrowDown') all[(at + 1) % all.length]?.focus();
    else if (e.key === 'ArrowUp') all[(at - 1 + all.length) % all.length]?.focus();
    else return;
    e.preventDefault();
    e.stopPropagation();
  }
  /** What is pressed beside it closes it. */
  function leave(e: FocusEvent) {
    if (!(e.relatedTarget instanceof Node) || !menu?.parentElement?.contains(e.relatedTarget)) onclosed();
  }
</script>

<div class="menu" role="menu" aria-label={title} tabindex="-1" bind:this={menu} onkeydown={key} onfocusout={leave}>
  {#each actions as a (a.id)}
    <button role="menuitem" disabled={a.disabled} onclick={() => onrun(a)}><span>{a.label}</span><kbd>{a.key}</kbd></button>
  {/each}
</div>

<style>
  .menu {
    position: absolute;
    bottom: calc(100% + 8px);
    left: 0;
    z-index: 30;
    width: max-content;
    max-width: 380px;
    padding: 5px;
    border-radius: 9px;
    background: #2a2926;
    box-shadow: 0 8px 28px rgb(0 0 0 / 0.35);
  }
  button {
    display: flex;
    justify-content: space-between;
    gap: 1.5rem;
    width: 100%;
    padding: 6px 9px;
    border-radius: 6px;
    text-align: left;
    cursor: pointer;
  }
  button:hover:not(:disabled),
  button:focus-visible {
    background: rgb(255 255 255 / 0.14);
  }
  button:disabled {
    opacity: 0.4;
  }
  kbd {
    font-family: inherit;
    font-size: 0.8rem;
    color: #c9c2b6;
  }
</style>
