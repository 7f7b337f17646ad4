<script lang="ts">
  import { LANGUAGES, PHRASES } from '$core/guide/phrases';
  import type { RecordOf } from '$core/document/records';
  import { without } from '$core/base/without';
  import type { GuideWords } from '$core/guide/guide';
  import { ApiFailure, call } from '$lib/shared/api';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { readPicture } from '$elements/picture/face/read-picture';
  import { notify } from '$lib/shared/notices.svelte';

  const { drawing }: { drawing: Drawing } = $props();
  let guide = $state.raw<GuideWords>();
  let open = $state<string>();
  const record = $derived<RecordOf<'guide'>>(drawing.scene.one('guide', 'guide') ?? { type: 'guide', id: 'guide', words: {} });
  const spreads = $derived(drawing.scene.all('spread'));

  // What decides the order, and what was written: after each change it is read anew.
  $effect(() => {
    void [record, spreads, drawing.waiting];
    if (drawing.waiting === 0) void load();
  });
  async function load() {
    try {
      guide = await call<GuideWords>(`/api/jobs/${drawing.id}/guide`);
    } catch (e) {
      notify('trouble', e instanceof ApiFailure ? e.message : 'The guide could not be worked out.');
    }
  }
  type Words = RecordOf<'guide'>['words'][string];
  const put = (label: string, next: RecordOf<'guide'>) => drawing.edit(label, [{ op: 'put', record: next }]);
  function write(key: string, change: Partial<Words>, off?: keyof Words) {
    const words = { ...(off ? without(record.words[key] ?? {}, off) : record.words[key]), ...change };
    put('Words of a step', { ...record, words: { ...record.words, [key]: words } });
  }
  type Step = GuideWords['steps'][number];
  const steps = $derived(guide?.steps ?? []);
  const before = (i: number) => steps[i - 1];
  /** Within what is being built: what it begins with stays first. */
  const canMove = (i: number, by: 1 | -1) => {
    const [own, other] = [steps[i], steps[i + by]];
    return own !== undefined && other !== undefined && own.unit === other.unit && own.kind !== 'start' && other.kind !== 'start';
  };
  function move(i: number, by: 1 | -1) {
    const keys = steps.map((s) => s.key);
    [keys[i], keys[i + by]] = [keys[i + by]!, keys[i]!];
    put('Order of the steps', { ...record, order: keys });
  }
  const canJoin = (s: Step, i: number) => canMove(i, -1) && s.kind !== 'join' && before(i)!.kind !== 'join';
  const join = (s: Step) => put('Two steps are one', { ...record, joined: [...new Set([...(record.joined ?? []), s.key])] });
  function split(s: Step) {
    // What someone joined comes apart again; what was one by itself is taken piece by piece.
    const own = new Set(s.parts);
    const joined = (record.joined ?? []).filter((k) => !own.has(k));
    const again = joined.length < (record.joined ?? []).length;
    put('A step taken apart', { ...record, joined, ...(again ? {} : { split: [...new Set([...(record.split ?? []), s.key])] }) });
  }
  const edited = $derived(Boolean(record.order?.length || record.joined?.length || record.split?.length));
  async function ownPicture(key: string, input: HTMLInputElement) {
    const [file] = input.files ?? [];
    if (!file) return;
    const read = await readPicture(file);
    input.value = '';
    if ('wrong' in read) notify('trouble', read.wrong);
    else write(key, { picture: { png: read.png, ratio: read.ratio } });
  }
  const lines = (text: string) =>
    text
      .split('\n')
      .map((l) => l.trim())
      .filter(Boolean);
</script>

