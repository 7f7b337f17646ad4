<script lang="ts">
  import Bar from '../kit/Bar.svelte';
  import { changeId, type ChangeKind, type ChangeReport, type ModelChange } from '$core/revision/changes';
  import type { Decision } from '$core/revision/match';
  import type { Loss } from '$core/revision/take-over';
  import { call, type ApiFailure } from '../shared/api';
  import type { Drawing } from '../shared/drawing.svelte';
  import { notify } from '../shared/notices.svelte';
  import UnitQuestion, { type Question } from '../start/UnitQuestion.svelte';

  interface Offer {
    readonly id: string;
    readonly name: string;
    readonly state: 'queued' | 'working' | 'ready' | 'failed';
    readonly stage: string;
    readonly progress: number;
    readonly errorText: string | null;
  }
  interface Changes {
    readonly report: ChangeReport;
    readonly doubtful: readonly {
      readonly before: string;
      readonly after: string;
      readonly names: readonly [string, string];
      readonly keys: readonly [string, string];
      readonly why: string;
      readonly assumed: boolean;
    }[];
    readonly losses: readonly Loss[];
  }
  interface Taken {
    readonly report: ChangeReport;
    readonly losses: readonly Loss[];
  }
  const { drawing }: { drawing: Drawing } = $props();
  const path = $derived(`/api/jobs/${drawing.id}/models`);

  let offer = $state.raw<Offer | null>(null);
  let demo = $state(false);
  let taken = $state.raw<Taken | null>(null);
  /** Ticked before the model is taken over; afterwards the ticks are part of the drawing. */
  let ticked = $state.raw<readonly string[]>([]);
  let reuseNumbers = $state(false);
  let changes = $state.raw<Changes | undefined>(undefined);
  let decisions = $state.raw<readonly Decision[]>([]);
  let open = $state(false);
  let busy = $state(false);
  let only = $state<ChangeKind | 'open' | ''>('');
  let asked = $state.raw<{ files: readonly File[]; question: Question } | undefined>(undefined);
  let input: HTMLInputElement;

  $effect(() => {
    void drawing.modelNews;
    void look();
  });
  async function look() {
    try {
      const now = await call<{ offer: Offer | null; demo: boolean; taken: Taken | null }>(path);
      const fresh = now.offer?.id !== offer?.id;
      offer = now.offer;
      demo = now.demo;
      taken = now.taken;
      if (fresh) [changes, decisions, ticked] = [undefined, [], []];
      if (offer?.state === 'ready' && !changes) await compare();
    } catch (e) {
      notify('trouble', (e as ApiFailure).message);
    }
  }
  async function compare() {
    if (!offer) return;
    changes = await call<Changes>(`${path}/${offer.id}`, { method: 'POST', body: { decisions } });
  }
  async function decide(d: Decision) {
    decisions = [...decisions.filter((x) => x.before !== d.before && x.after !== d.after), d];
    await compare();
  }

  export function choose() {
    input.click();
  }
  async function send(files: readonly File[], choice?: { unitMm: number; up: 'y' | 'z' }) {
    if (files.length === 0) return;
    asked = undefined;
    busy = true;
    const form = new FormData();
    for (const f of files) form.append('file', f, f.name);
    if (choice) {
      form.append('unitMm', String(choice.unitMm));
      form.append('up', choice.up);
    }
    try {
      const r = await fetch(path, { method: 'POST', body: form });
      const answer = (await r.json()) as { question?: Question; error?: { message: string } };
      if (answer.question) asked = { files, question: answer.question };
      else if (!r.ok) notify('trouble', answer.error?.message ?? 'The server did not take the file. Try it again.');
      await look();
    } catch {
      notify('trouble', 'The server does not answer. Try it again.');
    } finally {
      busy = false;
    }
  }
  async function act(work: () => Promise<unknown>) {
    busy = true;
    try {
      await work();
    } catch (e) {
      notify('trouble', (e as ApiFailure).message);
    } finally {
      busy = false;
      await look();
    }
  }
  const bringDemo = () => act(() => call(`${path}?demo`, { method: 'POST', body: {} }));
  const take = () => act(() => call(`${path}/${offer!.id}`, { method: 'PUT', body: { version: drawing.version, decisions, reuseNumbers, accepted: ticked } }));
  const leave = () => act(() => call(`${path}/${offer!.id}`, { method: 'DELETE' }));

  const KINDS: readonly (readonly [ChangeKind, string])[] = [
    ['added', 'added'],
    ['removed', 'removed'],
    ['moved', 'moved'],
    ['turned', 'turned'],
    ['reshaped', 'reshaped'],
    ['count', 'counted differently'],
    ['renamed', 'renamed'],
    ['property', 'with other properties'],
    ['colour', 'of another colour'],
  ];
  const report = $derived((offer ? changes : taken)?.report);
  const losses = $derived((offer ? changes : taken)?.losses ?? []);
  const counts = $derived(KINDS.map(([kind, name]) => ({ kind, name, n: report?.changes.filter((c) => c.kind === kind).length ?? 0 })).filter((c) => c.n > 0));
  const shownModel = $derived(drawing.document['model']?.type === 'model' ? drawing.document['model'] : undefined);
  const accepted = $derived(new Set(offer ? ticked : shownModel?.accepted));
  const shown = $derived(report?.changes.filter((c) => only === '' || (only === 'open' ? !accepted.has(changeId(c)) : c.kind === only)) ?? []);
  const openCount = $derived(report?.changes.filter((c) => !accepted.has(changeId(c))).length ?? 0);
  function accept(changes: readonly ModelChange[], on: boolean) {
    const ids = changes.map(changeId);
    const next = on ? [...new Set([...accepted, ...ids])] : [...accepted].filter((a) => !ids.includes(a));
    if (offer) ticked = next;
    else if (shownModel)
      drawing.edit(on ? 'Accept changes of the model' : 'Changes of the model to be looked at', [{ op: 'put', record: { ...shownModel, accepted: next } }]);
  }
