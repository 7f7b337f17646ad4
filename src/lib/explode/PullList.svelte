<script lang="ts">
  import type { PullRecord } from '$core/document/records';
  import { axisText, type Explode } from './explode.svelte';
  import { drawHeldAway, heldText, plan } from './planning';
  import { movePull, typePull } from './pull-edits';
  import { pullPicture } from './pull-picture';

  const { explode }: { explode: Explode } = $props();
  const { drawing } = $derived(explode);

  const pulls = $derived(explode.spread?.pulls ?? []);
  const unclear = $derived(explode.check ? explode.check.clear.filter((c) => !c).length : 0);
  let from = $state<number | undefined>(undefined);
  let over = $state<number | undefined>(undefined);

  const way = (p: PullRecord) => (p.turn ? `turns ${Math.round((p.turn.angle * 180) / Math.PI)}°` : axisText(p.direction));

  function type(i: number, p: PullRecord, field: HTMLInputElement) {
    if (!typePull(explode, i, field.value)) field.value = shown(p);
  }
  const shown = (p: PullRecord) => (p.turn ? String(Math.round((p.turn.angle * 180) / Math.PI)) : String(Number(p.distanceMm.toFixed(2))));
  function step(e: KeyboardEvent, i: number) {
    if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
    e.preventDefault();
    movePull(explode, i, e.key === 'ArrowUp' ? i - 1 : i + 1);
  }
  let list: HTMLElement;
  $effect(() => {
    if (explode.active !== undefined) list?.children[explode.active]?.scrollIntoView({ block: 'nearest' });
  });
</script>

<section class="pulls" aria-label="Pulls">
  <header>
    <h2>Pulls, in the order they come apart</h2>
    <p class="q-caption">
      <select aria-label="Spread" value={explode.spread?.id ?? ''} onchange={(e) => explode.open(e.currentTarget.value)}>
        {#each explode.spreads as s (s.id)}<option value={s.id}>{s.name}</option>{:else}<option value="">No spread yet</option>{/each}
      </select>
      {pulls.length} pulls
      {#if explode.checking}· checking …{:else if explode.check && pulls.length}·
        {#if unclear}<b class="trouble">{unclear} not clear</b>{:else}<b class="good">all clear</b>{/if}{/if}
    </p>
  </header>
  <ol bind:this={list}>
    {#each pulls as p, i (i)}
      {@const word = explode.wordOn(i)}
      <li
        class:on={explode.active === i}
        class:off={p.off}
        class:over={over === i}
        draggable="true"
        ondragstart={() => (from = i)}
        ondragover={(e) => {
          e.preventDefault();
          over = i;
        }}
        ondragleave={() => (over = undefined)}
        ondrop={() => {
          if (from !== undefined && from !== i) movePull(explode, from, i);
          from = over = undefined;
        }}
      >
        <button class="row" aria-pressed={explode.active === i} data-pull={i} onclick={() => explode.choosePull(i)} onkeydown={(e) => step(e, i)}>
          <span class="number">{i + 1}</span>
          <img src={pullPicture(drawing, p)} alt="" loading="lazy" />
          <span class="text">
            <b>{explode.nameOf(p)}</b>
            <small>
              {way(p)}
              {#if p.off}· switched off{:else if word}· <span class:trouble={!word.clear} class:good={word.clear}>{word.text}</span>{/if}
              {#if p.ranks}· even{/if}
            </small>
          </span>
        </button>
        <input
          class="distance"
          class:typed={p.typed}
          aria-label="{p.turn ? 'Angle' : 'Distance'} of pull {i + 1}, {p.turn ? 'degrees' : 'mm'}"
          title={p.typed ? 'Typed: tightening keeps it' : 'Computed'}
          value={shown(p)}
          onchange={(e) => type(i, p, e.currentTarget)}
          onkeydown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </li>
    {:else}
      <li class="q-caption empty">
        No pulls yet. <button class="q-button main" onclick={() => void plan(explode, 'all')}>Plan the whole</button> or pick parts in the model and pull them.
      </li>
    {/each}
  </ol>
  {#each explode.held as h (h.components[0])}
    <p class="stuck">{heldText(explode, h)} <button class="q-button" onclick={() => drawHeldAway(explode, h)}>Draw it away all the same</button></p>
  {/each}
</section>

<style>
  .pulls {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
  }
  header {
    padding: 0.8rem 0.9rem 0.6rem;
    border-bottom: 1px solid var(--line);
  }
  h2 {
    font-weight: 600;
  }
  select {
    padding: 0.1rem 0.3rem;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--field);
    color: var(--ink);
  }
  ol {
    flex: 1;
    min-height: 0;
    overflow-y: auto;
    padding: 0.3rem 0.5rem;
  }
  li {
    display: flex;
    align-items: center;
    gap: 0.3rem;
    margin: 0.25rem 0;
    padding-right: 0.4rem;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--field);
  }
  li.on {
    border-color: var(--teal);
    background: var(--teal-soft);
  }
  li.off {
    opacity: 0.6;
  }
  li.over {
    border-top: 3px solid var(--teal);
  }
  .row {
    flex: 1;
    display: grid;
    grid-template-columns: 24px 34px 1fr;
    gap: 0.45rem;
    align-items: center;
    min-width: 0;
    padding: 0.3rem 0.4rem;
    text-align: left;
    cursor: pointer;
  }
  .number {
    display: grid;
    place-items: center;
    min-width: 24px;
    height: 22px;
    border-radius: 6px;
    background: color-mix(in srgb, var(--line) 60%, transparent);
    font-weight: 600;
    font-size: 0.82rem;
  }
  .on .number {
    background: var(--teal);
    color: var(--panel);
  }
  img {
    width: 34px;
    height: 28px;
    object-fit: contain;
    background: #fffefb;
    border-radius: 4px;
  }
  .text {
    min-width: 0;
  }
  .text b {
    font-weight: 600;
    line-height: 1.15;
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    overflow: hidden;
    font-size: 0.94rem;
  }
  small {
    font-size: 0.82rem;
    color: var(--mute);
  }
  .trouble {
    color: var(--trouble);
    font-weight: 600;
  }
  .good {
    color: var(--good);
  }
  .distance {
    flex: none;
    width: 58px;
    min-height: 28px;
    padding: 0 0.35rem;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--field);
    color: var(--ink);
    text-align: right;
  }
  .distance.typed {
    font-weight: 600;
    border-color: var(--teal);
  }
  .empty {
    display: block;
    padding: 0.8rem;
    line-height: 2;
  }
  .stuck {
    margin: 0.4rem 0.9rem;
    color: var(--trouble);
    font-size: 0.9rem;
  }
</style>
