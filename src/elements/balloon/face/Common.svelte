<script lang="ts">
  import { without } from '$core/base/without';
  import type { BalloonRecord } from '$core/document/records';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  const { drawing, records }: { drawing: Drawing; records: readonly BalloonRecord[] } = $props();
  const all = (label: string, change: (b: BalloonRecord) => BalloonRecord) =>
    drawing.edit(
      label,
      records.map((b) => ({ op: 'put', record: change(b) })),
    );
</script>

<Toggle
  label="End with a dot inside the face"
  checked={records.every((b) => b.end === 'dot')}
  onchange={(on) => all(on ? 'Leaders end with a dot' : 'Leaders end with an arrow', (b) => ({ ...b, end: on ? 'dot' : 'arrow' }))}
/>
<Toggle
  label="Stay where they were put"
  checked={records.every((b) => b.byHand ?? false)}
  onchange={(on) => all(on ? 'Balloons stay' : 'Balloons may be arranged', (b) => (on ? { ...b, byHand: true } : without(b, 'byHand')))}
/>
