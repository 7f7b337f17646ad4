<script lang="ts">
  import Fold from '$lib/kit/Fold.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import UnitChart from './UnitChart.svelte';
  import type { IssueDesk } from './issue-desk.svelte';

  const { drawing, desk }: { drawing: Drawing; desk: IssueDesk } = $props();
  const last = $derived(desk.issues.find((i) => i.kind === 'issued')?.id);
  const stateOf = (i: { id: string; kind: string }) => (i.kind === 'review' ? 'for review' : i.id === last ? 'issued' : 'superseded');
  const file = (issue: string, name: string) => `/api/jobs/${drawing.id}/issues/${issue}/${encodeURIComponent(name)}`;
  const itemOf = (part: string | null) => {
    const item = drawing.items.find((i) => i.part === part);
    return item ? `, ${item.number} ${item.values.description.text}` : '';
  };
  let answers = $state<Record<string, string>>({});
  const open = $derived(desk.remarks.filter((r) => r.answer === null));
</script>

<h2>Issues</h2>
<p class="quiet">Frozen: nothing in them can change.</p>
<ol>
  {#each desk.issues as i (i.id)}
    <li class={stateOf(i).replace(' ', '-')}>
      <p><b>{i.revision}</b> · {i.date} · {stateOf(i)}</p>
      <p class="quiet">{i.words.join('; ') || 'no words'}</p>
      <p class="quiet">
        <button class="link" onclick={() => desk.verify(i)} title="Checks every byte of the package">{i.sha256.slice(0, 4)}…{i.sha256.slice(-4)}</button>
        {#if desk.verified.get(i.id) === true}<b class="good">verified</b>{:else if desk.verified.get(i.id) === false}<b class="bad">changed</b>{/if}
      </p>
      <p class="q-row">
        <a class="q-button" href={file(i.id, 'package.zip')} download>Package</a>
        {#if i.files.some((f) => f.name.endsWith('guide.html'))}<a class="q-button" href="/guide/{i.id}" target="_blank">Guide</a>{/if}
      </p>
      <Fold title="{i.files.length} files">
        <ul class="files">
          {#each i.files as f (f.name)}<li>
              <a href={file(i.id, f.name)} download>{f.name}</a> <small>{Math.max(1, Math.round(f.bytes / 1024))} kB</small>
            </li>{/each}
        </ul>
        <p class="q-row">
          <button class="q-button" onclick={() => desk.takeBack(i)}>Take it back as a start</button>
          <button class="q-button" onclick={() => void desk.branch(i)}>Begin a job of its own with it</button>
        </p>
      </Fold>
    </li>
  {:else}
    <li>{desk.loaded ? 'Nothing was issued yet.' : 'Being looked up …'}</li>
  {/each}
</ol>
{#if desk.remarks.length}
  <h2>From the bench{open.length ? `: ${open.length} open` : ''}</h2>
  <ul>
    {#each desk.remarks as r (r.id)}
      <li class="remark">
        <p><b>{r.revision}, step {r.step}{itemOf(r.part)}</b> {r.text}</p>
        <p class="quiet">{[r.who, r.serial && `unit ${r.serial}`, r.saidAt.slice(0, 16).replace('T', ' ')].filter(Boolean).join(' · ')}</p>
        {#if r.photo}<a href="/api/jobs/{drawing.id}/remarks/{r.id}" target="_blank"
            ><img src="/api/jobs/{drawing.id}/remarks/{r.id}" alt="What the worker saw" /></a
          >{/if}
        {#if r.answer === null}
          <form
            class="q-row"
            onsubmit={(e) => {
              e.preventDefault();
              void desk.answer(r, answers[r.id] ?? '');
            }}
          >
            <input class="q-field" aria-label="Answer to the remark" bind:value={answers[r.id]} />
            <button class="q-button">Answer</button>
          </form>
        {:else}<p class="quiet">Answered: {r.answer}</p>{/if}
      </li>
    {/each}
  </ul>
{/if}
{#if desk.units.length}
  <h2>Units</h2>
  <UnitChart units={desk.units} />
  <p><a class="q-button" href="/api/jobs/{drawing.id}/files/units.csv" download>Everything from the bench, CSV</a></p>
{/if}

<style>
  h2 {
    font-size: 1rem;
    font-weight: 600;
    margin-top: 0.8rem;
  }
  .quiet {
    line-height: 1.35;
    color: var(--mute);
    font-size: 0.85rem;
  }
  ol > li,
  .remark {
    border-left: 3px solid var(--line);
    padding: 0.3rem 0 0.3rem 0.6rem;
    margin: 0.5rem 0;
  }
  .issued {
    border-color: #12707a;
  }
  .for-review {
    border-color: #b4690e;
  }
  .files {
    font-size: 0.85rem;
  }
  .files a {
    text-decoration: underline;
  }
  .link {
    font-family: ui-monospace, monospace;
    text-decoration: underline;
    cursor: pointer;
  }
  .good {
    color: #3f6a37;
  }
  .bad {
    color: #a3271f;
  }
  img {
    max-width: 100%;
    max-height: 120px;
    border-radius: 4px;
  }
</style>
