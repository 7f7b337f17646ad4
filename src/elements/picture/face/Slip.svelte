<script lang="ts">
  import type { PictureRecord } from '$elements/picture/kind';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: PictureRecord } = $props();
  const put = (label: string, next: PictureRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  function width(typed: string) {
    const mm = Number(typed.replace(',', '.'));
    if (mm >= 1 && mm <= 2000) put('Size of the picture', { ...record, widthMm: mm });
    else notify('trouble', 'Write a number of millimetres between 1 and 2000.');
  }
</script>

<SlipHead title="Picture" subtitle={record.name} />
<TextField label="Width, mm" value={String(Math.round(record.widthMm * 10) / 10)} onchange={width} />
<TextField label="What it shows" value={record.name} onchange={(v) => put('Name of the picture', { ...record, name: v.trim().slice(0, 200) })} />
<p class="q-row"><button class="q-button" onclick={() => tools.remove()}>Remove</button></p>
