<script lang="ts">
  import { without } from '$core/base/without';
  import type { CutRecord, ViewRecord } from '$core/document/records';
  import Choice from '$lib/kit/Choice.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import { lettersOf } from '../letters';
  import { legDistances } from '../section-handles';

  const { drawing, view, cut }: { drawing: Drawing; view: ViewRecord; cut: CutRecord } = $props();

  const put = (label: string, record: ViewRecord) => drawing.edit(label, [{ op: 'put', record }]);
  const legs = $derived(legDistances(view, drawing.scene));
  const LINES = [
    ['full', 'Full'],
    ['ends', 'Ends'],
    ['none', 'None'],
  ] as const;
  function letter(text: string) {
    const wanted = text.trim().toUpperCase();
    if (!wanted || wanted.length > 4 || wanted === cut.letter) return;
    if (lettersOf(drawing.scene).has(wanted)) {
      notify('trouble', `“${wanted}” is taken by another section or detail.`);
      return;
    }
    put(`Letter ${wanted}`, { ...view, name: view.name.replace(`${cut.letter}–${cut.letter}`, `${wanted}–${wanted}`), cut: { ...cut, letter: wanted } });
  }
  function move(i: number, text: string) {
    const mm = Number(text.replace(',', '.'));
    if (text.trim() && Number.isFinite(mm)) put('Move the cutting line', legs[i]!.set(mm));
  }
</script>

<TextField label="Letter" value={cut.letter} onchange={letter} />
{#each legs as leg, i (i)}
  <TextField
    label={legs.length > 1 ? `Stretch ${i + 1}: ${leg.label.toLowerCase()}` : `Line: ${leg.label.toLowerCase()}`}
    value={String(leg.mm)}
    onchange={(v) => move(i, v)}
  />
{/each}
{#if cut.shownIn}
  <Choice
    label="Line on its view"
    options={LINES}
    value={cut.line ?? 'full'}
    onchange={(l) => put('Cutting line', { ...view, cut: l === 'full' ? without(cut, 'line') : { ...cut, line: l } })}
  />
{/if}
