<script lang="ts">
  import Range from '../kit/Range.svelte';
  import { ChevronLeft, ChevronRight, Pause, Play, SkipBack, SkipForward } from '@lucide/svelte';
  import type { Explode } from './explode.svelte';

  const { explode }: { explode: Explode } = $props();
  const n = $derived(explode.made.length);
  const now = $derived(Math.min(n, Math.ceil(explode.time - 1e-6)));
  const at = $derived(now > 0 ? explode.made[now - 1] : undefined);

  /** One pull after the other, as fast as was asked for. */
  $effect(() => {
    const way = explode.playing;
    if (way === 0) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function move(t) {
      explode.time = Math.max(0, Math.min(n, explode.time + (way * explode.speed * (t - last)) / 1000));
      last = t;
      if ((way > 0 && explode.time >= n) || (way < 0 && explode.time <= 0)) explode.playing = 0;
      else frame = requestAnimationFrame(move);
    });
    return () => cancelAnimationFrame(frame);
  });
  export function toggle() {
    if (explode.playing !== 0) explode.playing = 0;
    else if (explode.time >= n) explode.playing = -1;
    else explode.playing = 1;
  }
  export function step(by: 1 | -1) {
    explode.playing = 0;
    explode.time = Math.max(0, Math.min(n, by > 0 ? Math.floor(explode.time + 1e-6) + 1 : Math.ceil(explode.time - 1e-6) - 1));
  }
</script>

<section class="timeline" aria-label="Play apart and together">
  <button class="icon" onclick={() => (explode.playing = -1)} disabled={n === 0} title="Put together" aria-label="Put together"><SkipBack size={16} /></button>
  <button class="icon" onclick={() => step(-1)} disabled={n === 0} title="One pull back ( , )" aria-label="One pull back"><ChevronLeft size={17} /></button>
  <button class="icon" onclick={toggle} disabled={n === 0} title="Play or pause (Space)" aria-label={explode.playing ? 'Pause' : 'Play'}
    >{#if explode.playing}<Pause size={16} />{:else}<Play size={16} />{/if}</button
  >
  <button class="icon" onclick={() => step(1)} disabled={n === 0} title="One pull on ( . )" aria-label="One pull on"><ChevronRight size={17} /></button>
  <button class="icon" onclick={() => (explode.playing = 1)} disabled={n === 0} title="Take apart" aria-label="Take apart"><SkipForward size={16} /></button>
  <span class="word" role="status"
    >{#if n === 0}no pulls{:else if !at}together{:else}pull {now} of {n} · {explode.nameOf(explode.spread!.pulls[at.record]!)}{/if}</span
  >
  <Range
    label="From together to apart"
    value={explode.time}
    max={n}
    step={0.01}
    disabled={n === 0}
    onchange={(time) => {
      explode.playing = 0;
      explode.time = time;
    }}
  />
  <label
    >Speed <select value={String(explode.speed)} onchange={(e) => (explode.speed = Number(e.currentTarget.value))}
      ><option value="0.7">slow</option><option value="1.5">even</option><option value="4">fast</option></select
    ></label
  >
</section>

<style>
  .timeline {
    display: flex;
    align-items: center;
    gap: 0.35rem;
    padding: 0.35rem 0.8rem;
    border-top: 1px solid var(--line);
    background: var(--panel);
  }
  .icon {
    display: grid;
    place-items: center;
    width: 30px;
    height: 30px;
    border-radius: 8px;
    cursor: pointer;
  }
  .icon:hover {
    background: color-mix(in srgb, var(--line) 55%, transparent);
  }
  .icon:disabled {
    opacity: 0.4;
  }
  .word {
    flex: none;
    width: 240px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--mute);
  }
  select {
    padding: 0.1rem 0.2rem;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--field);
  }
</style>
