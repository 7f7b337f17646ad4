<script lang="ts">
  import { num } from '$core/picture/shapes';
  import type { Sketch } from './tool';

  const { sketches, zoom }: { sketches: readonly Sketch[]; zoom: number } = $props();

  const path = (points: readonly (readonly [number, number])[]) => points.map(([x, y], i) => `${i ? 'L' : 'M'}${num(x)} ${num(y)}`).join('');
  const DASHES = { thin: [4, 3], cutting: [14, 3, 2, 3], outline: [] } as const;
</script>

<g pointer-events="none" fill="none" stroke="#12707a">
  {#each sketches as s, i (i)}
    {#if s.kind === 'line'}
      <path
        d={path(s.points)}
        data-testid={s.id}
        stroke-width={(s.look === 'thin' ? 1 : 2) / zoom}
        stroke-dasharray={DASHES[s.look].map((d) => d / zoom).join(' ') || undefined}
      />
    {:else if s.kind === 'circle'}
      <circle cx={s.at[0]} cy={s.at[1]} r={s.radius} stroke-width={2 / zoom} data-testid={s.id} />
    {:else}
      <circle cx={s.at[0]} cy={s.at[1]} r={6 / zoom} fill="#d9ebec" stroke-width={1.5 / zoom} data-testid={s.id && `handle-${s.id}`} />
    {/if}
  {/each}
</g>
