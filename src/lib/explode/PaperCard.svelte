<script lang="ts">
  import { drawingOf } from '$core/document/records';
  import { EXPLODED_MARGIN } from '$core/draft/room';
  import { scaleText, standardScales } from '$core/sheet/paper';
  import { titleBlockRect } from '$core/sheet/page';
  import type { Look } from '../shared/Stage3d.svelte';
  import { screenFrame, type Explode } from './explode.svelte';
  import { lookFrom, proposeDirections, tighten } from './planning';

  const { explode, look }: { explode: Explode; look: Look | undefined } = $props();
  const paper = $derived(explode.check?.paper);
  const overlaps = $derived(paper?.touches ?? []);
  const place = $derived(explode.place);
  const scales = $derived(standardScales(drawingOf(explode.drawing.document).standard));
  const names = (list: readonly number[]) => [...new Set(list.map((c) => explode.label(c)))].slice(0, 2).join(', ');
</script>

<p class="q-caption">On paper</p>
<div class="paper">
  <svg viewBox="0 0 {place.geometry.width} {place.geometry.height}" role="img" aria-label="Size on the sheet">
    <rect width={place.geometry.width} height={place.geometry.height} class="sheet" />
    <rect x={place.geometry.frame.x} y={place.geometry.frame.y} width={place.geometry.frame.width} height={place.geometry.frame.height} class="frame" />
    {#each [titleBlockRect(place.geometry)] as t (t.x)}<rect x={t.x} y={t.y} width={t.width} height={t.height} class="frame" />{/each}
    <rect x={place.geometry.frame.x + EXPLODED_MARGIN} y={place.geometry.frame.y + EXPLODED_MARGIN} width={place.room[0]} height={place.room[1]} class="room" />
    {#if paper}
      {@const [w, h] = paper.size}
      <rect
        x={place.geometry.frame.x + EXPLODED_MARGIN + (place.room[0] - w) / 2}
        y={place.geometry.frame.y + EXPLODED_MARGIN + (place.room[1] - h) / 2}
        width={w}
        height={h}
        class="size"
        class:out={w > place.room[0] || h > place.room[1]}
      />
    {/if}
  </svg>
  {#if paper}
    <p>
      {place.size} at {scaleText(place.scale)}: <b>{Math.round(paper.size[0])} × {Math.round(paper.size[1])}</b> mm of {Math.round(place.room[0])} × {Math.round(
        place.room[1],
      )}
    </p>
    <p>
      Touching on paper: {#if overlaps.length}<b class="bad-text">{overlaps.length} {overlaps.length === 1 ? 'pair' : 'pairs'}</b>{:else}<b class="good-text"
          >none</b
        >{/if}
    </p>
    {#each overlaps.slice(0, 3) as t, k (k)}<p class="pair">
        {names(t.first)} and {names(t.second)}{t.overlapMm2 > 0 ? `: ${Number(t.overlapMm2.toPrecision(2))} mm²` : ' come too close'}
      </p>{/each}
    {#if paper.crossings.length}<p class="pair">
        {paper.crossings.length} crossing {paper.crossings.length === 1 ? 'pair' : 'pairs'} of pull lines: {explode.label(paper.crossings[0]!.first)} and {explode.label(
          paper.crossings[0]!.second,
        )}{paper.crossings.length > 1 ? ' …' : ''}
      </p>{/if}
  {:else}<p>Computing …</p>{/if}
</div>
<div class="q-row">
  <button class="q-button main" onclick={() => void tighten(explode)}>Tighten</button>
  <label class="at"
    >to fit
    <select aria-label="Scale to tighten to" onchange={(e) => e.currentTarget.value && void tighten(explode, [Number(e.currentTarget.value)])}>
      <option value="">best</option>
      {#each scales.filter((s) => s <= 2) as s (s)}<option value={s}>{scaleText(s)}</option>{/each}
    </select></label
  >
</div>
<div class="q-row"><button class="q-button" onclick={() => void proposeDirections(explode)}>Where least is hidden</button></div>
{#each explode.proposals.slice(0, 4) as p (p.name)}
  <button class="proposal" disabled={!explode.view} onclick={() => void lookFrom(explode, p.frame)}
    >{p.name}<small>{Math.round(p.hidden * 100)} % hidden</small></button
  >
{/each}
{#if explode.view}<div class="q-row">
    <button class="q-button" onclick={() => look && void lookFrom(explode, screenFrame(look.direction()))}>View as on the screen</button>
  </div>{/if}

<style>
  .paper {
    padding: 0.5rem;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--field);
    font-size: 0.92rem;
  }
  svg {
    width: 100%;
    max-height: 130px;
  }
  .sheet {
    fill: #fffefb;
    stroke: #766f64;
    stroke-width: 1.5;
  }
  .frame {
    fill: none;
    stroke: #766f64;
    stroke-width: 1.5;
  }
  .room {
    fill: #d9ebec;
    stroke: #12707a;
    stroke-width: 1.5;
    stroke-dasharray: 8 5;
  }
  .size {
    fill: none;
    stroke: #2a2926;
    stroke-width: 2.5;
  }
  .size.out {
    stroke: #a3392a;
  }
  .bad-text {
    color: var(--trouble);
  }
  .good-text {
    color: var(--good);
  }
  .pair {
    color: var(--mute);
    font-size: 0.85rem;
    line-height: 1.25;
  }
  .at select {
    padding: 0.15rem;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--field);
  }
  .proposal {
    display: flex;
    justify-content: space-between;
    width: 100%;
    min-height: 28px;
    padding: 0 0.4rem;
    border-radius: 6px;
    cursor: pointer;
  }
  .proposal:hover {
    background: var(--teal-soft);
  }
  .proposal small {
    color: var(--mute);
  }
</style>
