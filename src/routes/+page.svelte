<script lang="ts">
  import { goto, invalidateAll } from '$app/navigation';
  import { navigating } from '$app/state';
  import DropArea from '$lib/start/DropArea.svelte';
  import JobCard from '$lib/start/JobCard.svelte';
  import TopBar from '$lib/shared/TopBar.svelte';
  import { onMount, untrack } from 'svelte';

  const { data } = $props();

  /** The job that was dropped just now: its drawing opens as soon as it stands. */
  let following = $state<string | undefined>(undefined);
  $effect(() => {
    const job = data.jobs.find((j) => j.id === following);
    if (job?.state === 'ready' || job?.state === 'drafting') void goto(`/jobs/${job.id}/sheets`);
  });
  let q = $state(untrack(() => data.q));
  let sort = $state(untrack(() => data.sort));
  let soon: ReturnType<typeof setTimeout> | undefined;
  /** Shows a page of the jobs that are looked for. */
  function look(page: number): void {
    clearTimeout(soon);
    const wanted = new URLSearchParams({
      ...(q.trim() ? { q: q.trim() } : {}),
      ...(sort === 'changed' ? {} : { sort }),
      ...(page > 1 ? { page: String(page) } : {}),
    });
    void goto(`/?${wanted}`, { keepFocus: true, replaceState: true, noScroll: page === data.page });
  }
  const lookSoon = () => {
    clearTimeout(soon);
    soon = setTimeout(() => look(1), 250);
  };
  /** Fetches the jobs again; not while another page is being opened, which that would call off. */
  function refresh(): void {
    if (!navigating.to) void invalidateAll();
  }
  onMount(() => {
    const events = new EventSource('/api/events');
    events.onopen = () => refresh();
    events.onmessage = (m) => (JSON.parse(m.data as string) as { type: string }).type === 'job' && refresh();
    // In case a message is missed.
    const timer = setInterval(() => data.jobs.some((j) => ['queued', 'working', 'drafting'].includes(j.state)) && refresh(), 3000);
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
    {#if data.total > 6 || data.q}
      <form class="find" role="search" onsubmit={(e) => (e.preventDefault(), look(1))}>
        <input class="q-field" type="search" aria-label="Find a job by its title" placeholder="Find a job …" bind:value={q} oninput={lookSoon} />
        <label class="q-caption"
          >Order
          <select class="q-field" bind:value={sort} onchange={() => look(1)}>
            <option value="changed">changed last</option>
            <option value="title">title</option>
            <option value="size">components</option>
          </select>
        </label>
        <span class="q-caption" role="status">{data.total} {data.total === 1 ? 'job' : 'jobs'}</span>
      </form>
    {/if}
    {#if data.jobs.length === 0 && data.q}
      <p class="empty">No job has “{data.q}” in its title.</p>
    {:else if data.jobs.length === 0}
      <p class="empty">No jobs yet. Drop a STEP file above: a complete first drawing set stands there a few seconds later.</p>
    {/if}
    <ul>
      {#each data.jobs as job (job.id)}
        <li><JobCard {job} onchanged={() => refresh()} /></li>
      {/each}
    </ul>
    {#if data.pages > 1}
      <nav class="pages" aria-label="Pages">
        <button class="q-button" disabled={data.page <= 1} onclick={() => look(data.page - 1)}>Before</button>
        <span>page {data.page} of {data.pages}</span>
        <button class="q-button" disabled={data.page >= data.pages} onclick={() => look(data.page + 1)}>Next</button>
      </nav>
    {/if}
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
  .find,
  .pages {
    display: flex;
    gap: 1rem;
    align-items: center;
    margin-top: 1.2rem;
  }
  .find input {
    max-width: 320px;
  }
  .pages {
    justify-content: center;
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
