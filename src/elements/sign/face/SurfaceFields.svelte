<script lang="ts">
  import { without } from '$core/base/without';
  import type { Sign } from '$elements/sign/draw';
  import Chips from '$lib/shared/Chips.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';

  type Surface = Extract<Sign, { sign: 'surface' }>;
  const { sign, onchange }: { sign: Surface; onchange: (next: Surface) => void } = $props();

  const word = (v: string) => v.trim().slice(0, 60);
  const limit = (at: 0 | 1, v: string) => {
    const both = [sign.limits[0] ?? '', sign.limits[1] ?? ''];
    both[at] = word(v);
    onchange({ ...sign, limits: both.filter(Boolean) });
  };
</script>

<Chips
  label="Material is removed"
  options={[
    ['any', 'any way'],
    ['required', 'must be'],
    ['forbidden', 'must not be'],
  ]}
  value={sign.removal}
  onchange={(r) => onchange({ ...sign, removal: r as 'any' })}
/>
<div class="pair">
  <TextField label="Limit" value={sign.limits[0] ?? ''} onchange={(v) => limit(0, v)} />
  <TextField label="Second limit" value={sign.limits[1] ?? ''} onchange={(v) => limit(1, v)} />
  <TextField label="Process" value={sign.process} onchange={(v) => onchange({ ...sign, process: word(v) })} />
  <TextField label="Allowance, mm" value={sign.allowance} onchange={(v) => onchange({ ...sign, allowance: word(v) })} />
</div>
<Chips
  label="Lay"
  options={['', '=', '⊥', 'X', 'M', 'C', 'R', 'P'].map((l) => [l, l || 'none'] as const)}
  value={sign.lay}
  onchange={(lay) => onchange({ ...sign, lay: lay as 'X' })}
/>
<Toggle label="All around" checked={sign.around ?? false} onchange={(on) => onchange(on ? { ...sign, around: true } : without(sign, 'around'))} />

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
  }
</style>
