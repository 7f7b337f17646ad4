<script lang="ts">
  import { reaimSteps, strayBalloons } from '$elements/balloon/place/stray';
  import { resizeSheet } from '$core/document/moves';
  import { paperByName, type Standard } from '$core/sheet/paper';
  import { sizeIn, switchStandard, whatSwitches } from '../switch-standard';
  import { drawingOf, type SheetRecord } from '$core/document/records';
  import { frontOf } from '$core/document/front';
  import { DIRECTION_NAMES, sideFrame, type DirectionName } from '$core/outline/directions';
  import { call, type ApiFailure } from '$lib/shared/api';
  import { notify } from '$lib/shared/notices.svelte';
  import { FileDown, FileUp, Printer } from '@lucide/svelte';
  import { without } from '$core/base/without';
  import Fold from '$lib/kit/Fold.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import { addView } from '../../view/face/actions';
  import { changeFormat } from './format-actions';
  import SlipLayers from './SlipLayers.svelte';
  import SizeFields from './SizeFields.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';

  const { drawing, tools, record: sheet }: { drawing: Drawing; tools: Tools; record: SheetRecord } = $props();
  const titleOf = (name: DirectionName) => name[0]!.toUpperCase() + name.slice(1);
  const record = $derived(drawingOf(drawing.document));
  const number = $derived(drawing.sheets.findIndex((s) => s.id === drawing.sheetId) + 1);
  const findings = $derived(
    (drawing.proof.proved?.findings ?? []).filter((f) => !f.accepted && f.code !== 'LIST_GAP' && (f.sheet === null || f.sheet === drawing.sheetId)),
  );
  /** A drawing that is hardly begun has a finding per item: the first ones say enough. */
  const FEW = 12;
  let all = $state(false);
  const listed = $derived(all ? findings : findings.slice(0, FEW));
  const strays = $derived(strayBalloons(drawing.scene).filter((s) => s.aim && s.view.sheet === drawing.sheetId));
  const format = $derived(drawing.scene.formatOf(sheet.id));
  /** Sheets that lie on the same format. */
  const alike = $derived(drawing.sheets.filter((s) => drawing.scene.formatOf(s.id).name === format.name).length);
  /** A drawing that was given away as JSON takes the place of this one; undo brings this one back. */
  async function readBack(e: Event & { currentTarget: HTMLInputElement }) {
    const file = e.currentTarget.files?.[0];
    e.currentTarget.value = '';
    if (!file) return;
    try {
      await call(`/api/jobs/${drawing.id}/drawing`, { method: 'PUT', body: { version: drawing.version, file: await file.text() } });
      notify('good', 'The drawing is read back in. Undo brings the one before back.');
    } catch (failure) {
      notify('trouble', (failure as ApiFailure).message);
    }
  }
  const flag = (key: 'noFrame' | 'noTitle', label: string, on: boolean) =>
    drawing.edit(`${label} ${on ? 'on' : 'off'}`, [{ op: 'put', record: on ? without(sheet, key) : { ...sheet, [key]: true } }]);
  /** A switch of the standard that waits for a word, and the size of this sheet that asked for it. */
  let asked = $state.raw<{ readonly to: Standard; readonly size: string | undefined } | undefined>(undefined);
  let switching = $state(false);
  function ask(to: Standard, size: string | undefined) {
    asked = to === record.standard ? undefined : { to, size };
  }
  async function takeStandard(to: Standard) {
    switching = true;
    try {
      // Every sheet is arranged: its views must be there.
      for (const s of drawing.sheets) await drawing.viewsThere(s.id);
      const { steps, crowded } = switchStandard(drawing.scene, to);
      drawing.edit(to === 'asme' ? 'Switch to ASME, third angle' : 'Switch to ISO, first angle', steps);
      const names = drawing.sheets.flatMap((s, i) => (crowded.includes(s.id) ? [`${i + 1}`] : []));
      if (names.length) notify('trouble', `There is no room to arrange sheet ${names.join(', ')}: take a larger size or a smaller scale there.`);
    } finally {
      switching = false;
      asked = undefined;
    }
  }
  function chooseSize(size: string, landscape: boolean) {
    const { standard } = paperByName(size)!;
    // A size of the other standard brings its title block: which projection it is to say is asked first.
    if (standard !== record.standard && sizeIn(record.standard, size) !== size && paperByName(sheet.size)?.standard !== standard) ask(standard, size);
    else resize(size, landscape, false);
  }
  const resize = (size: string, landscape: boolean, all: boolean) =>
    drawing.edit(
      all ? 'Size of all sheets' : 'Size of sheet',
      (all ? drawing.sheets : [sheet]).flatMap((s) => resizeSheet(drawing.document, s.id, size, landscape)),
    );
</script>

