<script lang="ts">
  import type { CloudRecord } from '$elements/cloud/kind';
  import { without } from '$core/base/without';
  import type { DrawingRecord } from '$core/document/records';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';

  const { drawing, record }: { drawing: Drawing; record: CloudRecord } = $props();
  const put = (revision: string) =>
    revision.trim() && drawing.edit('Revision of the cloud', [{ op: 'put', record: { ...record, revision: revision.trim().slice(0, 12) } }]);
  const clouds = (on: boolean) => {
    const d = drawing.scene.drawing;
    drawing.edit(on ? 'Clouds on' : 'Clouds off', [{ op: 'put', record: on ? (without(d, 'cloudsOff') as DrawingRecord) : { ...d, cloudsOff: true } }]);
  };
</script>

<SlipHead title="Revision cloud" subtitle="drag its corners to go around what changed" />
<TextField label="Revision" value={record.revision} onchange={put} />
<Toggle label="Clouds are drawn" checked={!drawing.scene.drawing.cloudsOff} onchange={clouds} />
