<script lang="ts">
  import Range from '../kit/Range.svelte';
  import type { Vec3 } from '$core/base/vector';
  import { frontOf } from '$core/document/front';
  import { frontAtFace, frontStandingOn, nearestSide, resetFront, whatTurns } from '$elements/view/front';
  import type { ViewFrame } from '$core/outline/directions';
  import { measureOne, measureTwo, type Measure, type Probe } from '$core/assembly/measure';
  import { Canvas } from '@threlte/core';
  import { onMount } from 'svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import { fetchMeshes } from '../shared/fetch-meshes';
  import { ModelScene, type ColorMode, type Picked } from '../shared/model-scene';
  import { viewKey } from '../shared/view-keys';
  import Stage3d, { type Look } from '../shared/Stage3d.svelte';

  const { drawing }: { drawing: Drawing } = $props();

  let scene = $state.raw<ModelScene | undefined>(undefined);
  let loaded = $state(0);
  let trouble = $state('');
  let mode = $state<ColorMode>('model');
  let section = $state(0);
  let through = $state(false);
  let hidden = $state.raw<ReadonlySet<number>>(new Set());
  let look = $state.raw<Look | undefined>(undefined);
  let measuring = $state(false);
  /** What was picked to measure: one thing, or two. */
  let probes = $state.raw<readonly Probe[]>([]);
  const measures = $derived(probes.length === 2 ? measureTwo(probes[0]!, probes[1]!) : probes.length === 1 ? measureOne(probes[0]!) : []);
  const measureText = (m: Measure) =>
    `${m.what}: ${m.unit === 'rad' ? `${Number(((m.value * 180) / Math.PI).toFixed(3))}°` : `${Number(m.value.toFixed(3))} mm`}`;
  function toggleMeasure() {
    measuring = !measuring;
    probes = [];
  }
  /** Normal of the face that was picked last. */
  let face = $state.raw<Vec3 | undefined>(undefined);
  /** A new front that waits for a word. */
  let front = $state.raw<ViewFrame | undefined>(undefined);

  const keys = $derived([...new Set(drawing.assembly.parts.map((p) => p.geometryKey))]);
  /** Fetched a few at a time; shown when all are there. */
  async function load(signal: AbortSignal) {
    const found = await fetchMeshes(keys, signal, (n) => (loaded = n));
    scene = new ModelScene(drawing.assembly, drawing.components, found);
  }
  onMount(() => {
    const abort = new AbortController();
    load(abort.signal).catch((e: unknown) => {
      if (!abort.signal.aborted) trouble = e instanceof Error ? `The model could not be fetched: ${e.message}` : 'The model could not be fetched.';
    });
    return () => {
      abort.abort();
      scene?.dispose();
    };
  });

  const chosen = $derived.by((): ReadonlySet<number> => {
    const s = drawing.selection;
    if (s.kind === 'item' && s.component !== undefined) return new Set([s.component]);
    return new Set(drawing.items.find((i) => i.part === drawing.selectedPart)?.components);
  });
  const itemOf = (c: number) => drawing.scene.itemOf(c);
  $effect(() => {
    scene?.paint(
      mode,
      chosen,
      (c) => itemOf(c)?.values.material.text ?? '',
      (c) => itemOf(c)?.values.source.text ?? '',
    );
    look?.redraw();
  });
  $effect(() => {
    scene?.hide(hidden);
    look?.redraw();
  });
  $effect(() => {
    scene?.section(section);
    look?.redraw();
  });
  $effect(() => {
    scene?.seeThrough(through);
    look?.redraw();
  });

  function pick(hit: Picked | undefined) {
    face = hit?.normal;
    if (measuring && hit) probes = probes.length === 1 ? [probes[0]!, hit.probe] : [hit.probe];
    const item = hit && itemOf(hit.component);
    drawing.select(item ? { kind: 'item', part: item.part, component: hit.component } : { kind: 'none' });
  }
  const present = $derived(frontOf(drawing.document));
  function takeFront() {
    if (front) drawing.edit('Another front', resetFront(drawing.document, drawing.assembly, drawing.components, front));
    front = undefined;
  }
  const axisText = (v: Vec3) => {
    const k = v.findIndex((c) => Math.abs(c) > 0.999);
    return k < 0 ? 'a slanted direction' : `${v[k]! > 0 ? '+' : '−'}${'XYZ'[k]!}`;
  };
  const hide = () => (hidden = new Set([...hidden, ...chosen]));
  const isolate = () => (hidden = new Set(drawing.components.map((c) => c.index).filter((c) => !chosen.has(c))));
  const all = () => (hidden = new Set());

  function key(e: KeyboardEvent) {
    const own = {
      f: () => scene && look?.fit(scene.box),
      s: () => scene && look?.fit(scene.boxOf(chosen)),
      h: hide,
      i: isolate,
      a: all,
      t: () => (through = !through),
      m: toggleMeasure,
    }[e.key];
    const run = viewKey(look, e) ?? own;
    if (!run || e.ctrlKey || e.metaKey || (e.target as HTMLElement).closest('select, input')) return;
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
  aria-label="3D model. Arrow keys turn it, plus and minus zoom, F shows everything, S what is selected, H hides, I isolates, A shows all, T makes see-through, M measures."
  onkeydown={key}
  data-testid="model-view"
>
  {#if trouble}<p class="wait trouble">{trouble}</p>
  {:else if !scene}<p class="wait">Fetching the model … {loaded} of {keys.length} parts</p>
  {:else}
    <Canvas renderMode="on-demand"><Stage3d {scene} onpick={pick} onready={(l) => (look = l)} /></Canvas>
    {#if measuring}
      <p class="measure" role="status">
        {#if probes.length === 0}Pick a face, hole, shaft or ball; then a second one.{:else}{measures.map(measureText).join(' · ') || 'Pick a second one.'}{/if}
      </p>
    {/if}
    {#if front}
      <div class="ask" role="alertdialog" aria-label="Another front">
        <p>
          The front is then seen from {axisText(front.toward)} with {axisText(front.up)} up. {whatTurns(drawing.document)}; every view is drawn anew. It can be
          undone.
        </p>
        <button class="q-button main" onclick={takeFront}>Make it the front</button>
        <button class="q-button" onclick={() => (front = undefined)}>Leave it</button>
      </div>
    {/if}
    <div class="tools" role="toolbar" aria-label="3D view">
      <button onclick={() => scene && look?.fit(scene.box)} title="F">Fit</button>
      <button onclick={() => scene && look?.fit(scene.boxOf(chosen))} disabled={chosen.size === 0} title="S">Selection</button>
      <button onclick={hide} disabled={chosen.size === 0} title="H">Hide</button>
      <button onclick={isolate} disabled={chosen.size === 0} title="I">Isolate</button>
      <button onclick={all} disabled={hidden.size === 0} title="A">Show all{hidden.size ? ` (${hidden.size})` : ''}</button>
      <button aria-pressed={measuring} onclick={toggleMeasure} title="M">Measure</button>
      <button aria-pressed={through} onclick={() => (through = !through)} title="T">See-through</button>
      <span class="cut">Section <Range label="Section" value={section} max={1} step={0.01} onchange={(v) => (section = v)} /></span>
      <button onclick={() => look && (front = nearestSide(look.direction(), present))} title="Make the side that is seen now the front of the drawing"
        >Front here</button
      >
      <button onclick={() => face && (front = frontAtFace(face, present))} disabled={!face} title="The face that was pressed becomes the front of the drawing"
        >This face front</button
      >
      <button onclick={() => face && (front = frontStandingOn(face, present))} disabled={!face} title="The machine stands on the face that was pressed"
        >This face down</button
      >
      <label
        ><select bind:value={mode} aria-label="Colours">
          <option value="model">as in the model</option>
          <option value="item">by item</option>
          <option value="material">by material</option>
          <option value="source">by source</option>
        </select>
      </label>
    </div>
  {/if}
</div>

<style>
  .wait {
    padding: 1.5rem;
  }
  .trouble {
    color: var(--trouble);
  }
  .measure {
    position: absolute;
    left: 12px;
    top: 12px;
    padding: 0.4rem 0.8rem;
    border-radius: 8px;
    background: var(--panel);
    box-shadow: 0 2px 8px rgb(0 0 0 / 0.2);
  }
  .ask {
    position: absolute;
    left: 50%;
    top: 12px;
    transform: translateX(-50%);
    display: flex;
    align-items: center;
    gap: 0.6rem;
    max-width: 640px;
    padding: 0.6rem 0.9rem;
    border-radius: 10px;
    background: var(--panel);
    box-shadow: 0 3px 14px rgb(0 0 0 / 0.3);
  }
  .cut {
    font-size: 0.85rem;
    display: flex;
    align-items: center;
    gap: 0.4rem;
  }
  .tools {
    position: absolute;
    left: 50%;
    bottom: 10px;
    transform: translateX(-50%);
    display: flex;
    align-items: center;
    gap: 2px;
    padding: 4px 8px;
    border-radius: 12px;
    background: #2a2926;
    color: #f6f3ee;
    box-shadow: 0 3px 14px rgb(0 0 0 / 0.3);
    flex-wrap: wrap;
    justify-content: center;
    width: max-content;
    max-width: calc(100% - 20px);
    white-space: nowrap;
  }
  .tools button,
  .tools label {
    min-height: 28px;
    padding: 2px 6px;
    font-size: 0.88rem;
    border-radius: 8px;
  }
  .tools label {
    display: flex;
    align-items: center;
    gap: 5px;
    font-size: 0.9rem;
  }
  .tools button {
    cursor: pointer;
  }
  .tools button:disabled {
    opacity: 0.45;
    cursor: default;
  }
  .tools [aria-pressed='true'] {
    background: #9c590a;
  }
  .tools select {
    background: #45413a;
    border-radius: 6px;
    padding: 2px 4px;
  }
</style>
