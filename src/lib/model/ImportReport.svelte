<script lang="ts">
  import type { Assembly } from '$core/assembly/assembly';
  import { importReport } from '$core/assembly/report';

  const { assembly }: { assembly: Assembly } = $props();
  const r = $derived(importReport(assembly));
  const off = $derived(r.volumes.filter((v) => !v.agrees));
  const volume = (mm3: number) => `${Number(mm3.toPrecision(6)).toLocaleString('en')} mm³`;
</script>

<details>
  <summary>What was brought in</summary>
  <dl>
    <dt>Format</dt>
    <dd>{r.schema || 'not named'}, lengths in {r.unit}</dd>
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
