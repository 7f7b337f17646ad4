<script lang="ts">
  import type { RecordOf } from '$core/document/records';
  import Chips from '$lib/shared/Chips.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Leaders } from '../../leader';

  const { drawing, record }: { drawing: Drawing; record: RecordOf<'note'> | RecordOf<'sign'> } = $props();
  const leaders = $derived<Leaders>(record.leaders ?? []);

  function end(at: number, to: string) {
    const changed = leaders.map((l, i) => (i === at ? { ...l, end: to as 'dot' } : l));
    drawing.edit('End of the leader', [{ op: 'put', record: { ...record, leaders: changed } }]);
  }
</script>

{#each leaders as leader, i (i)}
  <Chips
    label={leaders.length > 1 ? `Leader ${i + 1} ends with` : 'Leader ends with'}
    options={[
      ['arrow', 'arrow'],
      ['dot', 'dot'],
      ['triangle', 'triangle'],
      ['none', 'nothing'],
    ]}
    value={leader.end}
    onchange={(to) => end(i, to)}
  />
{/each}
