<script lang="ts">
  import { add, scale, type Vec3 } from '$core/base/vector';
  import { Canvas } from '@threlte/core';
  import { onMount, untrack } from 'svelte';
  import { pullLines } from '$core/explode/pull-lines';
  import { fetchMeshes } from '../shared/fetch-meshes';
  import { ModelScene, type Picked } from '../shared/model-scene';
  import { viewKey } from '../shared/view-keys';
  import Stage3d, { type Look } from '../shared/Stage3d.svelte';
  import type { Explode, PickedWay } from './explode.svelte';
  import { marksApart } from './marks';
  import { setDistance } from './pull-edits';

  const { explode, onlook }: { explode: Explode; onlook: (look: Look) => void } = $props();
  const { drawing } = $derived(explode);

  let scene = $state.raw<ModelScene | undefined>(undefined);
  let loaded = $state(0);
  let trouble = $state('');
  let look = $state.raw<Look | undefined>(undefined);
  /** Grows when the view is turned or moved. */
  let seen = $state(0);
  const moved = () => untrack(() => seen++);

  const keys = $derived([...new Set(drawing.assembly.parts.map((p) => p.geometryKey))]);
  onMount(() => {
    const abort = new AbortController();
    fetchMeshes(keys, abort.signal, (n) => (loaded = n))
      .then((meshes) => (scene = new ModelScene(drawing.assembly, drawing.components, meshes)))
      .catch((e: unknown) => {
        if (!abort.signal.aborted) trouble = e instanceof Error ? `The model could not be fetched: ${e.message}` : 'The model could not be fetched.';
      });
    return () => {
      abort.abort();
      scene?.dispose();
    };
  });

  $effect(() => {
    scene?.move(explode.motions);
    look?.redraw();
    moved();
  });
  $effect(() => {
    scene?.paint(
      'model',
      explode.chosen,
      () => '',
      () => '',
    );
    look?.redraw();
  });

  function ready(l: Look) {
    look = l;
    onlook(l);
    const everything = new Set(drawing.components.map((c) => c.index));
    scene!.move(explode.motions);
    l.from(explode.frame.toward);
    l.fit(scene!.boxesOf(everything));
  }
  export function fit(what: 'all' | 'chosen') {
    if (scene && look) look.fit(scene.boxesOf(what === 'chosen' && explode.chosen.size ? explode.chosen : new Set(drawing.components.map((c) => c.index))));
  }

  function pick(hit: Picked | undefined, more: boolean) {
    if (!hit) {
      if (!more) explode.choose(new Set());
      return;
    }
    // Directions belong to the assembly: what was turned is turned back.
    const m = explode.motions[hit.component]!;
    const back = (d: Vec3): Vec3 => [
      m[0]! * d[0] + m[4]! * d[1] + m[8]! * d[2],
      m[1]! * d[0] + m[5]! * d[1] + m[9]! * d[2],
      m[2]! * d[0] + m[6]! * d[1] + m[10]! * d[2],
    ];
    const name = drawing.components[hit.component]!.name;
    const ways: PickedWay[] = [];
    const { probe, edge } = hit;
    if (probe.kind === 'axis') ways.push({ kind: 'axis', direction: probe.direction, at: probe.point, what: `Axis of ${name}` });
    else ways.push({ kind: 'face', direction: back(hit.normal), at: probe.point, what: `Face of ${name}` });
    if (edge) ways.push({ kind: 'edge', direction: edge.direction, at: edge.at, what: `Edge of ${name}` });
    explode.picked = ways;
    const next = new Set(more ? explode.chosen : []);
    if (more && next.has(hit.component)) next.delete(hit.component);
    else next.add(hit.component);
    explode.active = undefined;
    explode.choose(next);
  }
  function box([left, top, right, bottom]: readonly [number, number, number, number]) {
    if (!scene || !look) return;
    const inside = drawing.components.filter((c) => {
      const b = scene!.boxOf(new Set([c.index]));
      const [x, y] = look!.project([(b.min.x + b.max.x) / 2, (b.min.y + b.max.y) / 2, (b.min.z + b.max.z) / 2]);
      return x >= left && x <= right && y >= top && y <= bottom;
    });
    explode.choose(new Set([...explode.chosen, ...inside.map((c) => c.index)]));
  }

  /** The handle on the screen: where it begins and where a direction of a hundred millimetres leads. */
  const arrow = $derived.by(() => {
    void seen;
    const h = explode.handle;
    if (!h || !look || !scene) return undefined;
    const start = look.project(h.at);
    const reach = scene.box.getSize(scene.box.min.clone()).length() / 10;
    const end = look.project(add(h.at, scale(h.direction, reach)));
    const [dx, dy] = [end[0] - start[0], end[1] - start[1]];
    const pixels = Math.hypot(dx, dy);
    if (pixels < 2) return undefined;
    const [ux, uy] = [dx / pixels, dy / pixels];
    return { start, ux, uy, mmPerPixel: reach / pixels, tip: [start[0] + ux * 74, start[1] + uy * 74] as const };
  });
  let pressed: { x: number; y: number; from: number; ux: number; uy: number; mmPerPixel: number } | undefined;
  function grab(e: PointerEvent & { currentTarget: SVGElement }) {
    if (!arrow || !explode.pull) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    pressed = { x: e.clientX, y: e.clientY, from: explode.pull.distanceMm, ux: arrow.ux, uy: arrow.uy, mmPerPixel: arrow.mmPerPixel };
    explode.drag = explode.pull.distanceMm;
  }
  /** Round values that the eye can tell apart: 1, 2, 5, 10 … mm. */
  const roundStep = (mmPerPixel: number) => [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100].find((s) => s >= mmPerPixel * 3) ?? 100;
  function pull(e: PointerEvent) {
    if (!pressed) return;
    const mm = ((e.clientX - pressed.x) * pressed.ux + (e.clientY - pressed.y) * pressed.uy) * pressed.mmPerPixel;
    const s = e.altKey ? 0.1 : roundStep(pressed.mmPerPixel);
    explode.drag = Number((Math.round((pressed.from + mm) / s) * s).toFixed(3));
    explode.checkDrag();
  }
  function drop() {
    if (!pressed) return;
    pressed = undefined;
    const mm = explode.drag;
    explode.drag = undefined;
    if (mm !== undefined && explode.active !== undefined && mm !== explode.pull?.distanceMm) setDistance(explode, explode.active, mm);
  }
  function nudge(e: KeyboardEvent) {
    if (!explode.pull || explode.active === undefined || !['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'].includes(e.key)) return;
    e.preventDefault();
    e.stopPropagation();
    const by = (e.shiftKey ? 10 : 1) * (e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 1 : -1);
    const mm = Number((explode.pull.distanceMm + by).toFixed(3));
    setDistance(explode, explode.active, mm);
  }

  /** Where the pull at hand passes through something. */
  const marks = $derived.by(() => {
    void seen;
    if (!look) return [];
    const each = explode.hits
      .map((h) => ({ through: h.through, point: look!.project(h.at) }))
      .filter((h, i, all) => all.findIndex((x) => x.through === h.through) === i);
    return marksApart(each);
  });
  /** Pull lines, once everything is apart. */
  const lines3d = $derived(scene && !explode.spread?.noLines && explode.time >= explode.made.length ? pullLines(scene.bodies(), explode.made) : []);
  const lines = $derived.by(() => {
    void seen;
    const off = new Set(explode.spread?.linesOff);
    if (!look) return [];
    return lines3d
      .filter((l) => !off.has(drawing.components[l.component]!.path))
      .map((l) =>
        l.points
          .map((p) =>
            look!
              .project(p)
              .map((v) => v.toFixed(1))
              .join(),
          )
          .join(' '),
      );
  });
  /** Axes of the model, drawn in the corner. */
  const axes = $derived.by(() => {
    void seen;
    if (!look) return [];
    const toward = look.direction();
    const up = look.up();
    const right: Vec3 = [up[1] * toward[2] - up[2] * toward[1], up[2] * toward[0] - up[0] * toward[2], up[0] * toward[1] - up[1] * toward[0]];
    return (['X', 'Y', 'Z'] as const).map((name, k) => ({ name, x: 40 + 30 * right[k]!, y: 46 - 30 * up[k]! }));
  });

  function key(e: KeyboardEvent) {
    const run = viewKey(look, e);
    if (!run) return;
    run();
    e.preventDefault();
    e.stopPropagation();
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_no_noninteractive_tabindex -->
<div
  class="q-solid"
  role="application"
  tabindex="0"
  aria-label="Exploded model. Arrow keys turn it, plus and minus zoom. Press on a part to pick it, with Shift to pick more, draw a box with Shift held."
  onkeydown={key}
  data-testid="explode-view"
>
  {#if trouble}<p class="wait trouble">{trouble}</p>
  {:else if !scene}<p class="wait">Fetching the model … {loaded} of {keys.length} parts</p>
  {:else}
    <Canvas renderMode="on-demand"><Stage3d {scene} onpick={pick} onready={ready} onview={moved} onbox={box} /></Canvas>
    <svg class="over" aria-hidden={!arrow}>
      {#each lines as points, i (i)}<polyline {points} class="line" />{/each}
      {#if arrow}
        {@const label = `${Number((explode.drag ?? explode.pull!.distanceMm).toFixed(1))} mm`}
        <line x1={arrow.start[0]} y1={arrow.start[1]} x2={arrow.tip[0]} y2={arrow.tip[1]} class="shaft" />
        <g
          class="handle"
          role="slider"
          tabindex="0"
          aria-label="Distance of the pull"
          aria-valuenow={explode.pull!.distanceMm}
          aria-valuetext={label}
          onpointerdown={grab}
          onpointermove={pull}
          onpointerup={drop}
          onpointercancel={drop}
          onkeydown={nudge}
          transform="translate({arrow.tip[0]} {arrow.tip[1]}) rotate({(Math.atan2(arrow.uy, arrow.ux) * 180) / Math.PI})"
          data-testid="pull-handle"
        >
          <circle r="16" class="reach" />
          <path d="M12 0L-8 -9L-8 9Z" />
        </g>
        <text x={arrow.tip[0] + 16} y={arrow.tip[1] - 14}>{label}</text>
      {/if}
      {#each marks as m (m.through[0])}
        <g class="hit" transform="translate({m.point[0]} {m.point[1]})">
          <circle r="9" />
          <path d="M-4 -4L4 4M4 -4L-4 4" />
          {#each m.through as c, i (c)}<text x="13" y={4 + i * 17}>{explode.label(c)}</text>{/each}
        </g>
      {/each}
      <g class="axes" transform="translate(10 {0})">
        {#each axes as a (a.name)}
          <line x1="40" y1="46" x2={a.x} y2={a.y} />
          <text x={40 + (a.x - 40) * 1.3 - 4} y={46 + (a.y - 46) * 1.3 + 4}>{a.name}</text>
        {/each}
      </g>
    </svg>
  {/if}
</div>

<style>
  .wait {
    padding: 1.5rem;
  }
  .trouble {
    color: var(--trouble);
  }
  .over {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
    color: #0d5c64;
  }
  :global(.dark) .over {
    color: #5cc0ca;
  }
  .line {
    fill: none;
    stroke: #4a463f;
    stroke-width: 1;
    stroke-dasharray: 9 3 2 3;
    opacity: 0.55;
  }
  :global(.dark) .line {
    stroke: #cfc9bd;
  }
  .shaft {
    stroke: currentColor;
    stroke-width: 3;
  }
  .handle {
    pointer-events: all;
    cursor: grab;
    fill: currentColor;
  }
  .handle .reach {
    fill: transparent;
  }
  .handle:focus-visible {
    outline: none;
  }
  .handle:focus-visible .reach {
    stroke: currentColor;
    stroke-width: 2;
  }
  text {
    fill: currentColor;
    font-weight: 600;
    paint-order: stroke;
    stroke: #efebe3;
    stroke-width: 3px;
  }
  :global(.dark) text {
    stroke: #1d1c1a;
  }
  .hit circle {
    fill: #a3392a;
  }
  .hit path {
    stroke: white;
    stroke-width: 2;
  }
  .hit text {
    fill: #8c2f22;
  }
  .axes line {
    stroke: #45413a;
    stroke-width: 1.5;
  }
  .axes text {
    fill: #45413a;
    font-size: 12px;
  }
  :global(.dark) .axes line {
    stroke: #b9b1a4;
  }
  :global(.dark) .axes text {
    fill: #b9b1a4;
  }
</style>
