<script lang="ts">
  import { without } from '$core/base/without';
  import type { ListColumn, ListRecord } from '$core/document/records';
  import { numberText } from '$core/ledger/items';
  import { LIST_COLUMN_KEYS, LIST_COLUMN_TITLES, LIST_STYLES } from '$core/ledger/list-rows';
  import { renumbered } from '$core/ledger/numbering';
  import { ArrowLeft, ArrowRight, Type } from '@lucide/svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import { call } from '$lib/shared/api';
  import Fold from '$lib/kit/Fold.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import { onMount } from 'svelte';
  import type { ListStyle } from '../record';
  import { putList, shiftedColumn } from '../columns';
  import { rowsOf } from '../rows';

  const { drawing, record: list }: { drawing: Drawing; record: ListRecord } = $props();
  const id = $props.id();

  const { scene } = $derived(drawing);
  const put = (label: string, next: ListRecord) => drawing.edit(label, putList(next, scene));
  const putAlone = (label: string, next: ListRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  const set = (label: string, key: keyof ListRecord, value: unknown) =>
    put(label, (value === undefined || value === '' ? without(list, key as never) : { ...list, [key]: value }) as ListRecord);

  const titles = $derived<Record<string, string>>({ ...LIST_COLUMN_TITLES, ...Object.fromEntries(scene.ledger.own.map((o) => [o.key, o.title])) });
  const keys = $derived([...LIST_COLUMN_KEYS, ...scene.ledger.own.map((o) => o.key)]);
  const has = (key: string) => list.columns.some((c) => c.key === key);
  function toggle(key: string) {
    const title = titles[key] ?? key;
    if (!has(key)) put(`Column ${title} on`, { ...list, columns: [...list.columns, { key, title, widthMm: 24 }] });
    else if (list.columns.length > 1) put(`Column ${title} off`, { ...list, columns: list.columns.filter((c) => c.key !== key) });
  }
  const change = (i: number, c: Partial<ListColumn>, off?: keyof ListColumn) =>
    put('Column', { ...list, columns: list.columns.map((old, k) => (k === i ? ({ ...(off ? without(old, off as never) : old), ...c } as ListColumn) : old)) });

  let styles = $state.raw<readonly (ListStyle & { readonly shipped?: boolean })[]>(LIST_STYLES);
  let ownName = $state('');
  async function loadStyles() {
    // Without the server the shipped ones do.
    styles = await call<typeof styles>('/api/list-styles').catch(() => LIST_STYLES);
  }
  onMount(loadStyles);
  function takeStyle(name: string) {
    const style = styles.find((s) => s.name === name);
    if (!style) return;
    const { columns, rows, heightMm, rowMm, headMm, headBold } = style;
    const given = Object.fromEntries(Object.entries({ rows, heightMm, rowMm, headMm, headBold }).filter(([, v]) => v !== undefined));
    put(`Layout ${name}`, { ...(without(list, 'rows', 'heightMm', 'rowMm', 'headMm', 'headBold') as ListRecord), ...given, columns });
  }
  async function keepStyle() {
    const { columns, rows, heightMm, rowMm, headMm, headBold } = list;
    const body = Object.fromEntries(Object.entries({ name: ownName, columns, rows, heightMm, rowMm, headMm, headBold }).filter(([, v]) => v !== undefined));
    try {
      await call('/api/list-styles', { method: 'POST', body });
      notify('good', `“${ownName.trim()}” was kept: every list of every job can take it.`);
      ownName = '';
      await loadStyles();
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
  }
  async function removeStyle(name: string) {
    try {
      await call(`/api/list-styles/${encodeURIComponent(name)}`, { method: 'DELETE' });
      await loadStyles();
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
  }

  const PLACES = ['top left', 'top right', 'bottom left', 'bottom right'] as const;
  const place = $derived(list.at ? (list.to ? 'region' : 'free') : (list.corner ?? 'block'));
  function putPlace(to: string) {
    const docked = without(list, 'at', 'to', 'corner') as ListRecord;
    const corner = PLACES.find((p) => p === to);
    const { frame } = scene.page(list.sheet).geometry;
    putAlone('Place of the parts list', to === 'free' ? { ...docked, at: [frame.x + 10, frame.y + 10] } : corner ? { ...docked, corner } : docked);
  }

  const sort = $derived(list.sort ?? []);
  function putSort(i: number, key: string) {
    const next =
      key === '' ? sort.filter((_, k) => k !== i) : sort.some((_, k) => k === i) ? sort.map((s, k) => (k === i ? { ...s, key } : s)) : [...sort, { key }];
    set('Order of the rows', 'sort', next.length ? next : undefined);
  }
  const turn = (i: number) =>
    set(
      'Order of the rows',
      'sort',
      sort.map((s, k) => (k === i ? (s.down ? { key: s.key } : { ...s, down: true as const }) : s)),
    );

  function millimetres(key: 'heightMm' | 'rowMm' | 'headMm', low: number, high: number, typed: string) {
    const mm = Number(typed.replace(',', '.'));
    if (typed.trim() === '') set('Size of the parts list', key, undefined);
    else if (mm >= low && mm <= high) set('Size of the parts list', key, mm);
    else notify('trouble', `Write a number of millimetres between ${low} and ${high}.`);
  }

  /** The column whose letters are being set. */
  let open = $state<string>();
  let from = $state(1);
  let step = $state(1);
  function numberAnew() {
    const all = [...scene.items, ...scene.groups.map((g) => g.item)];
    const order = rowsOf(list, scene).flatMap((r) => (r.item ? [r.item] : []));
    drawing.edit('Numbers given anew', renumbered(scene.document, list.rows === 'top' || list.rows === 'indented' ? all : scene.items, order, { from, step }));
  }
  const hidden = $derived(
    (list.hidden ?? []).flatMap((part) => scene.items.find((i) => i.part === part) ?? scene.groups.find((g) => g.item.part === part)?.item ?? []),
  );
</script>

<SlipHead
  title="Parts list"
  subtitle={list.share ? `part ${list.share.part} of ${list.share.of}` : 'drag it to a corner, onto the title block, or anywhere; drag heads and their edges'}
/>
<div class="fields">
  <label for="{id}-style">Layout</label>
  <select id="{id}-style" class="q-field" value="" onchange={(e) => takeStyle(e.currentTarget.value)}>
    <option value="">take one …</option>
    {#each styles as s (s.name)}<option>{s.name}</option>{/each}
  </select>
  <label for="{id}-rows">Rows</label>
  <select id="{id}-rows" class="q-field" value={list.rows ?? ''} onchange={(e) => set('Rows of the parts list', 'rows', e.currentTarget.value)}>
    <option value="">parts only</option>
    <option value="top">top level only</option>
    <option value="indented">all levels, indented</option>
    <option value="indented parts">parts, indented by level</option>
    <option value="stock">cut list of made parts</option>
  </select>
  {#if scene.groups.length}
    <label for="{id}-of">Of</label>
    <select id="{id}-of" class="q-field" value={list.of ?? ''} onchange={(e) => set('What the parts list is of', 'of', e.currentTarget.value)}>
      <option value="">the whole assembly</option>
      {#each scene.groups as g (g.item.part)}<option value={g.item.part}>one {g.item.values.description.text}</option>{/each}
    </select>
  {/if}
  <label for="{id}-view">Only what</label>
  <select id="{id}-view" class="q-field" value={list.view ?? ''} onchange={(e) => set('What the parts list shows', 'view', e.currentTarget.value)}>
    <option value="">everything</option>
    {#each scene.all('view').filter((v) => v.name) as v (v.id)}<option value={v.id}>{v.name} shows</option>{/each}
  </select>
  <label for="{id}-made">Counts</label>
  <select
    id="{id}-made"
    class="q-field"
    value={list.made ? 'all' : ''}
    onchange={(e) => set('Counts of the parts list', 'made', e.currentTarget.value ? true : undefined)}
  >
    <option value="">for one</option>
    <option value="all">for all {scene.drawing.quantity} to make</option>
  </select>
  <label for="{id}-place">Place</label>
  <select id="{id}-place" class="q-field" value={place} onchange={(e) => putPlace(e.currentTarget.value)}>
    <option value="block">on the title block</option>
    {#each PLACES as p (p)}<option value={p}>{p} of the frame</option>{/each}
    <option value="free">free</option>
    {#if place === 'region'}<option value="region">in a region</option>{/if}
  </select>
  <label for="{id}-head">Head</label>
  <select id="{id}-head" class="q-field" value={list.head ?? ''} onchange={(e) => set('Head of the parts list', 'head', e.currentTarget.value)}>
    <option value="">where it begins</option>
    <option value="top">at the top</option>
    <option value="foot">at the foot</option>
  </select>
  <label for="{id}-beside">Blocks</label>
  <select
    id="{id}-beside"
    class="q-field"
    value={String(list.beside ?? 1)}
    onchange={(e) => set('Blocks of the parts list', 'beside', Number(e.currentTarget.value) > 1 ? Number(e.currentTarget.value) : undefined)}
  >
    <option value="1">as few as it takes</option>
    {#each [2, 3, 4, 5, 6] as n (n)}<option value={String(n)}>{n} beside each other</option>{/each}
  </select>
</div>
<p class="q-caption">Order</p>
<div class="fields sort">
  {#each [...sort, undefined].slice(0, 3) as s, i (i)}
    <select class="q-field" aria-label={i === 0 ? 'Rows in the order of' : 'then of'} value={s?.key ?? ''} onchange={(e) => putSort(i, e.currentTarget.value)}>
      <option value="">{i === 0 ? 'as in the tree' : '—'}</option>
      {#each keys as key (key)}<option value={key}>{titles[key]}</option>{/each}
    </select>
    <button class="q-button" disabled={!s} onclick={() => turn(i)}>{s?.down ? 'down' : 'up'}</button>
  {/each}
</div>
<p class="q-caption">Columns, left to right</p>
<ol>
  {#each list.columns as c, i (c.key)}
    <li>
      <input class="q-field" aria-label="Title of column {c.key}" value={c.title} onchange={(e) => change(i, { title: e.currentTarget.value })} />
      <input
        class="q-field mm"
        aria-label="Width of {c.title} in mm"
        type="number"
        min="5"
        max="200"
        value={Math.round(c.widthMm * 10) / 10}
        onchange={(e) => Number(e.currentTarget.value) >= 5 && change(i, { widthMm: Number(e.currentTarget.value) })}
      />
      <button aria-label="Move {c.title} left" disabled={i === 0} onclick={() => drawing.edit('Order of columns', shiftedColumn(list, scene, i, -1))}
        ><ArrowLeft size={14} /></button
      >
      <button
        aria-label="Move {c.title} right"
        disabled={i === list.columns.length - 1}
        onclick={() => drawing.edit('Order of columns', shiftedColumn(list, scene, i, 1))}><ArrowRight size={14} /></button
      >
      <button aria-label="Letters of {c.title}" aria-expanded={open === c.key} onclick={() => (open = open === c.key ? undefined : c.key)}
        ><Type size={14} /></button
      >
      {#if open === c.key}<span class="more">
          <select
            class="q-field"
            aria-label="Texts of {c.title} stand"
            value={c.align ?? ''}
            onchange={(e) => change(i, e.currentTarget.value ? { align: e.currentTarget.value as 'start' } : {}, 'align')}
          >
            <option value="">by its kind</option>
            <option value="start">left</option>
            <option value="middle">middle</option>
            <option value="end">right</option>
          </select>
          <select
            class="q-field"
            aria-label="Long texts of {c.title}"
            value={c.long ?? ''}
            onchange={(e) => change(i, e.currentTarget.value ? { long: e.currentTarget.value as 'wrap' } : {}, 'long')}
          >
            <option value="">cut short</option>
            <option value="wrap">wrap</option>
            <option value="shrink">shrink</option>
          </select>
          <input
            class="q-field"
            aria-label="Height of letters of {c.title} in mm"
            placeholder="letters, mm"
            value={c.heightMm ?? ''}
            onchange={(e) => {
              const mm = Number(e.currentTarget.value.replace(',', '.'));
              if (e.currentTarget.value === '') change(i, {}, 'heightMm');
              else if (mm >= 1 && mm <= 20) change(i, { heightMm: mm });
            }}
          />
          <label
            ><input type="checkbox" checked={c.bold ?? false} onchange={(e) => change(i, e.currentTarget.checked ? { bold: true } : {}, 'bold')} /> bold</label
          >
        </span>{/if}
    </li>
  {/each}
</ol>
<Fold title="Keep this layout">
  <p class="keep">
    <input class="q-field" aria-label="Name of the layout" maxlength="100" placeholder="Name of the layout" bind:value={ownName} />
    <button class="q-button" disabled={!ownName.trim()} onclick={() => void keepStyle()}>Keep</button>
  </p>
  <ul>
    {#each styles.filter((s) => s.shipped === false) as s (s.name)}
      <li class="keep">{s.name} <button class="q-button" onclick={() => void removeStyle(s.name)} aria-label="Remove the layout {s.name}">Remove</button></li>
    {/each}
  </ul>
</Fold>
<p class="q-caption">Letters and rows, mm</p>
<TextField label="Height of letters" value={String(list.heightMm ?? scene.page(list.sheet).style.text)} onchange={(t) => millimetres('heightMm', 1, 20, t)} />
<TextField label="Height of the head’s letters" value={list.headMm ? String(list.headMm) : ''} onchange={(t) => millimetres('headMm', 1, 20, t)} />
<TextField label="Height of rows" value={list.rowMm ? String(list.rowMm) : ''} onchange={(t) => millimetres('rowMm', 2, 60, t)} />
<Toggle label="Bold head" checked={list.headBold ?? false} onchange={(on) => set('Head of the parts list', 'headBold', on || undefined)} />
<p class="q-caption">Numbers</p>
<p class="q-row">
  <label>from <input class="q-field mm" type="number" min="1" bind:value={from} /></label>
  <label>in steps of <input class="q-field mm" type="number" min="1" bind:value={step} /></label>
  <button class="q-button" onclick={numberAnew}>Number anew</button>
</p>
<p class="note">In the order of this list; numbers that were typed stay. A double press on a number types one: 12, 3.1.</p>
{#if hidden.length}
  <p class="q-caption">Rows left out</p>
  {#each hidden as i (i.part)}
    <p class="q-row">
      <span>{numberText(i)} {i.values.description.text}</span>
      <button
        class="q-button"
        onclick={() => {
          const rest = (list.hidden ?? []).filter((p) => p !== i.part);
          set('Show a row', 'hidden', rest.length ? rest : undefined);
        }}>Show</button
      >
    </p>
  {/each}
{/if}
<p class="q-caption">Columns</p>
{#each keys as key (key)}
  <label class="check"><input type="checkbox" checked={has(key)} onchange={() => toggle(key)} /> {titles[key]}</label>
{/each}
<p class="q-row">
  <a class="q-button" href="/api/jobs/{drawing.id}/files/parts-list.xlsx?list={encodeURIComponent(list.id)}" download>XLSX</a>
  <a class="q-button" href="/api/jobs/{drawing.id}/files/parts-list.csv?list={encodeURIComponent(list.id)}" download>CSV</a>
</p>

<style>
  .keep {
    display: flex;
    gap: 0.4rem;
    align-items: center;
    justify-content: space-between;
    padding: 0.2rem 0;
  }
  .fields {
    display: grid;
    grid-template-columns: 4.5rem 1fr;
    gap: 3px 6px;
    align-items: center;
    margin-top: 4px;
  }
  .sort {
    grid-template-columns: 1fr 3.6rem;
  }
  li {
    display: grid;
    grid-template-columns: 1fr 58px 24px 24px 24px;
    gap: 3px;
    margin: 3px 0 6px;
    align-items: center;
  }
  li button {
    display: grid;
    place-items: center;
    min-height: 28px;
    cursor: pointer;
  }
  li button:disabled {
    opacity: 0.3;
  }
  .more {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 3px;
    align-items: center;
  }
  .mm {
    width: 3.6rem;
  }
  .check {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    min-height: 26px;
  }
  .note {
    opacity: 0.7;
    font-size: 0.8rem;
  }
</style>
