<script lang="ts">
  import { without } from '$core/base/without';
  import type { Sign } from '$elements/sign/draw';
  import Chips from '$lib/shared/Chips.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';

  type Weld = Extract<Sign, { sign: 'weld' }>;
  type Side = 'arrowSide' | 'otherSide';
  const { sign, onchange }: { sign: Weld; onchange: (next: Weld) => void } = $props();

  const WELD_NAMES = {
    fillet: 'fillet',
    square: 'square butt',
    v: 'single V',
    bevel: 'single bevel',
    'v-root': 'V, broad root face',
    'bevel-root': 'bevel, broad root face',
    u: 'single U',
    j: 'single J',
    plug: 'plug or slot',
    spot: 'spot',
    seam: 'seam',
    edge: 'edge',
    surfacing: 'surfacing',
    backing: 'back run',
  } as const;
  const SIDES = [
    ['arrowSide', 'Arrow side'],
    ['otherSide', 'Other side'],
  ] as const;

  const id = $props.id();
  const fresh = { weld: 'fillet', size: '', length: '' } as const;
  const set = (side: Side, more: Partial<NonNullable<Weld[Side]>>) => onchange({ ...sign, [side]: { ...(sign[side] ?? fresh), ...more } });
  function choose(side: Side, weld: string) {
    if (weld === '') onchange(without(sign, side) as Weld);
    else set(side, { weld: weld as 'v' });
  }
  function contour(side: Side, c: string) {
    const { [side]: now } = sign;
    if (now) onchange({ ...sign, [side]: c === '' ? without(now, 'contour') : { ...now, contour: c as 'flat' } });
  }
</script>

{#each SIDES as [side, title] (side)}
  {@const s = sign[side]}
  <label class="q-caption" for="{id}-{side}">{title}</label>
  <select id="{id}-{side}" class="q-field" value={s?.weld ?? ''} onchange={(e) => choose(side, e.currentTarget.value)}>
    <option value="">none</option>
    {#each Object.entries(WELD_NAMES) as [weld, name] (weld)}<option value={weld}>{name}</option>{/each}
  </select>
  {#if s}
    <div class="pair">
      <TextField label="Size" value={s.size} onchange={(v) => set(side, { size: v.trim().slice(0, 60) })} />
      <TextField label="Length" value={s.length} onchange={(v) => set(side, { length: v.trim().slice(0, 60) })} />
    </div>
    <Chips
      label="Surface of the weld"
      options={[
        ['', 'as it comes'],
        ['flat', 'flat'],
        ['convex', 'convex'],
        ['concave', 'concave'],
      ]}
      value={s.contour ?? ''}
      onchange={(c) => contour(side, c)}
    />
  {/if}
{/each}
<Toggle label="All around" checked={sign.around ?? false} onchange={(on) => onchange(on ? { ...sign, around: true } : without(sign, 'around'))} />
<Toggle label="On site" checked={sign.field ?? false} onchange={(on) => onchange(on ? { ...sign, field: true } : without(sign, 'field'))} />
<TextField label="In the fork: process" value={sign.tail} onchange={(v) => onchange({ ...sign, tail: v.trim().slice(0, 60) })} />

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
    margin-top: 0.4rem;
  }
</style>
