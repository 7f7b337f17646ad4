<script lang="ts">
  import { K_KEY, parseK } from '$core/flat/k-factor';
  import { stepsOf } from '$core/ledger/grid';
  import { massText, PROPERTY_KEYS, PROPERTY_TITLES, SOURCES, type Item, type PropertyKey } from '$core/ledger/items';
  import { SEEN_MM2, visibleOnPaper } from '$core/proof/coverage';
  import Fold from '../kit/Fold.svelte';
  import { notify } from './notices.svelte';
  import { without } from '$core/base/without';
  import TextField from './TextField.svelte';
  import Toggle from './Toggle.svelte';
  import type { Drawing } from './drawing.svelte';
  import SlipHead from './SlipHead.svelte';

  const { drawing, item }: { drawing: Drawing; item: Item } = $props();

  function set(key: PropertyKey, value: string) {
    change(`${PROPERTY_TITLES[key]} of ${item.number}`, key, value);
  }
  function reset(key: PropertyKey) {
    change(`${PROPERTY_TITLES[key]} of ${item.number} put back`, key, undefined);
  }
  function change(label: string, key: PropertyKey, text: string | undefined) {
    drawing.edit(label, stepsOf(drawing.document, [{ part: item.part, key, text }], new Date().toISOString()));
  }
  const seen = $derived(
    drawing.scene
      .all('view')
      .map((v) => ({ view: v, area: visibleOnPaper(item, drawing.scene.visibleArea(v.id) ?? [], v.scale) }))
      .filter((s) => s.area >= SEEN_MM2)
      .sort((a, b) => b.area - a.area),
  );
  /** The piece that is selected in a section: it can be cut or kept whole by itself. */
  const piece = $derived.by(() => {
    const s = drawing.selection;
    if (s.kind !== 'item' || s.component === undefined || !s.view) return undefined;
    const view = drawing.document[s.view];
    if (view?.type !== 'view' || !view.cut) return undefined;
    const path = drawing.components[s.component]!.path;
    return { view, cut: view.cut, path, whole: view.cut.keptWhole.includes(path) };
  });
  function togglePiece() {
    if (!piece) return;
    const { view, cut, path, whole } = piece;
    const keptWhole = whole ? cut.keptWhole.filter((p) => p !== path) : [...cut.keptWhole, path];
    drawing.edit(whole ? 'Cut this piece' : 'Keep this piece whole', [{ op: 'put', record: { ...view, cut: { ...cut, keptWhole } } }]);
  }
  /** The record of a row of one's own. */
  const own = $derived(drawing.scene.one('row', item.part));
  const putRow = (label: string, record: NonNullable<typeof own>) => drawing.edit(`${label} of the row`, [{ op: 'put', record }]);
  function removeRow() {
    const words = drawing.document[`property:${item.part}`];
    drawing.edit('Remove the row', [{ op: 'drop', id: item.part }, ...(words ? [{ op: 'drop' as const, id: words.id }] : [])]);
    drawing.select({ kind: 'none' });
  }
  /** It is bent from sheet or a round tube: it can be laid flat. */
  const laid = $derived.by(() => {
    const [first] = item.components;
    const features = first === undefined || item.part.startsWith('group:') ? undefined : drawing.scene.features(first);
    return features?.laid ? 'Flat pattern' : features?.stock.profile === 'tube' ? 'Wrap of the tube' : undefined;
  });
  const property = $derived(drawing.scene.one('property', `property:${item.part}`));
  const typedK = $derived(property?.values[K_KEY] ?? '');
  const materialK = $derived(drawing.scene.ledger.materials.find((m) => m.name.toLowerCase() === item.values.material.text.trim().toLowerCase())?.k);
  function setK(typed: string) {
    const text = typed.trim();
    if (text && parseK(text) === undefined) {
      notify('trouble', 'K is a share of the thickness between 0 and 1, such as 0.44.');
      return;
    }
    const record = property ?? { type: 'property' as const, id: `property:${item.part}`, part: item.part, values: {} };
    const values = text ? { ...record.values, [K_KEY]: text } : without(record.values, K_KEY);
    drawing.edit('K of the part', [{ op: 'put', record: { ...record, values } }]);
  }
  const flat = (as: 'svg' | 'pdf') => `/api/jobs/${drawing.id}/files/flat.${as}?part=${encodeURIComponent(item.part)}`;
  /** Sheets that are of this part alone. */
  const listsHere = $derived(drawing.scene.all('list').filter((l) => l.sheet === drawing.sheetId));
  const sheetsOfIt = $derived(
    drawing.sheets.filter((s) => s.id !== drawing.sheetId && (s.part === item.part || (s.from?.of.split('\n').includes(item.part) ?? false))),
  );
  const sheetNumber = (sheet: string) => drawing.sheets.findIndex((s) => s.id === sheet) + 1;
