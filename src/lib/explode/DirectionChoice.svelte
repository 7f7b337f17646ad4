<script lang="ts">
  import { normalize, scale, type Vec3 } from '$core/base/vector';
  import type { Look } from '../shared/Stage3d.svelte';
  import type { Explode } from './explode.svelte';

  interface Props {
    explode: Explode;
    look: Look | undefined;
    direction: Vec3;
    /** Takes a unit vector. */
    onaim: (direction: Vec3) => void;
  }
  const { explode, look, direction, onaim }: Props = $props();

  const AXES: readonly (readonly [string, Vec3])[] = [
    ['+X', [1, 0, 0]],
    ['−X', [-1, 0, 0]],
    ['+Y', [0, 1, 0]],
    ['−Y', [0, -1, 0]],
    ['+Z', [0, 0, 1]],
    ['−Z', [0, 0, -1]],
  ];
  const same = (a: Vec3, b: Vec3) => a.every((v, k) => Math.abs(v - b[k]!) < 1e-6);
  const aim = (d: Vec3) => onaim(normalize(d));
</script>

<div class="ways" role="group" aria-label="Direction">
  {#each AXES as [name, d] (name)}<button aria-pressed={same(direction, d)} onclick={() => aim(d)}>{name}</button>{/each}
</div>
<div class="q-row">
  {#each explode.picked as p (p.kind)}<button class="q-button" aria-pressed={same(direction, p.direction)} onclick={() => aim(p.direction)}>{p.what}</button>
  {:else}<button class="q-button" disabled>Of a picked face, hole or edge</button>{/each}
  <button class="q-button" onclick={() => look && aim(look.up())} title="Upwards on the screen">Screen</button>
  <button class="q-button" onclick={() => aim(scale(direction, -1))}>Reverse</button>
</div>

<style>
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
</style>
