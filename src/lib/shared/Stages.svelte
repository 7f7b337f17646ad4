<script lang="ts">
  import { X } from '@lucide/svelte';

  /** The path across the top. */
  const STAGES = [
    { name: 'Model', ready: true },
    { name: 'Explode', ready: true },
    { name: 'Sheets', ready: true },
    { name: 'Proof', ready: true },
    { name: 'Issue', ready: true },
  ] as const;
  interface Props {
    current: string;
    job: string;
    counts?: { must: number; should: number } | undefined;
    /** Share of an issue that is made. */
    making?: number | undefined;
    onstop?: () => void;
  }
  const { current, job, counts, making, onstop }: Props = $props();
  const state = $derived(counts && [counts.must ? `${counts.must} must` : '', counts.should ? `${counts.should} should` : ''].filter(Boolean).join(', '));
</script>

<nav aria-label="Stages">
  {#each STAGES as s, i (s.name)}
    {#if i}<i aria-hidden="true"></i>{/if}
    {#if s.ready}
      <a
        href="/jobs/{job}/{s.name.toLowerCase()}"
        data-sveltekit-preload-data="off"
        aria-current={s.name === current ? 'step' : undefined}
        class:on={s.name === current}
        >{s.name}{#if s.name === 'Proof' && state}<small>{state}</small>{/if}{#if s.name === 'Issue' && making !== undefined}<small role="status"
            >being made, {Math.round(100 * making)} %</small
          >{/if}</a
      >
    {:else}
      <span title="{s.name} comes with a later version" aria-disabled="true">{s.name}</span>
    {/if}
  {/each}
  {#if making !== undefined}<button class="stop" onclick={onstop} aria-label="Stop making the issue" title="Stop making the issue"><X size={14} /></button>{/if}
</nav>

<style>
  nav {
    display: flex;
    align-items: center;
    gap: 0.55rem;
  }
  i {
    width: 20px;
    height: 1px;
    background: #6b655b;
  }
  a,
  span {
    padding: 0.25rem 0.85rem;
    border-radius: 999px;
    color: var(--on-bar);
  }
  span {
    color: #9f978a;
    padding: 0.25rem 0.3rem;
    cursor: default;
  }
  small {
    margin-left: 0.4rem;
    padding: 0.05rem 0.4rem;
    border-radius: 999px;
    background: #f3dcb8;
    color: #6b3d06;
    font-size: 0.75rem;
    font-weight: 600;
  }
  .stop {
    display: grid;
    place-items: center;
    width: 26px;
    height: 26px;
    border-radius: 50%;
    color: var(--on-bar);
    cursor: pointer;
  }
  .stop:hover {
    background: #4a453e;
  }
  a.on {
    background: #f6f3ee;
    color: #2a2926;
    font-weight: 600;
  }
</style>
