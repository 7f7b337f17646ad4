<script lang="ts">
  import { LANGUAGES, PHRASES } from '$core/guide/phrases';
  import type { RecordOf } from '$core/document/records';
  import { without } from '$core/base/without';
  import type { GuideWords } from '$core/guide/guide';
  import { ApiFailure, call } from '$lib/shared/api';
  import type { Drawing } from '$lib/shared/drawing.svelte';
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
    <span>{guide ? (guide.checked ? PHRASES.en.checked : PHRASES.en.unchecked) : 'Being worked out …'}</span>
  </p>
  <ol>
    {#each guide?.steps ?? [] as s (s.key)}
      <li>
        <button class="head" aria-expanded={open === s.key} onclick={() => (open = open === s.key ? undefined : s.key)}>
          <b>{s.number}</b> <span>{s.text}</span> <small>{s.where}</small>
        </button>
        {#if open === s.key}
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