</script>

<input
  bind:this={input}
  type="file"
  multiple
  class="sr-only"
  tabindex="-1"
  aria-label="Newer model"
  accept=".stp,.step,.p21,.glb,.gltf,.bin,.3mf,.stl,.obj,.mtl,.zip"
  onchange={(e) => {
    void send([...(e.currentTarget.files ?? [])]);
    e.currentTarget.value = '';
  }}
/>
{#if asked}
  {@const { files, question } = asked}
  <UnitQuestion {question} onanswer={(unitMm, up) => void send(files, { unitMm, up })} oncancel={() => (asked = undefined)} />
{/if}
{#if offer}
  <section class="offer" aria-label="Newer model">
    <div class="line">
      <p>
        {#if offer.state === 'failed'}<b>{offer.name} could not be read.</b> {offer.errorText}
        {:else if offer.state !== 'ready' || !changes}<b>{offer.name}</b> is being read: {offer.stage} …
          <Bar label="Reading the newer model" share={offer.progress} />
        {:else}<b>{offer.name} came in.</b>
          {counts.map((c) => `${c.n} ${c.name}`).join(' · ') || 'Nothing changed'} · {changes.report.unchanged} pieces unchanged. Your entries, numbers and balloons
          stay.
          {#if changes.doubtful.length}<b>{changes.doubtful.length} to decide.</b>{/if}{/if}
      </p>
      {#if offer.state === 'ready' && changes}
        <button class="q-button" aria-expanded={open} onclick={() => (open = !open)}>See what changed</button>
        <button class="q-button main" disabled={busy} onclick={() => void take()}>Take it over</button>
      {/if}
      <button class="q-button" disabled={busy} onclick={() => void leave()}
        >{offer.state === 'working' || offer.state === 'queued' ? 'Cancel' : 'Leave it'}</button
      >
    </div>
    {#if open && changes}
      <div class="report">
        {#each changes.doubtful as d (`${d.before}/${d.after}`)}
          <div class="doubt">
            <img src="/api/parts/{d.keys[0]}" alt="before" /><img src="/api/parts/{d.keys[1]}" alt="after" />
            <span>Is “{d.names[1]}” the same part as “{d.names[0]}”? <small>{d.why}{d.assumed ? ' Until you say so it counts as the same.' : ''}</small></span>
            <button class="q-button main" onclick={() => void decide({ before: d.before, after: d.after, same: true })}>The same</button>
            <button class="q-button" onclick={() => void decide({ before: d.before, after: d.after, same: false })}>Another</button>
          </div>
        {/each}
        <label class="reuse"><input type="checkbox" bind:checked={reuseNumbers} /> Give the numbers of removed items to new ones</label>
        {@render list()}
      </div>
    {/if}
  </section>
{:else if demo}
  <section class="offer" aria-label="Newer model">
    <div class="line">
      <p><b>A newer model of this demo is at hand.</b> Bring it in to see what a change of the model does to a drawing.</p>
      <button class="q-button main" disabled={busy} onclick={() => void bringDemo()}>Bring in revision 2</button>
    </div>
  </section>
{:else if shownModel}
  <section class="offer quiet" aria-label="What the model changed">
    <div class="line">
      <p>
        The drawing shows {shownModel.name}.
        {#if taken}
          {openCount ? `${openCount} of ${taken.report.changes.length} changes are still to be accepted.` : 'All its changes are accepted.'}
          {#if losses.length}<b>{losses.length} lost what they pointed at.</b>{/if}{/if}
      </p>
      {#if taken}
        <button class="q-button" aria-expanded={open} onclick={() => (open = !open)}>See what changed</button>
        <a class="q-button" href="/api/jobs/{drawing.id}/files/changes.csv">As CSV</a>
      {/if}
    </div>
    {#if open && taken}<div class="report">{@render list()}</div>{/if}
  </section>
{/if}

{#snippet list()}
  <div class="kinds" role="group" aria-label="Kinds of change">
    <button aria-pressed={only === ''} onclick={() => (only = '')}>All {report?.changes.length}</button>
    <button aria-pressed={only === 'open'} onclick={() => (only = 'open')}>{openCount} to accept</button>
    {#each counts as c (c.kind)}<button aria-pressed={only === c.kind} onclick={() => (only = c.kind)}>{c.n} {c.name}</button>{/each}
    <button class="all" disabled={shown.every((c) => accepted.has(changeId(c)))} onclick={() => accept(shown, true)}>Accept those shown</button>
  </div>
  <ul>
    {#each shown as c (changeId(c))}
      <li class:done={accepted.has(changeId(c))}>
        {#if c.before}<img src="/api/parts/{c.before}" alt="before" />{:else}<span class="blank">new</span>{/if}
        {#if c.after}<img src="/api/parts/{c.after}" alt="after" />{:else}<span class="blank">gone</span>{/if}
        <span class="what"><b>{c.name}</b> <em>{c.kind}</em><br />{c.text}</span>
        <label title="Looked at and accepted"
          ><input type="checkbox" checked={accepted.has(changeId(c))} onchange={(e) => accept([c], e.currentTarget.checked)} /><span class="sr-only"
            >Accept: {c.name} {c.kind}</span
          ></label
        >
      </li>
    {/each}
  </ul>
  {#if losses.length}
    <p>
      <b>Lost what it pointed at</b>: on the sheets each is a finding with a button that aims it anew. <a href="/jobs/{drawing.id}/sheets">To the sheets</a>
    </p>
    <ul>
      {#each losses as l (l.record)}<li>{l.text}</li>{/each}
    </ul>
  {/if}
{/snippet}

<style>
  .offer {
    margin: 0 0.9rem 0.6rem;
    padding: 0.5rem 0.8rem;
    border-radius: 10px;
    background: var(--ochre-soft);
  }
  .line {
    display: flex;
    align-items: center;
    gap: 0.6rem;
  }
  .line p {
    flex: 1;
  }
  .report {
    max-height: 42vh;
    margin-top: 0.6rem;
    overflow-y: auto;
  }
  .kinds {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    margin: 0.3rem 0;
  }
  .kinds button {
    min-height: 28px;
    padding: 0 0.7rem;
    border-radius: 999px;
    background: color-mix(in srgb, var(--line) 55%, transparent);
    cursor: pointer;
  }
  .kinds [aria-pressed='true'] {
    box-shadow: inset 0 0 0 2px var(--teal);
  }
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
    gap: 0.4rem;
  }
  li,
  .doubt {
    display: flex;
    align-items: center;
    gap: 0.5rem;
    padding: 0.3rem;
    border-radius: 8px;
    background: var(--panel);
  }
  .doubt {
    margin-bottom: 0.4rem;
  }
  .doubt span {
    flex: 1;
  }
  img,
  .blank {
    display: grid;
    place-items: center;
    flex: none;
    width: 54px;
    height: 44px;
    border-radius: 6px;
    background: var(--paper);
    color: #665f55;
    object-fit: contain;
    font-size: 0.8rem;
  }
  em {
    color: var(--mute);
  }
  .quiet {
    background: color-mix(in srgb, var(--line) 40%, transparent);
  }
  .what {
    flex: 1;
  }
  .done .what {
    color: var(--mute);
  }
  .kinds .all {
    margin-left: auto;
  }
  .reuse {
    display: block;
    margin: 0.2rem 0 0.5rem;
  }
  .report a {
    color: var(--teal);
    text-decoration: underline;
  }
</style>
