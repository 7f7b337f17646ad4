<script lang="ts">
  import type { SheetRecord } from '$core/document/records';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import SlipFormat from './SlipFormat.svelte';
  import SlipSheet from './SlipSheet.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: SheetRecord } = $props();
</script>

{#if record.form}<SlipFormat {drawing} {tools} {record} />{:else}<SlipSheet {drawing} {tools} {record} />{/if}
