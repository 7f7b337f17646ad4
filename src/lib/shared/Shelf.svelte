<script lang="ts">
  import type { Action } from './action';

  const { actions }: { actions: readonly Action[] } = $props();
</script>

<div class="shelf" role="toolbar" aria-label="Tools">
  {#each actions as a (a.id)}
    <button class:on={a.on} aria-pressed={a.on ?? undefined} disabled={a.disabled} onclick={a.run} aria-keyshortcuts={a.key}>
      <span>{a.short ?? a.label}</span>
      <kbd>{a.key}</kbd>
    </button>
  {/each}
</div>

<style>
  .shelf {
    position: absolute;
    left: 50%;
    bottom: 10px;
    transform: translateX(-50%);
    display: flex;
    gap: 2px;
    padding: 4px;
    border-radius: 12px;
    background: #2a2926;
    color: #f6f3ee;
    box-shadow: 0 3px 14px rgb(0 0 0 / 0.3);
  }
  button {
    display: grid;
    justify-items: center;
    min-width: 46px;
    white-space: nowrap;
    padding: 5px 8px;
    border-radius: 8px;
    line-height: 1.15;
    cursor: pointer;
  }
  button:hover:not(:disabled) {
    background: rgb(255 255 255 / 0.12);
  }
  button:disabled {
    opacity: 0.4;
  }
  button.on {
    background: #9c590a;
  }
  kbd {
    font-family: inherit;
    font-size: 0.75rem;
    color: #c9c2b6;
  }
  .on kbd {
    color: #fff;
  }
</style>
