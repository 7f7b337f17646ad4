<script lang="ts">
  import { ledgerOf } from '$core/document/records';
  import { wholeMass } from '$core/ledger/centre-of-mass';
  import { massText } from '$core/ledger/items';
  import type { Drawing } from '../shared/drawing.svelte';
  import UnitChoice from '../shared/UnitChoice.svelte';
  import { importReport } from '$core/assembly/report';

  const { drawing }: { drawing: Drawing } = $props();
  const assembly = $derived(drawing.assembly);
  const whole = $derived(wholeMass(assembly, drawing.components, drawing.items));
  const unit = $derived(ledgerOf(drawing.document).massUnit);
  const r = $derived(importReport(assembly));
  const off = $derived(r.volumes.filter((v) => !v.agrees));
  const volume = (mm3: number) => `${Number(mm3.toPrecision(6)).toLocaleString('en')} mm³`;
</script>

<p class="whole">
  <b>The whole</b>
  {#if whole.centre}{whole.missing ? 'over ' : ''}{massText(whole.kg, unit)}, centre of mass at {whole.centre.map((v) => Number(v.toPrecision(4))).join(', ')} mm{whole.missing
      ? `; the mass of ${whole.missing} items is not known`
      : ''}.{:else}No mass is known yet: give the parts a material.{/if}
</p>
<details>
  <summary>What was brought in</summary>
  <dl>
    <dt>Format</dt>
    <dd>
      {r.schema || 'not named'}, lengths in {r.unit}
      <details>
        <summary>Another unit</summary>
        <UnitChoice {drawing} ask={false} />
      </details>
    </dd>
    <dt>Components</dt>
    <dd>{r.components} of {r.parts} parts, {r.levels} {r.levels === 1 ? 'level' : 'levels'}</dd>
    <dt>Read</dt>
    <dd>colours of {r.colors}, materials of {r.materials}, properties of {r.withProperties} parts</dd>
    <dt>Volumes</dt>
    <dd>
      {#if r.volumes.length === 0}The file states none to check against.
      {:else if off.length === 0}All {r.volumes.length} that the file states agree with ours.
      {:else}{r.volumes.length - off.length} of {r.volumes.length} that the file states agree with ours.
        <ul>
          {#each off as v (v.product)}<li>{v.product}: the file says {volume(v.statedMm3)}, ours is {volume(v.ownMm3)}.</li>{/each}
        </ul>{/if}
    </dd>
    <dt>Left out or odd</dt>
    <dd>
      {#if r.notices.length === 0}Nothing.{:else}<ul>
          {#each r.notices as n, i (i)}<li>{n.text}</li>{/each}
        </ul>{/if}
    </dd>
  </dl>
</details>

<style>
  .whole {
    padding: 0.7rem 0.9rem;
    border-top: 1px solid var(--line);
    font-size: 0.92rem;
  }
  details {
    padding: 0.7rem 0.9rem;
    border-top: 1px solid var(--line);
  }
  summary {
    font-weight: 600;
    cursor: pointer;
  }
  dt {
    margin-top: 0.5rem;
    font-size: 0.85rem;
    color: var(--mute);
  }
</style>
