<script lang="ts">
  import { without } from '$core/base/without';
  import type { Sign } from '$elements/sign/draw';
  import { CHARACTERISTICS } from '$core/assembly/stated';
  import Chips from '$lib/shared/Chips.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';

  type Frame = Extract<Sign, { sign: 'frame' }>;
  const { sign, onchange }: { sign: Frame; onchange: (next: Frame) => void } = $props();
  const id = $props.id();
  const MOST_ROWS = 4;

  const word = (v: string) => v.trim().slice(0, 60);
  const row = (i: number, next: Frame['rows'][number]) => onchange({ ...sign, rows: sign.rows.map((r, k) => (k === i ? next : r)) });
</script>

{#each sign.rows as r, i (i)}
  <label class="q-caption" for="{id}-{i}">Characteristic{sign.rows.length > 1 ? ` ${i + 1}` : ''}</label>
  <select id="{id}-{i}" class="q-field" value={r.of} onchange={(e) => row(i, { ...r, of: e.currentTarget.value as 'position' })}>
    {#each CHARACTERISTICS as c (c)}<option value={c}>{c.replaceAll('-', ' ')}</option>{/each}
  </select>
  <div class="pair">
    <TextField label="Tolerance" value={r.zone} onchange={(v) => row(i, { ...r, zone: word(v) })} />
    <TextField
      label="Datums"
      value={r.datums.join(', ')}
      onchange={(v) =>
        row(i, {
          ...r,
          datums: v
            .split(/[\s,;|]+/)
            .flatMap((d) => word(d) || [])
            .slice(0, 3),
        })}
    />
  </div>
  <Toggle label="Zone is a cylinder Ø" checked={r.round ?? false} onchange={(on) => row(i, on ? { ...r, round: true } : without(r, 'round'))} />
  <Chips
    label="Condition"
    options={[
      ['', 'none'],
      ['M', 'maximum material'],
      ['L', 'least material'],
      ['F', 'free state'],
      ['P', 'projected'],
    ]}
    value={r.modifier ?? ''}
    onchange={(m) => row(i, m === '' ? without(r, 'modifier') : { ...r, modifier: m as 'M' })}
  />
{/each}
<TextField label="Over the frame" value={sign.above} onchange={(v) => onchange({ ...sign, above: word(v) })} />
<p class="q-row">
  {#if sign.rows.length < MOST_ROWS}
    <button class="q-button" onclick={() => onchange({ ...sign, rows: [...sign.rows, { of: 'position', zone: sign.rows.at(-1)!.zone, datums: [] }] })}
      >One more row</button
    >
  {/if}
  {#if sign.rows.length > 1}<button class="q-button" onclick={() => onchange({ ...sign, rows: sign.rows.slice(0, -1) })}>Remove the last row</button>{/if}
</p>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
    margin-top: 0.4rem;
  }
</style>
