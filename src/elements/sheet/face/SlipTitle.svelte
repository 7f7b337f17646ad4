<script lang="ts">
  import { isTyped, typedValue, writeField } from '$elements/field-edit';
  import { FIELD_TITLES, fieldsIn, JOB_FIELDS } from '$elements/field-values';
  import { formatBlocksOn } from '$elements/sheet/anchored-on';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import { changeFormat } from './format-actions';
  import { fieldTitle, originOf } from './origin';

  const { drawing, field }: { drawing: Drawing; field: string } = $props();
  const sheet = $derived(drawing.scene.one('sheet', drawing.sheetId));
  const computed = $derived(sheet && !isTyped(field, sheet, drawing.scene));
  /** Those of every title block, then what the format of this sheet shows besides, and what the drawing has. */
  const fields = $derived.by(() => {
    if (!sheet) return [];
    const shown = formatBlocksOn(drawing.scene, sheet).flatMap((b) => b.cells.flatMap((c) => fieldsIn(c.text)));
    const all = [...Object.keys(JOB_FIELDS), 'quantity', 'sheetName', ...shown, ...Object.keys(drawing.scene.drawing.fields ?? {})];
    return [...new Set(all)].filter((f) => isTyped(f, sheet, drawing.scene));
  });
  const labelOf = (f: string) => (f === 'sheetName' ? 'Document type of this sheet' : f in FIELD_TITLES ? fieldTitle(f) : f);
  const write = (f: string, text: string) => sheet && drawing.edit(labelOf(f), writeField(f, text, sheet, drawing.scene, new Date().toISOString()));
</script>

{#if sheet}
  <SlipHead title="Title block" subtitle={drawing.scene.formatOf(sheet.id).name} />
  {#if computed}<p class="note">{originOf(field, sheet, drawing.scene)}</p>{/if}
  {#each fields as f (f)}
    <TextField
      label={labelOf(f)}
      value={typedValue(f, sheet, drawing.scene)}
      origin={originOf(f, sheet, drawing.scene)}
      focus={field === f}
      onchange={(v) => write(f, v)}
    />
  {/each}
  <p class="q-row"><button class="q-button" onclick={() => changeFormat(drawing, sheet.id, false)}>Change the format …</button></p>
{/if}

<style>
  .note {
    margin-bottom: 0.6rem;
    padding: 0.4rem 0.6rem;
    border-radius: 6px;
    background: var(--teal-soft);
    font-size: 0.88rem;
  }
</style>
