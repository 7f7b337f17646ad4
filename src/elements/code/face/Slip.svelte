<script lang="ts">
  import { without } from '$core/base/without';
  import { codeWords, type CodeRecord } from '$elements/code/kind';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: CodeRecord } = $props();
  const words = $derived(codeWords(record, drawing.scene));
  const put = (label: string, next: CodeRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  function size(typed: string) {
    const mm = Number(typed.replace(',', '.'));
    if (mm >= 8 && mm <= 100) put('Size of the code', { ...record, sizeMm: mm });
    else notify('trouble', 'Write a number of millimetres between 8 and 100: smaller ones are hard to read.');
  }
</script>

<SlipHead title="QR code" subtitle={words ?? 'leads to the build guide once the drawing is issued with it'} />
<TextField
  label="Says (empty: the address of this issue’s build guide)"
  value={record.says ?? ''}
  onchange={(v) => put('Words of the code', v.trim() ? { ...record, says: v.trim().slice(0, 500) } : (without(record, 'says') as CodeRecord))}
/>
<TextField label="Side, mm" value={String(Math.round(record.sizeMm * 10) / 10)} onchange={size} />
<p class="q-row"><button class="q-button" onclick={() => tools.remove()}>Remove</button></p>