{#snippet question(to: Standard, size: string | undefined)}
  <div class="ask" role="alertdialog" aria-label="Another standard">
    {#if size}<p>{size} is a size of {to === 'asme' ? 'ASME Y14.1, whose drawings are in third angle' : 'ISO 5457, whose drawings are in first angle'}.</p>{/if}
    <p>Switch the whole drawing?</p>
    <ul>
      {#each whatSwitches(drawing.scene, to) as line (line)}<li>{line}</li>{/each}
    </ul>
    <p class="q-row">
      <button class="q-button main" disabled={switching} onclick={() => void takeStandard(to)}>{switching ? 'Switching …' : 'Switch'}</button>
      {#if size}<button
          class="q-button"
          onclick={() => {
            resize(size, sheet.landscape, false);
            asked = undefined;
          }}>Only this sheet’s size</button
        >{/if}
      <button class="q-button" onclick={() => (asked = undefined)}>Cancel</button>
    </p>
  </div>
{/snippet}

<SlipHead title="Sheet {number} of {drawing.sheets.length}" subtitle={sheet.name} />
<SizeFields size={sheet.size} landscape={sheet.landscape} onchange={chooseSize} />
{#if asked?.size}{@render question(asked.to, asked.size)}{/if}
{#if drawing.sheets.length > 1}<p class="q-row">
    <button class="q-button" onclick={() => resize(sheet.size, sheet.landscape, true)}>This size for all sheets</button>
  </p>{/if}
<p class="q-caption">Format</p>
<p class="format">{format.name}</p>
<p class="q-row">
  <button class="q-button" onclick={() => (tools.formats = true)}>Choose …</button>
  <button class="q-button" onclick={() => changeFormat(drawing, sheet.id, false)}>Change …</button>
  {#if alike > 1}<button class="q-button" onclick={() => changeFormat(drawing, sheet.id, true)}>Change for this sheet alone …</button>{/if}
</p>
<Toggle label="Border" checked={!sheet.noFrame} onchange={(on) => flag('noFrame', 'Border', on)} />
<Toggle label="Title block" checked={!sheet.noTitle} onchange={(on) => flag('noTitle', 'Title block', on)} />
<p class="q-caption"><label for="standard">Standard</label></p>
<select
  id="standard"
  class="q-field"
  value={record.standard}
  onchange={(e) => {
    ask(e.currentTarget.value as Standard, undefined);
    // Nothing is switched yet.
    e.currentTarget.value = record.standard;
  }}
>
  <option value="iso">ISO, first angle</option>
  <option value="asme">ASME, third angle</option>
</select>
{#if asked && !asked.size}{@render question(asked.to, undefined)}{/if}
<div class="gap"></div>
<TextField label="Document type" value={sheet.name} onchange={(v) => drawing.edit('Document type', [{ op: 'put', record: { ...sheet, name: v } }])} />
<p class="q-caption"><label for="add-view">Add a view</label></p>
<select
  id="add-view"
  class="q-field"
  value=""
  onchange={(e) => {
    const name = e.currentTarget.value as DirectionName;
    e.currentTarget.value = '';
    if (name) addView(drawing, titleOf(name), sideFrame(frontOf(drawing.document), name), null);
  }}
>
  <option value="">from …</option>
  {#each DIRECTION_NAMES as name (name)}<option value={name}>{titleOf(name)}</option>{/each}
</select>
<SlipLayers {drawing} />
<Fold title="Take away">
  <ul>
    <li><a href="/api/jobs/{drawing.id}/files/drawing.pdf" download><FileDown size={15} /> PDF, all sheets</a></li>
    <li><button class="link" onclick={() => (tools.print = true)}><Printer size={15} /> Print, tiles, pictures …</button></li>
    <li><a href="/api/jobs/{drawing.id}/files/sheet-{number}.svg" download><FileDown size={15} /> SVG of this sheet</a></li>
    <li><a href="/api/jobs/{drawing.id}/files/parts-list.csv" download><FileDown size={15} /> Parts list, CSV</a></li>
    <li><a href="/api/jobs/{drawing.id}/files/drawing.json" download><FileDown size={15} /> Drawing, JSON</a></li>
    <li>
      <label class="back"><FileUp size={15} /> Read a drawing back in<input type="file" accept=".json" onchange={readBack} /></label>
    </li>
  </ul>
</Fold>
<Fold title="A checker would mark">
  {#if strays.length}
    <p>
      <button class="q-button main" onclick={() => drawing.edit(`Re-aim ${strays.length}`, reaimSteps(strays))}
        >Re-aim {strays.length === 1 ? 'the balloon' : `${strays.length} balloons`}</button
      >
    </p>
  {/if}
  <ul>
    {#each listed as f, i (i)}
      <li class={f.severity}>{f.text}</li>
    {:else}
      <li class="fine">{drawing.proof.proved ? 'Nothing on this sheet.' : 'Being checked …'}</li>
    {/each}
  </ul>
  {#if findings.length > listed.length}<p><button class="q-button" onclick={() => (all = true)}>Show {findings.length - listed.length} more</button></p>{/if}
</Fold>

<style>
  .ask {
    margin: 0.4rem 0;
    padding: 0.5rem 0.6rem;
    border: 1px solid var(--accent);
    border-radius: 8px;
    background: var(--accent-soft);
  }
  .ask ul {
    margin: 0.3rem 0;
    padding-left: 1.1rem;
    list-style: disc;
  }
  .format {
    margin-bottom: 0.3rem;
    font-weight: 500;
  }
  .gap {
    height: 0.6rem;
  }
  .back input {
    position: absolute;
    opacity: 0;
    width: 1px;
  }
  .back:focus-within {
    outline: 2px solid var(--teal);
  }
  a,
  .link,
  .back {
    cursor: pointer;
    display: flex;
    gap: 0.4rem;
    align-items: center;
    min-height: 28px;
    color: var(--teal);
    text-decoration: underline;
  }
  li {
    font-size: 0.9rem;
  }
  .must,
  .should,
  .look {
    padding: 0.35rem 0.55rem;
    margin: 0.3rem 0;
    border-left: 3px solid var(--trouble);
    background: var(--trouble-soft);
  }
  .should,
  .look {
    border-color: var(--ochre);
    background: var(--ochre-soft);
  }
  .fine {
    color: var(--good);
  }
</style>