<div class="guide">
  <p class="bar">
    <label
      >Language <select
        class="q-field"
        value={record.language ?? 'en'}
        onchange={(e) => put('Language of the guide', { ...record, language: e.currentTarget.value as 'en' })}
        >{#each LANGUAGES as l (l)}<option value={l}>{PHRASES[l].language}</option>{/each}</select
      ></label
    >
    {#if spreads.length > 1}
      <label
        >Order of <select
          class="q-field"
          value={record.spread ?? spreads[0]?.id}
          onchange={(e) => put('Order of the guide', { ...record, spread: e.currentTarget.value })}
          >{#each spreads as s (s.id)}<option value={s.id}>{s.name}</option>{/each}</select
        ></label
      >
    {/if}
    <label
      >Printed on <select
        class="q-field"
        value={record.paper ?? 'A4'}
        onchange={(e) =>
          put('Paper of the guide', e.currentTarget.value === 'A3' ? { ...record, paper: 'A3' } : (without(record, 'paper') as RecordOf<'guide'>))}
        ><option>A4</option><option>A3</option></select
      ></label
    >
    {#if edited}<button class="q-button" onclick={() => put('Steps as they were planned', without(record, 'order', 'joined', 'split') as RecordOf<'guide'>)}
        >As planned</button
      >{/if}
    <span>{guide ? (guide.checked ? PHRASES.en.checked : PHRASES.en.unchecked) : 'Being worked out …'}</span>
  </p>
  <ol>
    {#each steps as s, i (s.key)}
      <li class:blocked={s.blocked}>
        <button class="head" aria-expanded={open === s.key} onclick={() => (open = open === s.key ? undefined : s.key)}>
          <b>{s.number}</b> <span>{s.text}</span> <small>{s.where}</small>
        </button>
        {#if s.blocked}<p class="trouble" role="status">In this order it would have to pass through something: move it, or what stands in its way.</p>{/if}
        {#if open === s.key}
          <p class="q-row">
            <button class="q-button" disabled={!canMove(i, -1)} onclick={() => move(i, -1)}>Earlier</button>
            <button class="q-button" disabled={!canMove(i, 1)} onclick={() => move(i, 1)}>Later</button>
            <button class="q-button" disabled={!canJoin(s, i)} onclick={() => join(s)}>One with the step before</button>
            <button class="q-button" disabled={s.moves < 2} onclick={() => split(s)}>Take apart</button>
          </p>
          <p class="quiet">{s.kit.join(', ')}</p>
          <label
            >What is done <textarea class="q-field" rows="2" value={s.text} onchange={(e) => write(s.key, { text: e.currentTarget.value.trim() })}
            ></textarea></label
          >
          {#if s.own}<p><button class="q-button" onclick={() => write(s.key, {}, 'text')}>Back to the words made up</button></p>{/if}
          <label
            >To be said besides (grease, torque, thread lock), a line each <textarea
              class="q-field"
              rows="2"
              value={s.callouts.join('\n')}
              onchange={(e) => write(s.key, { callouts: lines(e.currentTarget.value) })}></textarea></label
          >
          <label
            >To be checked and ticked, a line each <textarea
              class="q-field"
              rows="2"
              value={s.checks.join('\n')}
              onchange={(e) => write(s.key, { checks: lines(e.currentTarget.value) })}></textarea></label
          >
          <p class="q-row">
            <label class="q-button"
              >A picture of one's own<input type="file" accept=".png,.svg" hidden onchange={(e) => void ownPicture(s.key, e.currentTarget)} /></label
            >
            {#if s.ownPicture}<button class="q-button" onclick={() => write(s.key, {}, 'picture')}>Back to the model’s</button>{/if}
          </p>
          <label
            >Looked at from <select
              class="q-field"
              value={record.words[s.key]?.corner?.join() ?? ''}
              onchange={(e) => {
                const corner = e.currentTarget.value.split(',').map(Number) as unknown as NonNullable<Words['corner']>;
                if (e.currentTarget.value) write(s.key, { corner });
                else write(s.key, {}, 'corner');
              }}
            >
              <option value="">where it is seen best</option>
              <option value="1,-1,1">front right, above</option>
              <option value="-1,-1,1">front left, above</option>
              <option value="1,1,1">back right, above</option>
              <option value="-1,1,1">back left, above</option>
              <option value="1,-1,-1">front right, below</option>
              <option value="-1,-1,-1">front left, below</option>
            </select></label
          >
        {/if}
      </li>
    {/each}
  </ol>
</div>

<style>
  .guide {
    flex: 1;
    overflow: auto;
    padding: 0.6rem 1rem;
  }
  .bar {
    display: flex;
    gap: 1rem;
    align-items: center;
    flex-wrap: wrap;
  }
  .bar select {
    width: auto;
    display: inline-block;
  }
  li {
    margin: 0.3rem 0;
    padding: 0.3rem 0.6rem;
    background: var(--panel);
    border-radius: 8px;
  }
  .head {
    display: flex;
    gap: 0.8rem;
    align-items: baseline;
    width: 100%;
    text-align: left;
    cursor: pointer;
    min-height: 28px;
  }
  .head span {
    flex: 1;
  }
  .blocked {
    border-left: 4px solid var(--trouble);
  }
  .trouble {
    color: var(--trouble);
    font-size: 0.9rem;
  }
  small,
  .quiet {
    color: var(--mute);
    font-size: 0.85rem;
  }
  label {
    display: block;
    margin: 0.3rem 0;
  }
</style>
