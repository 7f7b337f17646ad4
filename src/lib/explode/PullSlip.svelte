<script lang="ts">
  import { drawingOf, recordsOf } from '$core/document/records';
  import type { Vec3 } from '$core/base/vector';
  import { normalize } from '$core/base/vector';
  import { EXPLODED_MARGIN } from '$core/draft/room';
  import { scaleText, standardScales } from '$core/sheet/formats';
  import { titleBlockRect } from '$core/sheet/title-block';
  import type { Look } from '../shared/Stage3d.svelte';
  import SlipHead from '../shared/SlipHead.svelte';
  import TextField from '../shared/TextField.svelte';
  import Toggle from '../shared/Toggle.svelte';
  import { axisText, screenFrame, type Explode } from './explode.svelte';

  const { explode, look }: { explode: Explode; look: Look | undefined } = $props();
  const { drawing } = $derived(explode);
  const pull = $derived(explode.pull);
  const i = $derived(explode.active ?? -1);
  const word = $derived(i >= 0 ? explode.wordOn(i) : undefined);
  const hits = $derived(explode.check?.hits.filter((h) => explode.made[h.pull]?.record === i) ?? []);
  const paper = $derived(explode.check?.paper);
  const overlaps = $derived(paper?.touches ?? []);
  const views = $derived(recordsOf(drawing.document, 'view').filter((v) => !v.cut));
  const place = $derived(explode.place);
  const scales = $derived(standardScales(drawingOf(drawing.document).standard));

  const AXES: readonly (readonly [string, Vec3])[] = [
    ['+X', [1, 0, 0]],
    ['−X', [-1, 0, 0]],
    ['+Y', [0, 1, 0]],
    ['−Y', [0, -1, 0]],
    ['+Z', [0, 0, 1]],
    ['−Z', [0, 0, -1]],
  ];
  const same = (a: Vec3, b: Vec3) => a.every((v, k) => Math.abs(v - b[k]!) < 1e-6);
  const direction = $derived(pull ? pull.direction : explode.direction);
  function aim(d: Vec3) {
    const unit = normalize(d);
    explode.direction = unit;
    if (pull && i >= 0) explode.changePull(i, `Direction ${axisText(unit)}`, { direction: unit });
  }
  const names = (list: readonly number[]) => [...new Set(list.map((c) => explode.label(c)))].slice(0, 2).join(', ');
</script>

