<script lang="ts">
  import { emFor } from '$core/picture/lettering';
  import { num } from '$core/picture/shapes';
  import type { Sketch } from './tool';

  const { sketches, zoom }: { sketches: readonly Sketch[]; zoom: number } = $props();

  const path = (points: readonly (readonly [number, number])[]) => points.map(([x, y], i) => `${i ? 'L' : 'M'}${num(x)} ${num(y)}`).join('');
  function lines(s: Float64Array) {
    let d = '';
    for (let i = 0; i < s.length; i += 4) d += `M${num(s[i]!)} ${num(s[i + 1]!)}L${num(s[i + 2]!)} ${num(s[i + 3]!)}`;
    return d;
  }
  const DASHES = { guide: [], thin: [4, 3], cutting: [14, 3, 2, 3], outline: [] } as const;
</script>

<g pointer-events="none" fill="none" stroke="#12707a">
  {#each sketches as s, i (i)}
    {#if s.kind === 'line'}
      <path
        d={path(s.points)}
        data-testid={s.id}
        stroke={s.look === 'guide' ? '#9c590a' : undefined}
        stroke-width={(s.look === 'thin' || s.look === 'guide' ? 1 : 2) / zoom}
        stroke-dasharray={DASHES[s.look].map((d) => d / zoom).join(' ') || undefined}
      />
    {:else if s.kind === 'window'}
      <rect
        x={s.box.x}
        y={s.box.y}
        width={s.box.width}
        height={s.box.height}
        data-testid="window"
        fill="#12707a"
        fill-opacity={s.touches ? 0.14 : 0.07}
        stroke-width={1 / zoom}
        stroke-dasharray={s.touches ? `${4 / zoom} ${3 / zoom}` : undefined}
      />
    {:else if s.kind === 'lines'}
      <path d={lines(s.segments)} stroke-width={0.7 / zoom} stroke-opacity="0.7" />
    {:else if s.kind === 'text'}
      <text x={s.at[0]} y={s.at[1]} font-size={14 / zoom} text-anchor="middle" fill="#12707a" stroke="none">{s.text}</text>
    {:else if s.kind === 'knob'}
      <path
        d="M-5 -5L5 0L-5 5Z"
        transform="translate({s.at[0]} {s.at[1]}) scale({1 / zoom}) rotate({(Math.atan2(s.way[1], s.way[0]) * 180) / Math.PI})"
        fill="#d9ebec"
        stroke-width="1.5"
        data-testid="knob-{s.id}"
      />
    {:else if s.kind === 'items'}
      <g class="items" data-testid={s.id}>
        {#each s.items as item, k (k)}
          {#if item.kind === 'stroke'}
            <path d={item.d} stroke-width={Math.max(item.width, 1.4 / zoom)} stroke-dasharray={item.dash?.join(' ')} />
          {:else if item.kind === 'fill'}
            <path d={item.d} fill="#12707a" stroke="none" />
          {:else if item.kind === 'text'}
            <text
              x={item.x}
              y={item.y}
              font-size={emFor(item.height)}
              text-anchor={item.anchor}
              fill="#12707a"
              stroke="none"
              transform={item.turn ? `rotate(${-item.turn} ${item.x} ${item.y})` : undefined}>{item.text}</text
            >
          {/if}
        {/each}
      </g>
    {:else if s.kind === 'circle'}
      <circle cx={s.at[0]} cy={s.at[1]} r={s.radius} stroke-width={2 / zoom} data-testid={s.id} />
    {:else}
      <circle cx={s.at[0]} cy={s.at[1]} r={6 / zoom} fill="#d9ebec" stroke-width={1.5 / zoom} data-testid={s.id && `handle-${s.id}`} />
    {/if}
  {/each}
</g>

<style>
  .items text {
    font-family: osifont, sans-serif;
  }
</style>
