<script lang="ts">
  import { PRINT_MARKS, printPages, type PrintMode } from '$core/picture/print';
  import { PAPER_SIZES, paperByName } from '$core/sheet/paper';
  import Chips from '../shared/Chips.svelte';
  import DeskDialog from '../kit/DeskDialog.svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import Toggle from '../shared/Toggle.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: { print: boolean } } = $props();
  const REMEMBERED = 'quarry print';
  const PAPERS = PAPER_SIZES.filter((p) => p.usual).map((p) => p.name);
  const DPI = [100, 150, 200, 300, 600];

  interface Choice {
    mode: PrintMode;
    paper: string;
    bar: boolean;
    grey: boolean;
    layers: boolean;
    dpi: number;
    mark: string;
  }
  const USUAL: Choice = { mode: 'true', paper: 'A4', bar: false, grey: false, layers: false, dpi: 200, mark: '' };
  function remembered(): Choice {
    try {
      return { ...USUAL, ...(JSON.parse(localStorage.getItem(REMEMBERED) ?? '{}') as Partial<Choice>) };
    } catch {
      // Another program's words: the usual choice stands.
      return USUAL;
    }
  }
  let choice = $state<Choice>(USUAL);
  let which = $state<'all' | 'this'>('all');
  $effect(() => {
    if (tools.print) choice = remembered();
  });
  function set(change: Partial<Choice>) {
    choice = { ...choice, ...change };
    localStorage.setItem(REMEMBERED, JSON.stringify(choice));
  }

  const at = $derived(drawing.sheets.findIndex((s) => s.id === drawing.sheetId) + 1);
  const onPaper = $derived(choice.mode === 'fit' || choice.mode === 'tiles');
  const pages = $derived.by(() => {
    if (!tools.print) return [];
    const wanted = which === 'all' ? drawing.sheets : drawing.sheets.slice(at - 1, at);
    const size = paperByName(choice.paper) ?? { short: 210, long: 297 };
    const sheets = wanted.map((s) => ({ ...drawing.scene.page(s.id).geometry, groups: [] }));
    return printPages(sheets, { mode: choice.mode, paper: [size.short, size.long], bar: choice.bar });
  });
  /** How many pages, and of which sizes. */
  const said = $derived.by(() => {
    const sizes = [...new Set(pages.map((p) => `${Math.round(p.width)} × ${Math.round(p.height)} mm`))];
    return `${pages.length === 1 ? 'One page' : `${pages.length} pages`} · ${sizes.slice(0, 3).join(', ')}`;
  });
  const query = $derived(
    new URLSearchParams({
      print: choice.mode,
      ...(onPaper ? { paper: choice.paper } : {}),
      ...(choice.bar ? { bar: '1' } : {}),
      ...(choice.grey ? { grey: '1' } : {}),
      ...(choice.layers ? { layers: '1' } : {}),
      ...(choice.mark ? { mark: choice.mark } : {}),
      ...(which === 'this' ? { sheets: String(at) } : {}),
    }),
  );
  const file = (name: string, more: string) => `/api/jobs/${drawing.id}/files/${name}?${more}`;
</script>

<DeskDialog bind:open={tools.print} title="Print and files" words={said} narrow>
  <Chips
    label="Sheets"
    options={[
      ['all', `all ${drawing.sheets.length}`],
      ['this', `sheet ${at}`],
    ]}
    value={which}
    onchange={(v) => (which = v as 'all')}
  />
  <Chips
    label="Size"
    options={[
      ['true', 'true'],
      ['half', 'half'],
      ['fit', 'fit the paper'],
      ['tiles', 'tiles'],
    ]}
    value={choice.mode}
    onchange={(v) => set({ mode: v as PrintMode })}
  />
  {#if onPaper}
    <label class="q-caption" for="print-paper">Paper in the printer</label>
    <select id="print-paper" class="q-field" value={choice.paper} onchange={(e) => set({ paper: e.currentTarget.value })}>
      {#each PAPERS as name (name)}<option value={name}>{name}</option>{/each}
    </select>
  {/if}
  {#if choice.mode === 'tiles'}<p class="q-caption">True size on several papers: cut along the dashed lines and glue.</p>
  {:else}<Toggle label="Bar of 100 mm, to be checked with a ruler" checked={choice.bar} onchange={(bar) => set({ bar })} />{/if}
  <Toggle label="Grey" checked={choice.grey} onchange={(grey) => set({ grey })} />
  <Toggle label="Layers that a reader can switch" checked={choice.layers} onchange={(layers) => set({ layers })} />
  <label class="q-caption" for="print-mark">Marked across every page</label>
  <select id="print-mark" class="q-field" value={choice.mark} onchange={(e) => set({ mark: e.currentTarget.value })}>
    <option value="">nothing</option>
    {#each PRINT_MARKS as words (words)}<option value={words}>{words}</option>{/each}
  </select>
  <p class="row"><a class="q-button main" href={file('drawing.pdf', String(query))} download>PDF</a></p>
  <hr />
  <p class="row">
    <label class="q-caption" for="print-dpi">Picture of sheet {at}, pixels per inch</label>
    <select id="print-dpi" class="q-field" value={String(choice.dpi)} onchange={(e) => set({ dpi: Number(e.currentTarget.value) })}>
      {#each DPI as n (n)}<option value={String(n)}>{n}</option>{/each}
    </select>
    <a class="q-button" href={file(`sheet-${at}.png`, `dpi=${choice.dpi}${choice.grey ? '&grey=1' : ''}`)} download>PNG</a>
    <a class="q-button" href={file(`sheet-${at}.svg`, '')} download>SVG</a>
  </p>
  <p class="row">
    <a class="q-button" href={file('parts-list.xlsx', '')} download>Parts list, XLSX</a>
    <a class="q-button" href={file('parts-list.csv', '')} download>CSV</a>
    <a class="q-button" href={file('findings.xlsx', '')} download>Findings, XLSX</a>
    <a class="q-button" href={file('drawing.json', '')} download>Drawing, JSON</a>
  </p>
</DeskDialog>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    align-items: center;
    margin-top: 0.6rem;
  }
  .row select {
    width: 5rem;
  }
  hr {
    margin: 0.8rem 0 0.2rem;
    border-color: var(--line);
  }
</style>
