<script lang="ts">
  import { goto, invalidateAll } from '$app/navigation';
  import { navigating } from '$app/state';
  import DropArea from '$lib/start/DropArea.svelte';
  import JobCard from '$lib/start/JobCard.svelte';
  import TopBar from '$lib/shared/TopBar.svelte';
  import { onMount } from 'svelte';

  const { data } = $props();

  /** The job that was dropped just now: its drawing opens as soon as it stands. */
  let following = $state<string | undefined>(undefined);
  $effect(() => {
    const job = data.jobs.find((j) => j.id === following);
    if (job?.state === 'ready') void goto(`/jobs/${job.id}/sheets`);
  });
  /** Fetches the jobs again; not while another page is being opened, which that would call off. */
  function refresh(): void {
    if (!navigating.to) void invalidateAll();
  }
  onMount(() => {
    const events = new EventSource('/api/events');
    events.onopen = () => refresh();
    events.onmessage = (m) => (JSON.parse(m.data as string) as { type: string }).type === 'job' && refresh();
    // In case a message is missed.
    const timer = setInterval(() => data.jobs.some((j) => j.state === 'working' || j.state === 'queued') && refresh(), 3000);
    return () => {
      events.close();
      clearInterval(timer);
    };
  });
</script>

<svelte:head><title>Jobs · Nimble Quarry</title></svelte:head>

<div class="page">
  <TopBar />
  <main>
    <div class="head">
      <h1>Jobs</h1>
      <p class="q-caption">A job is one assembly with its drawings.</p>
    </div>
    <DropArea
      limitMb={data.limitMb}
      oncreated={(id) => {
        following = id;
        refresh();
      }}
    />
    {#if data.jobs.length === 0}
      <p class="empty">No jobs yet. Drop a STEP file above: a complete first drawing set stands there a few seconds later.</p>
    {/if}
    <ul>
      {#each data.jobs as job (job.id)}
        <li><JobCard {job} onchanged={() => refresh()} /></li>
      {/each}
    </ul>
  </main>
</div>

<style>
  .page {
    display: flex;
    flex-direction: column;
    height: 100vh;
  }
  main {
    flex: 1;
    overflow-y: auto;
    padding: 1.4rem 2rem 3rem;
    width: 100%;
    max-width: 1320px;
    margin: 0 auto;
  }
  .head {
    display: flex;
    align-items: baseline;
    gap: 0.8rem;
    margin-bottom: 0.8rem;
  }
  h1 {
    font-size: 1.5rem;
    font-weight: 600;
  }
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
    gap: 1rem;
    margin-top: 1.2rem;
  }
  .empty {
    margin-top: 1.4rem;
    color: var(--mute);
  }
</style>