{#if pull && i >= 0}
  <SlipHead title="Pull {i + 1}" subtitle={explode.nameOf(pull)} />
  {#if pull.turn}
    <p>Turns {Math.round((pull.turn.angle * 180) / Math.PI)}° about {axisText(pull.turn.axis)}.</p>
  {:else}
    <p class="q-caption" id="way-label">Direction</p>
    <div class="ways" role="group" aria-labelledby="way-label">
      {#each AXES as [name, d] (name)}<button aria-pressed={same(direction, d)} onclick={() => aim(d)}>{name}</button>{/each}
    </div>
    <div class="row">
      <button class="q-button" disabled={!explode.picked} onclick={() => explode.picked && aim(explode.picked.direction)}
        >{explode.picked?.what ?? 'Of a picked face or hole'}</button
      >
      <button class="q-button" onclick={() => look && aim(look.up())} title="Upwards on the screen">Screen</button>
      <button class="q-button" onclick={() => aim([-direction[0], -direction[1], -direction[2]])}>Reverse</button>
    </div>
    <TextField
      label="Distance, mm"
      value={String(Number(pull.distanceMm.toFixed(2)))}
      origin={pull.typed ? 'Typed: tightening keeps it.' : 'Computed.'}
      onchange={(text) => explode.typePull(i, text)}
      onreset={pull.typed ? () => explode.changePull(i, 'Free distance', {}, ['typed']) : undefined}
    />
    <button class="q-button" onclick={() => void explode.untilClear(i)}>Until clear + gap</button>
  {/if}
  <p class="q-caption gap">Way out</p>
  {#if pull.off}<p class="word">Switched off.</p>
  {:else if !word}<p class="word">Checking …</p>
  {:else}
    <div class="word" class:good={word.clear} class:bad={!word.clear} role="status">
      {#if word.clear}Clear: nothing is passed through.
      {:else}{#each hits as h (`${h.component}/${h.through}`)}<p>
            {explode.label(h.component)} passes through {explode.label(h.through)} from {pull.turn
              ? `${Math.round((h.from * 180) / Math.PI)}° to ${Math.round((h.to * 180) / Math.PI)}°`
              : `${Number(h.from.toFixed(1))} to ${Number(h.to.toFixed(1))} mm`}.
          </p>{/each}{/if}
    </div>
  {/if}
  <div class="row">
    <button class="q-button" onclick={() => explode.movePull(i, i - 1)} disabled={i === 0} title="Alt ↑ in the list">Earlier</button>
    <button class="q-button" onclick={() => explode.movePull(i, i + 1)} disabled={i + 1 >= (explode.spread?.pulls.length ?? 0)} title="Alt ↓ in the list"
      >Later</button
    >
    <button class="q-button" onclick={() => explode.split(i)}>Split</button>
    <button class="q-button" onclick={() => explode.mergeNext(i)} disabled={i + 1 >= (explode.spread?.pulls.length ?? 0)}>Merge with next</button>
    <button class="q-button" onclick={() => explode.mirror(i)}>Other side</button>
    <button class="q-button" onclick={() => explode.removePull(i)}>Remove</button>
  </div>
  <Toggle label="Space evenly" checked={pull.ranks !== undefined} onchange={() => explode.spaceEvenly(i)} />
  <Toggle
    label="Made"
    checked={!pull.off}
    onchange={(on) => (on ? explode.changePull(i, 'Pull on', {}, ['off']) : explode.changePull(i, 'Pull off', { off: true }))}
  />
  <Toggle
    label="Its pull lines"
    checked={!pull.components.every((c) => explode.spread?.linesOff?.includes(c))}
    onchange={(on) =>
      explode.put(on ? 'Pull lines on' : 'Pull lines off', {
        linesOff: on
          ? (explode.spread?.linesOff ?? []).filter((c) => !pull.components.includes(c))
          : [...new Set([...(explode.spread?.linesOff ?? []), ...pull.components])],
      })}
  />
{:else if explode.chosen.size}
  <SlipHead title="{explode.chosen.size} {explode.chosen.size === 1 ? 'part' : 'parts'} picked" subtitle={names([...explode.chosen])} />
  <p class="q-caption">Pick more</p>
  <div class="row">
    <button class="q-button" onclick={() => explode.grow('item')}>All of the item</button>
    <button class="q-button" onclick={() => explode.grow('up')}>Sub-assembly</button>
    <button class="q-button" onclick={() => explode.grow('fastened')}>What fastens it</button>
  </div>
  <p class="q-caption">Pull along</p>
  <div class="ways" role="group" aria-label="Direction">
    {#each AXES as [name, d] (name)}<button aria-pressed={same(direction, d)} onclick={() => aim(d)}>{name}</button>{/each}
  </div>
  <div class="row">
    <button class="q-button" disabled={!explode.picked} onclick={() => explode.picked && aim(explode.picked.direction)}
      >{explode.picked?.what ?? 'Of a picked face'}</button
    >
    <button class="q-button main" onclick={() => explode.addPull()}>Pull</button>
    <button class="q-button" onclick={() => void explode.plan('chosen')}>Plan these</button>
    <button class="q-button" onclick={() => explode.holdTogether()}>Hold together</button>
  </div>
{:else}
  <SlipHead title={explode.spread?.name ?? 'No spread'} subtitle="{explode.spread?.pulls.length ?? 0} pulls" />
  {#if explode.spread}
    {@const spread = explode.spread}
    <TextField label="Name" value={spread.name} onchange={(name) => explode.put('Name of spread', { name })} />
    <Toggle label="Pull lines" checked={!spread.noLines} onchange={(on) => explode.put(on ? 'Pull lines on' : 'Pull lines off', { noLines: !on })} />
  {/if}
  <div class="row">
    <button class="q-button" onclick={() => explode.newSpread()}>New spread</button>
    <button class="q-button" disabled={!explode.spread} onclick={() => explode.duplicate()}>Duplicate</button>
    <button class="q-button" disabled={!explode.spread} onclick={() => explode.removeSpread()}>Remove</button>
  </div>
  {#if explode.spread}
    {@const query = `?spread=${encodeURIComponent(explode.spread.id)}`}
    <p class="q-caption gap">Take along</p>
    <div class="row">
      <a class="q-button" href="/api/jobs/{drawing.id}/files/apart.glb{query}" download>Animated model, GLB</a>
      <a class="q-button" href="/api/jobs/{drawing.id}/files/steps.zip{query}" download>Picture per step</a>
    </div>
    <p class="q-caption gap">Shown in</p>
    {#each views as v (v.id)}
      <Toggle
        label="{v.name}, sheet {drawing.sheets.findIndex((s) => s.id === v.sheet) + 1}"
        checked={v.spread === explode.spread.id}
        onchange={(on) => explode.showIn(v, on)}
      />
    {/each}
  {/if}
{/if}

<hr />
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
<div class="row">
  <button class="q-button main" onclick={() => void explode.tighten()}>Tighten</button>
  <label class="at"
    >to fit
    <select aria-label="Scale to tighten to" onchange={(e) => e.currentTarget.value && void explode.tighten([Number(e.currentTarget.value)])}>
      <option value="">best</option>
      {#each scales.filter((s) => s <= 2) as s (s)}<option value={s}>{scaleText(s)}</option>{/each}
    </select></label
  >
</div>
<div class="row"><button class="q-button" onclick={() => void explode.proposeDirections()}>Where least is hidden</button></div>
{#each explode.proposals.slice(0, 4) as p (p.name)}
  <button class="proposal" disabled={!explode.view} onclick={() => explode.lookFrom(p.frame)}
    >{p.name}<small>{Math.round(p.hidden * 100)} % hidden</small></button
  >
{/each}
{#if explode.view}<div class="row">
    <button class="q-button" onclick={() => look && explode.lookFrom(screenFrame(look.direction()))}>View as on the screen</button>
  </div>{/if}

<style>
  hr {
    margin: 0.7rem 0;
    border-color: var(--line);
  }
  .ways {
    display: grid;
    grid-template-columns: repeat(6, 1fr);
    gap: 2px;
    padding: 2px;
    border-radius: 8px;
    background: color-mix(in srgb, var(--line) 60%, transparent);
  }
  .ways button {
    min-height: 28px;
    border-radius: 6px;
    cursor: pointer;
  }
  .ways [aria-pressed='true'] {
    background: var(--field);
    font-weight: 600;
    box-shadow: inset 0 0 0 1.5px var(--teal);
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    margin: 0.4rem 0;
    align-items: center;
  }
  .gap {
    margin-top: 0.6rem;
  }
  .word {
    padding: 0.4rem 0.6rem;
    border-radius: 8px;
    background: color-mix(in srgb, var(--line) 45%, transparent);
  }
  .word.good {
    background: var(--good-soft);
  }
  .word.bad {
    background: var(--trouble-soft);
  }
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