</script>

<SlipHead
  title="{item.unnumbered ? '' : item.number}  {item.values.description.text || (own ? 'New row' : '')}"
  subtitle="{own ? 'a row of your own' : `${item.quantity} used`} · {item.massKg === undefined
    ? 'mass not known'
    : `${massText(item.massKg, drawing.scene.ledger.massUnit)} each`}"
/>
<p class="origin">{item.massOrigin}</p>
{#each listsHere as list (list.id)}
  <p class="q-row"><button class="q-button" onclick={() => drawing.select({ kind: 'record', id: list.id })}>The parts list: columns and rows</button></p>
{/each}
{#each sheetsOfIt as sheet (sheet.id)}
  <p class="q-row"><button class="q-button" onclick={() => (drawing.sheetId = sheet.id)}>Its own sheet: {sheetNumber(sheet.id)}</button></p>
{/each}
{#if laid === 'Flat pattern'}
  <TextField
    label="K, share of the thickness"
    value={typedK}
    origin={typedK
      ? 'Typed here, for this part alone.'
      : materialK === undefined
        ? 'By DIN 6935, from inner radius and thickness, unless typed here or for the material.'
        : `${materialK} by its material.`}
    onchange={setK}
    onreset={typedK ? () => setK('') : undefined}
  />
{/if}
{#if laid}
  <p class="q-row">
    <span>{laid}, 1:1</span>
    <a class="q-button" href={flat('svg')} download>SVG</a>
    <a class="q-button" href={flat('pdf')} download>PDF</a>
  </p>
{/if}
{#if own}
  <TextField label="Quantity, as it is written" value={own.quantity} onchange={(v) => putRow('Quantity', { ...own, quantity: v.trim().slice(0, 30) })} />
  <Toggle
    label="Item number"
    checked={!own.unnumbered}
    onchange={(on) => putRow('Item number', on ? (without(own, 'unnumbered') as typeof own) : { ...own, unnumbered: true })}
  />
  <p class="q-row"><button class="q-button" onclick={removeRow}>Remove this row</button></p>
{/if}

<div class="fields">
  {#each PROPERTY_KEYS as key (key)}
    <div class:wide={key === 'description' || key === 'remark'}>
      <TextField
        label={PROPERTY_TITLES[key]}
        value={item.values[key].text}
        origin={item.values[key].origin}
        wanted={item.gaps.includes(key)}
        onchange={(v) => set(key, v)}
        onreset={item.values[key].from === 'typed' ? () => reset(key) : undefined}
        {...key === 'source' ? { options: SOURCES } : {}}
      />
    </div>
  {/each}
</div>

{#if piece}
  <h3>In {piece.view.name}</h3>
  <button class="q-button" onclick={togglePiece}>{piece.whole ? 'Cut this piece' : 'Keep this piece whole'}</button>
{/if}

<Fold title="Seen in">
  <ul>
    {#each seen as s (s.view.id)}
      <li>
        <button onclick={() => ((drawing.sheetId = s.view.sheet), drawing.select({ kind: 'item', part: item.part, view: s.view.id }))}>
          {s.view.name}, sheet {sheetNumber(s.view.sheet)}
        </button>
        <span>{Math.round(s.area)} mm²</span>
      </li>
    {:else}
      <li class="none">No view shows it. Add a view or a cut that does.</li>
    {/each}
  </ul>
</Fold>

<style>
  .fields {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.6rem;
    align-items: end;
  }
  .wide {
    grid-column: 1 / -1;
  }
  .origin {
    margin: -0.6rem 0 0.7rem;
    font-size: 0.78rem;
    color: var(--mute);
  }
  h3 {
    margin-top: 0.8rem;
    font-weight: 600;
    font-size: 0.9rem;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    font-size: 0.88rem;
  }
  li button {
    color: var(--teal);
    text-decoration: underline;
    cursor: pointer;
    min-height: 24px;
  }
  .none {
    color: var(--trouble);
  }
</style>
