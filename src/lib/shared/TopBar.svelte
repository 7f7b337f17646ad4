<script lang="ts">
  import { Moon, Sun } from '@lucide/svelte';
  import type { Snippet } from 'svelte';

  interface Props {
    title?: string;
    subtitle?: string;
    children?: Snippet;
    end?: Snippet;
  }
  const { title, subtitle, children, end }: Props = $props();

  let dark = $state(false);
  $effect(() => {
    dark = document.documentElement.classList.contains('dark');
  });
  function flip() {
    dark = !dark;
    document.documentElement.classList.toggle('dark', dark);
    localStorage.setItem('theme', dark ? 'dark' : 'light');
  }
</script>

<header class="bar">
  <a class="home" href="/" aria-label="All jobs"><img src="/mark.svg" alt="" width="24" height="24" /></a>
  <div class="names">
    <b>{title ?? 'Nimble Quarry'}</b>
    {#if subtitle}<small>{subtitle}</small>{/if}
  </div>
  <div class="middle">{@render children?.()}</div>
  <div class="end">
    {@render end?.()}
    <button class="icon" onclick={flip} aria-label={dark ? 'Light theme' : 'Dark theme'} title={dark ? 'Light theme' : 'Dark theme'}>
      {#if dark}<Sun size={17} />{:else}<Moon size={17} />{/if}
    </button>
  </div>
</header>

<style>
  .bar {
    display: flex;
    align-items: center;
    gap: 0.7rem;
    height: 48px;
    flex: none;
    padding: 0 0.9rem;
    background: var(--bar);
    color: var(--on-bar);
  }
  .home {
    display: grid;
    place-items: center;
    width: 30px;
    height: 30px;
  }
  .names {
    min-width: 0;
    max-width: 245px;
    line-height: 1.15;
  }
  .names b {
    display: block;
    font-weight: 600;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .names small {
    font-size: 0.78rem;
    color: #b9b1a4;
  }
  .middle {
    flex: 1;
    display: flex;
    justify-content: center;
    min-width: 0;
  }
  .end {
    display: flex;
    align-items: center;
    gap: 0.4rem;
  }
  .bar :global(.icon) {
    display: grid;
    place-items: center;
    width: 32px;
    height: 32px;
    border-radius: 6px;
    cursor: pointer;
  }
  .bar :global(.icon:hover:not(:disabled)) {
    background: rgb(255 255 255 / 0.12);
  }
  .bar :global(.icon:disabled) {
    opacity: 0.35;
  }
  .bar :global(:focus-visible) {
    outline-color: #7fd3dc;
  }
</style>
