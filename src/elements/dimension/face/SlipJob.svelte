<script lang="ts">
  import { without } from '$core/base/without';
  import { wholeStyle, type ValueStyle } from '$core/dimension/value';
  import Chips from '$lib/shared/Chips.svelte';
  import UnitChips from './UnitChips.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  /** How values are written in the whole job. */
  const { drawing }: { drawing: Drawing } = $props();
  const job = $derived(drawing.scene.drawing);
  const style = $derived(wholeStyle(job.standard, job.values));
  const put = (change: Partial<ValueStyle>) => drawing.edit('Values of this job', [{ op: 'put', record: { ...job, values: { ...job.values, ...change } } }]);
</script>

<details>
  <summary>All values of this job</summary>
  <UnitChips label="Shown as, where nothing else is said" {style} onchange={put} />
  <Chips
    label="Decimals at most"
    options={['0', '1', '2', '3'].map((d) => [d, d] as const)}
    value={String(style.decimals)}
    onchange={(d) => put({ decimals: Number(d) })}
  />
  {#if style.unit !== 'mm' && style.fraction > 1}
    <Chips
      label="Height of a fraction's figures"
      options={[1, 0.8, 0.7, 0.6, 0.5].map((s) => [String(s), `${s * 100} %`] as const)}
      value={String(style.stackShare)}
      onchange={(share) => put({ stackShare: Number(share) })}
    />
  {/if}
  <Chips
    label="Decimal sign"
    options={[
      ['point', '1.5'],
      ['comma', '1,5'],
    ]}
    value={style.sign}
    onchange={(sign) => put({ sign: sign as 'comma' })}
  />
  <Toggle
    label="Dimensions drawn and printed"
    checked={!job.dimensionsOff}
    onchange={(on) => {
      const rest = without(job, 'dimensionsOff');
      drawing.edit(on ? 'Dimensions on' : 'Dimensions off', [{ op: 'put', record: on ? rest : { ...rest, dimensionsOff: true } }]);
    }}
  />
</details>

<style>
  details {
    margin-top: 0.6rem;
    border-top: 1px solid var(--line);
    padding-top: 0.5rem;
  }
  summary {
    cursor: pointer;
    margin-bottom: 0.4rem;
  }
</style>
