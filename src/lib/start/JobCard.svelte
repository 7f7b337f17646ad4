<script lang="ts">
  import Bar from '../kit/Bar.svelte';
  import type { JobSummary } from './job-summary';
  import { Copy, Pencil, Trash2 } from '@lucide/svelte';
  import { call } from '../shared/api';
  import { notify } from '../shared/notices.svelte';

  const { job, onchanged }: { job: JobSummary; onchanged: () => void } = $props();

  const busy = $derived(job.state === 'queued' || job.state === 'working');
  const open = $derived(job.state === 'ready' || job.state === 'drafting');
  let sure = $state(false);
  /** Its name is being written. */
  let naming = $state(false);

  async function act(path: string, method = 'POST', body?: unknown) {
    try {
      await call(`/api/jobs/${job.id}${path}`, { method, ...(body === undefined ? {} : { body }) });
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
    onchanged();
  }
  const megabytes = (b: number) => (b > 1e6 ? `${(b / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(b / 1e3))} kB`);
  const when = $derived(new Date(job.changedAt).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }));
  const facts = $derived(
    [
      ...(open ? [`${job.components} components`, `${job.parts} parts`] : []),
      megabytes(job.bytes),
      job.state === 'drafting' ? 'more sheets are being drawn …' : when,
    ].join(' · '),
  );
</script>

<article class="card">
  {#if open}
    <a class="picture" href="/jobs/{job.id}/sheets" aria-label="Open {job.title}"><img src="/api/jobs/{job.id}/picture" alt="" /></a>
  {:else}
    <div class="picture">
      {#if busy}
        <div class="work" role="status">
          <p>{job.stage === 'queued' ? 'Waiting its turn' : job.stage} …</p>
          <Bar label="Bringing in {job.title}" share={job.progress} />
          <button class="q-button" onclick={() => act('/cancel')}>Cancel</button>
        </div>
      {:else}
        <div class="work">
          <p class="trouble" role="alert">{job.errorText ?? 'Cancelled.'}</p>
          <button class="q-button" onclick={() => act('/retry')}>Try again</button>
        </div>
      {/if}
    </div>
  {/if}
  <div class="foot">
    <div class="names">
      {#if naming}
        <!-- svelte-ignore a11y_autofocus -->
        <input
          class="q-field"
          aria-label="Name of the job"
          value={job.title}
          autofocus
          onkeydown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') naming = false;
          }}
          onblur={(e) => {
            const title = e.currentTarget.value.trim();
            if (naming && title && title !== job.title) void act('', 'PATCH', { title });
            naming = false;
          }}
        />
      {:else if open}<a href="/jobs/{job.id}/sheets">{job.title}</a>{:else}<b>{job.title}</b>{/if}
      <p class="q-caption">{facts}</p>
    </div>
    {#if !busy}
      <button class="bin" aria-label="Rename {job.title}" title="Rename" onclick={() => (naming = true)}><Pencil size={16} /></button>
      {#if open}
        <button class="bin" aria-label="Duplicate {job.title}" title="Duplicate" onclick={() => act('/duplicate')}><Copy size={16} /></button>
      {/if}
      {#if sure}
        <button class="q-button" onclick={() => act('', 'DELETE')} onblur={() => (sure = false)}>Delete?</button>
      {:else}
        <button class="bin" aria-label="Delete {job.title}" title="Delete" onclick={() => (sure = true)}><Trash2 size={16} /></button>
      {/if}
    {/if}
  </div>
</article>

<style>
  .card {
    border: 1px solid var(--line);
    border-radius: 10px;
    overflow: hidden;
    background: var(--panel);
  }
  .picture {
    display: grid;
    place-items: center;
    height: 190px;
    background: #fffefb;
    color: #2a2926;
    border-bottom: 1px solid var(--line);
  }
  .picture img {
    max-width: 90%;
    height: 165px;
    object-fit: contain;
  }
  .work {
    display: grid;
    gap: 0.6rem;
    justify-items: center;
    padding: 1rem;
    text-align: center;
    width: 100%;
  }
  .work .q-button {
    background: #fff;
    color: #2a2926;
  }
  .trouble {
    color: #a3392a;
    font-size: 0.92rem;
  }
  .foot {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    padding: 0.6rem 0.8rem;
  }
  .names {
    min-width: 0;
  }
  .names a,
  .names b {
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  .bin {
    display: grid;
    place-items: center;
    width: 30px;
    height: 30px;
    color: var(--mute);
    cursor: pointer;
  }
</style>
