<script lang="ts">
  import { CATALOG } from '$core/proof/catalog';
  import { findingKey } from '$core/proof/finding';
  import Fold from '$lib/kit/Fold.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { openSheetAt } from '$lib/shared/go';
  import type { Cures } from './cures.svelte';
  import type { Desk, ProvedFinding } from './desk.svelte';

  const { drawing, desk, cures }: { drawing: Drawing; desk: Desk; cures: Cures } = $props();
  /** So many are listed at once. */
  const FEW = 60;
  let all = $state(false);
  let reason = $state('');
  const counts = $derived(drawing.proof.counts);
  const shown = $derived(all ? desk.open : desk.open.slice(0, FEW));
  const NAMES = { must: 'must', should: 'should', look: 'look' } as const;
  const CHOICES = ['usual', 'must', 'should', 'look', 'off'] as const;

  const sheetNumber = (id: string | null) => drawing.sheets.findIndex((s) => s.id === id) + 1;
  const where = (f: ProvedFinding) => (f.sheet === null ? 'Whole drawing' : `Sheet ${sheetNumber(f.sheet)}`);
  const isAt = (f: ProvedFinding) => desk.current !== undefined && findingKey(desk.current) === findingKey(f);

  function show(f: ProvedFinding) {
    const [id] = f.about.map((a) => a.split('/')[0]!).filter((a) => drawing.document[a]);
    const part = drawing.items.find((i) => f.items.includes(i.number))?.part;
    const sheet = f.sheet ?? drawing.sheets[0]?.id ?? '';
    openSheetAt(drawing, sheet, id && id !== 'drawing' ? { kind: 'record', id } : part ? { kind: 'item', part } : { kind: 'none' });
  }
  // What is walked to is brought into sight.
  let list = $state<HTMLElement>();
  $effect(() => {
    if (desk.at) list?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' });
  });
</script>

<h2>
  {#if !drawing.proof.proved}Being checked …{:else if desk.open.length === 0}Nothing to put right{:else}{counts.must} must, {counts.should} should, {counts.look}
    to look at{/if}
</h2>
<p class="sub">Checked as you draw. {desk.holding} points hold.{drawing.proof.proved?.open ? ` ${drawing.proof.proved.open} views are on their way.` : ''}</p>
<ol bind:this={list}>
  {#each shown as f (findingKey(f))}
    <li class={f.severity} aria-current={isAt(f) ? 'true' : undefined}>
      <button class="text" onclick={() => desk.look(f)}>{f.text}</button>
      <p class="sub">{NAMES[f.severity]} · {where(f)} · {CATALOG[f.code]?.basis ?? 'common practice'}</p>
      {#if isAt(f)}
        <p class="q-row">
          {#if f.code === 'BENCH_REMARK'}<a class="q-button main" href="/jobs/{drawing.id}/issue">Answer it</a>{/if}
          {#if f.fix}<button class="q-button main" onclick={() => desk.fix(f)}>{f.fix}</button>{/if}
          {#if f.code === 'SEEN_NOWHERE' || f.code === 'SEEN_BADLY'}<button class="q-button" onclick={() => void cures.look(f.about[0]!)}>Other ways</button
            >{/if}
          <button class="q-button" onclick={() => show(f)}>Show it</button>
          <button class="q-button" onclick={() => (desk.accepting = !desk.accepting)} aria-expanded={desk.accepting}>Leave it so</button>
        </p>
        {#if desk.accepting}
          <form
            class="q-row"
            onsubmit={(e) => {
              e.preventDefault();
              desk.accept(f, reason);
              reason = '';
            }}
          >
            <!-- svelte-ignore a11y_autofocus -->
            <input class="q-field" placeholder="Why it may stay so" aria-label="Why it may stay so" bind:value={reason} autofocus />
            <button class="q-button main" type="submit">Leave it</button>
          </form>
        {/if}
      {/if}
    </li>
  {/each}
</ol>
{#if desk.open.length > shown.length}<p><button class="q-button" onclick={() => (all = true)}>Show {desk.open.length - shown.length} more</button></p>{/if}
{#if desk.accepted.length}
  <Fold title="Left so" folded>
    <ul>
      {#each desk.accepted as f (findingKey(f))}
        <li class="left">
          {f.text}
          <p class="sub">“{f.accepted!.reason}”, {f.accepted!.when.slice(0, 10)}</p>
          <p class="q-row"><button class="q-button" onclick={() => desk.reopen(f)}>Reopen</button></p>
        </li>
      {/each}
    </ul>
  </Fold>
{/if}
<Fold title="What is checked" folded>
  {#each Object.entries(CATALOG) as [code, point] (code)}
    <p class="point">
      <span>{point.title}<small>{point.basis}</small></span>
      <select
        class="q-field"
        aria-label={point.title}
        value={desk.record.off.includes(code) ? 'off' : (desk.record.severity[code] ?? 'usual')}
        onchange={(e) => desk.weigh(code, e.currentTarget.value as (typeof CHOICES)[number])}
      >
        {#each CHOICES as c (c)}<option value={c}>{c}</option>{/each}
      </select>
    </p>
  {/each}
</Fold>

<style>
  h2 {
    margin-bottom: 0.15rem;
    font-weight: 600;
    font-size: 1.05rem;
  }
  .sub {
    line-height: 1.35;
    color: var(--mute);
    font-size: 0.82rem;
  }
  ol {
    display: grid;
    gap: 0.5rem;
    margin: 0.7rem 0;
  }
  ol li {
    padding: 0.55rem 0.7rem;
    border: 1px solid var(--line);
    border-left: 4px solid #b45309;
    border-radius: 8px;
    background: var(--paper, #fff);
  }
  :global(.dark) ol li {
    background: rgb(255 255 255 / 0.04);
  }
  .must {
    border-left-color: var(--trouble);
  }
  .look {
    border-left-color: var(--line);
  }
  li[aria-current] {
    outline: 2px solid var(--teal);
  }
  .text {
    display: block;
    margin-bottom: 0.2rem;
    line-height: 1.3;
    text-align: left;
    font-weight: 500;
    cursor: pointer;
  }
  .q-row {
    margin-top: 0.45rem;
  }
  form {
    margin-top: 0.4rem;
  }
  .left {
    margin-bottom: 0.5rem;
  }
  .point {
    display: grid;
    grid-template-columns: 1fr 84px;
    align-items: center;
    gap: 0.5rem;
    margin-bottom: 0.3rem;
    font-size: 0.9rem;
  }
  .point small {
    display: block;
    color: var(--mute);
    font-size: 0.78rem;
  }
</style>
