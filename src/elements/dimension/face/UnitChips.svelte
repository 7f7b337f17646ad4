<script lang="ts">
  import type { ValueStyle, WholeStyle } from '$core/dimension/value';
  import Chips from '$lib/shared/Chips.svelte';

  /** Millimetres, inches, both, or inches in fractions. */
  interface Props {
    label: string;
    style: WholeStyle;
    onchange: (change: Pick<ValueStyle, 'unit' | 'fraction'>) => void;
  }
  const { label, style, onchange }: Props = $props();

  const shown = $derived(style.unit !== 'mm' && style.fraction > 1 ? String(style.fraction) : style.unit);
  function choose(as: string) {
    const part = Number(as);
    onchange(part > 1 ? { unit: 'inch', fraction: part as 64 } : { unit: as as 'mm', fraction: 1 });
  }
</script>

<Chips
  {label}
  options={[
    ['mm', 'mm'],
    ['inch', 'inch'],
    ['both', 'both'],
    ['16', '1/16'],
    ['32', '1/32'],
    ['64', '1/64'],
  ]}
  value={shown}
  onchange={choose}
/>
