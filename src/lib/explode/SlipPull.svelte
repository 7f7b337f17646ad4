<script lang="ts">
  import type { PullRecord } from '$core/document/records';
  import type { Hit } from '$core/explode/way-out';
  import type { Vec3 } from '$core/base/vector';
  import SlipHead from '../shared/SlipHead.svelte';
  import type { Look } from '../shared/Stage3d.svelte';
  import TextField from '../shared/TextField.svelte';
  import Toggle from '../shared/Toggle.svelte';
  import DirectionChoice from './DirectionChoice.svelte';
  import { axisText, type Explode } from './explode.svelte';
  import { untilClear } from './planning';
  import { bend, changePull, mergeNext, mirror, movePull, removePull, showLines, spaceEvenly, split, typePull } from './pull-edits';

  const { explode, look, pull, i }: { explode: Explode; look: Look | undefined; pull: PullRecord; i: number } = $props();

  const word = $derived(explode.wordOn(i));
  const clear = $derived(explode.dragHits ? explode.dragHits.length === 0 : word?.clear);
  const last = $derived(i + 1 >= (explode.spread?.pulls.length ?? 0));
  const linesOff = $derived(explode.spread?.linesOff ?? []);

  function aim(direction: Vec3) {
    explode.direction = direction;
    changePull(explode, i, `Direction ${axisText(direction)}`, { direction }, ['leg']);
  }
  const degrees = (a: number) => `${Math.round((a * 180) / Math.PI)}°`;
  const span = (h: Hit) => (pull.turn ? `${degrees(h.from)} to ${degrees(h.to)}` : `${Number(h.from.toFixed(1))} to ${Number(h.to.toFixed(1))} mm`);
  const origin = $derived(pull.typed ? 'Typed: tightening keeps it.' : pull.leg ? 'Round a corner: tightening keeps it.' : 'Computed.');
</script>

<SlipHead title="Pull {i + 1}" subtitle={explode.nameOf(pull)} />
<TextField
  label="Name"
  value={explode.nameOf(pull)}
  origin={pull.name ? 'Typed.' : 'From its parts.'}
  onchange={(name) => (name.trim() ? changePull(explode, i, 'Name of pull', { name: name.trim() }) : changePull(explode, i, 'Name of pull', {}, ['name']))}
  onreset={pull.name ? () => changePull(explode, i, 'Name of pull', {}, ['name']) : undefined}
/>
{#if pull.turn}
  <p>Turns {degrees(pull.turn.angle)} about {axisText(pull.turn.axis)}.</p>
{:else}
  <p class="q-caption">Direction</p>
  <DirectionChoice {explode} {look} direction={pull.direction} onaim={aim} />
  <TextField
    label="Distance, mm"
    value={String(Number(pull.distanceMm.toFixed(2)))}
    {origin}
    onchange={(text) => typePull(explode, i, text)}
    onreset={pull.typed ? () => changePull(explode, i, 'Free distance', {}, ['typed']) : undefined}
  />
  <button class="q-button" onclick={() => void untilClear(explode, i)}>Until clear + gap</button>
{/if}
<p class="q-caption gap">Way out</p>
{#if pull.off}<p class="word">Switched off.</p>
{:else if clear === undefined}<p class="word">Checking …</p>
{:else}
  <div class="word" class:good={clear} class:bad={!clear} role="status">
    {#if clear}Clear: nothing is passed through.
    {:else}{#each explode.hits as h (`${h.component}/${h.through}`)}<p>
          {explode.label(h.component)} passes through {explode.label(h.through)} from {span(h)}.
        </p>{/each}{/if}
  </div>
{/if}
<div class="q-row">
  <button class="q-button" onclick={() => movePull(explode, i, i - 1)} disabled={i === 0} title="Alt ↑ in the list">Earlier</button>
  <button class="q-button" onclick={() => movePull(explode, i, i + 1)} disabled={last} title="Alt ↓ in the list">Later</button>
  <button class="q-button" onclick={() => split(explode, i)}>Split</button>
  <button class="q-button" onclick={() => mergeNext(explode, i)} disabled={last}>Merge with next</button>
  <button class="q-button" onclick={() => mirror(explode, i)}>Other side</button>
  <button class="q-button" onclick={() => bend(explode, i)} disabled={pull.turn !== undefined} title="A second pull of the same parts, to the side">Bend</button
  >
  <button class="q-button" onclick={() => removePull(explode, i)}>Remove</button>
</div>
<Toggle label="Space evenly" checked={pull.ranks !== undefined} onchange={() => spaceEvenly(explode, i)} />
<Toggle
  label="Made"
  checked={!pull.off}
  onchange={(on) => (on ? changePull(explode, i, 'Pull on', {}, ['off']) : changePull(explode, i, 'Pull off', { off: true }))}
/>
<Toggle label="Its pull lines" checked={!pull.components.every((c) => linesOff.includes(c))} onchange={(on) => showLines(explode, pull.components, on)} />

<style>
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
</style>
