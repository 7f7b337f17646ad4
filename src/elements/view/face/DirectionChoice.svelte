<script lang="ts">
  import { frontOf } from '$core/document/front';
  import {
    DIRECTION_NAMES,
    dimetricFrom,
    inFrameOf,
    isometricFrom,
    sideFrame,
    trimetric,
    turnedInPlane,
    type Corner,
    type ViewFrame,
  } from '$core/outline/directions';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import TurnPicture from './TurnPicture.svelte';

  interface Props {
    drawing: Drawing;
    frame: ViewFrame;
    onchange: (title: string, frame: ViewFrame) => void;
  }
  const { drawing, frame, onchange }: Props = $props();

  const front = $derived(frontOf(drawing.document));
  const SIDES = $derived(DIRECTION_NAMES.filter((n) => n !== 'isometric').map((n) => [n[0]!.toUpperCase() + n.slice(1), sideFrame(front, n)] as const));
  const isometric = (corner: Corner) => inFrameOf(front, isometricFrom(corner));
  const dimetric = (x: 1 | -1) => inFrameOf(front, dimetricFrom([x, -1, 1]));
  const CORNERS: readonly (readonly [string, Corner])[] = [
    ['left, front', [-1, -1, 1]],
    ['right, front', [1, -1, 1]],
    ['right, back', [1, 1, 1]],
    ['left, back', [-1, 1, 1]],
    ['left, front, below', [-1, -1, -1]],
    ['right, front, below', [1, -1, -1]],
    ['right, back, below', [1, 1, -1]],
    ['left, back, below', [-1, 1, -1]],
  ];
  const same = (a: ViewFrame) => (['right', 'up'] as const).every((k) => a[k].every((v, i) => Math.abs(v - frame[k][i]!) < 1e-6));
  const degrees = Math.PI / 180;
  let [round, tip, inPlane] = $state(['30', '20', '']);
  const number = (t: string) => Number(t.replace(',', '.'));
  function angles() {
    if (Number.isFinite(number(round)) && Math.abs(number(tip)) <= 90)
      onchange('Pictorial', inFrameOf(front, trimetric(number(round) * degrees, number(tip) * degrees)));
  }
  function turn(text: string) {
    inPlane = '';
    if (text.trim() && Number.isFinite(number(text))) onchange('Turned view', turnedInPlane(frame, number(text) * degrees));
  }
</script>

<p class="q-caption">Side</p>
<div class="grid three">
  {#each SIDES as [title, of] (title)}<button class="q-button" aria-pressed={same(of)} onclick={() => onchange(title, of)}>{title}</button>{/each}
</div>
<p class="q-caption">Isometric, seen from</p>
<div class="grid four">
  {#each CORNERS as [title, corner], i (title)}
    <button
      class="q-button"
      aria-label="Isometric from {title}"
      title="Isometric from {title}"
      aria-pressed={same(isometric(corner))}
      onclick={() => onchange('Isometric', isometric(corner))}>{['↘', '↙', '↖', '↗'][i % 4]}{i > 3 ? '▵' : ''}</button
    >
  {/each}
</div>
<p class="q-caption">Dimetric, 7° and 42°</p>
<div class="grid two">
  {#each [1, -1] as const as x (x)}
    <button class="q-button" aria-pressed={same(dimetric(x))} onclick={() => onchange('Dimetric', dimetric(x))}>from the {x > 0 ? 'right' : 'left'}</button>
  {/each}
</div>
<TurnPicture {drawing} {frame} onchange={(f) => onchange('Pictorial', f)} />
<div class="grid three">
  <TextField label="Turned, °" value={round} onchange={(v) => ((round = v), angles())} />
  <TextField label="Tipped, °" value={tip} onchange={(v) => ((tip = v), angles())} />
  <TextField label="In its plane, °" value={inPlane} onchange={turn} />
</div>

<style>
  .grid {
    display: grid;
    gap: 3px;
    margin-bottom: 0.5rem;
  }
  .two {
    grid-template-columns: 1fr 1fr;
  }
  .three {
    grid-template-columns: repeat(3, 1fr);
  }
  .four {
    grid-template-columns: repeat(4, 1fr);
  }
  button {
    padding: 0 2px;
    min-height: 28px;
  }
  button[aria-pressed='true'] {
    background: var(--accent-soft);
    border-color: var(--accent);
    font-weight: 600;
  }
</style>
