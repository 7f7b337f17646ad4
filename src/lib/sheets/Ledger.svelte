<script lang="ts">
  import { recordsOf } from '$core/document/records';
  import { massText, PROPERTY_TITLES, totalMass, type Item } from '$core/ledger/items';
  import { SEEN_MM2, visibleOnPaper } from '$core/proof/findings';
  import type { Drawing } from '../shared/drawing.svelte';

  const { drawing }: { drawing: Drawing } = $props();

  const views = $derived(recordsOf(drawing.document, 'view'));
  const balloons = $derived(recordsOf(drawing.document, 'balloon'));
  const mass = $derived(totalMass(drawing.items));
  const pieces = $derived(drawing.items.reduce((s, i) => s + i.quantity, 0));

  /** Per sheet: identified there, seen there, or neither. */
  const rows = $derived(
    drawing.items.map((item) => ({
      item,
      marks: drawing.sheets.map((sheet, n) => {
        const own = views.filter((v) => v.sheet === sheet.id);
        const identified = balloons.some((b) => own.some((v) => v.id === b.view) && drawing.itemOfPath(b.component)?.part === item.part);
        const seen = own.some((v) => {
          const r = drawing.results.get(v.id);
          return r !== undefined && visibleOnPaper(item, r, v.scale) >= SEEN_MM2;
        });
        return { sheet: n + 1, state: identified ? 'identified' : seen ? 'seen' : 'not seen' } as const;
      }),
    })),
  );
  const ready = $derived(drawing.computing.size === 0);
  const nowhere = $derived(rows.filter((r) => r.marks.every((m) => m.state === 'not seen')).length);
  const unidentified = $derived(rows.filter((r) => r.marks.every((m) => m.state !== 'identified')).length);
  const gaps = $derived(drawing.items.filter((i) => i.gaps.length > 0).length);

  let only = $state<'all' | 'nowhere' | 'unidentified' | 'gaps'>('all');
  const shown = $derived(
    rows.filter((r) =>
      only === 'nowhere'
        ? r.marks.every((m) => m.state === 'not seen')
        : only === 'unidentified'
          ? r.marks.every((m) => m.state !== 'identified')
          : only === 'gaps'
            ? r.item.gaps.length > 0
            : true,
    ),
  );
  const flip = (f: typeof only) => (only = only === f ? 'all' : f);

  const subtitle = (i: Item) => {
    const source = i.values.source.text;
    const parts = source === 'bought' || source === 'standard' ? [source, i.values.material.text] : [i.values.drawingNumber.text, i.values.material.text];
    return parts.filter(Boolean).join(' · ');
  };
  const gapText = (i: Item) => `no ${i.gaps.map((g) => PROPERTY_TITLES[g].toLowerCase()).join(', ')}`;
  const pictureOf = (i: Item) => drawing.assembly.parts.find((p) => p.id === i.part)?.geometryKey;

  let list: HTMLElement;
  $effect(() => {
    const part = drawing.selectedPart;
    if (part) list?.querySelector(`[data-part="${CSS.escape(part)}"]`)?.scrollIntoView({ block: 'nearest' });
  });
</script>

<section class="ledger" aria-label="Parts ledger">
  <header>
    <h2>Parts ledger</h2>
    <p class="q-caption">
      {drawing.items.length} items · {pieces} pieces{mass.kg > 0 ? ` · ${mass.complete ? '' : 'over '}${massText(mass.kg, drawing.scene.ledger.massUnit)}` : ''}
    </p>
    <div class="chips">
      {#if ready && nowhere}<button class="trouble" aria-pressed={only === 'nowhere'} onclick={() => flip('nowhere')}>{nowhere} seen nowhere</button>{/if}
      {#if ready && unidentified}<button class="warn" aria-pressed={only === 'unidentified'} onclick={() => flip('unidentified')}
          >{unidentified} not identified</button
        >{/if}
      {#if gaps}<button aria-pressed={only === 'gaps'} onclick={() => flip('gaps')}>{gaps} with gaps</button>{/if}
      {#if ready && !nowhere && !unidentified && !gaps}<span class="good">All seen, identified and complete</span>{/if}
    </div>
  </header>
  <ul bind:this={list}>
    {#each shown as { item, marks } (item.part)}
      {@const open = ready && marks.every((m) => m.state !== 'identified')}
      <li>
        <button
          class="row"
          data-part={item.part}
          class:on={drawing.selectedPart === item.part}
          aria-pressed={drawing.selectedPart === item.part}
          onclick={() => drawing.select({ kind: 'item', part: item.part })}
        >
          <span class="number" class:open>{item.number}</span>
          <img src="/api/parts/{pictureOf(item)}" alt="" loading="lazy" />
          <span class="text">
            <b>{item.values.description.text || '(no description)'}</b>
            <small>{subtitle(item)}</small>
            {#if item.gaps.length}<small class="gap">{gapText(item)}</small>{/if}
            <span class="marks" role="img" aria-label={marks.map((m) => `sheet ${m.sheet}: ${m.state}`).join(', ')}>
              {#each marks as m (m.sheet)}<i class={m.state.replace(' ', '-')} title="Sheet {m.sheet}: {m.state}"></i>{/each}
            </span>
          </span>
          <span class="quantity" aria-label="quantity {item.quantity}">{item.quantity}</span>
        </button>
      </li>
    {:else}
      <li class="q-caption empty">Nothing matches this filter.</li>
    {/each}
  </ul>
</section>

<style>
  .ledger {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
  }
  header {
    padding: 0.8rem 0.9rem 0.6rem;
    border-bottom: 1px solid var(--line);
  }
  h2 {
    font-size: 1rem;
    font-weight: 600;
  }
  .chips {
    display: flex;
    flex-wrap: wrap;
    gap: 0.35rem;
    margin-top: 0.45rem;
    min-height: 26px;
  }
  .chips > * {
    padding: 0.1rem 0.6rem;
    min-height: 26px;
    border-radius: 999px;
    border: 1px solid transparent;
    background: color-mix(in srgb, var(--line) 45%, transparent);
    font-size: 0.85rem;
    cursor: pointer;
  }
  .chips [aria-pressed='true'] {
    border-color: currentColor;
    font-weight: 600;
  }
  .chips .trouble {
    background: var(--trouble-soft);
    color: var(--trouble);
  }
  .chips .warn {
    background: var(--ochre-soft);
    color: var(--ochre);
  }
  .chips .good {
    background: var(--good-soft);
    color: var(--good);
    cursor: default;
  }
  ul {
    flex: 1;
    overflow-y: auto;
    min-height: 0;
  }
  .row {
    display: grid;
    grid-template-columns: 30px 40px 1fr auto;
    gap: 0.55rem;
    align-items: center;
    width: 100%;
    padding: 0.4rem 0.9rem 0.4rem 0.7rem;
    border-bottom: 1px solid color-mix(in srgb, var(--line) 60%, transparent);
    border-left: 3px solid transparent;
    text-align: left;
    cursor: pointer;
  }
  .row:hover {
    background: color-mix(in srgb, var(--teal-soft) 45%, transparent);
  }
  .row.on {
    background: var(--teal-soft);
    border-left-color: var(--teal);
  }
  .number {
    display: grid;
    place-items: center;
    width: 28px;
    height: 28px;
    border: 1.5px solid var(--ink);
    border-radius: 50%;
    font-weight: 600;
    font-size: 0.88rem;
  }
  .number.open {
    border: 1.5px dashed var(--ochre);
    color: var(--ochre);
  }
  img {
    width: 40px;
    height: 34px;
    padding: 2px;
    object-fit: contain;
    background: #fffefb;
    border: 1px solid var(--line);
    border-radius: 4px;
  }
  .text {
    min-width: 0;
  }
  .text b {
    display: block;
    font-weight: 600;
    line-height: 1.15;
    overflow-wrap: anywhere;
  }
  .text small {
    display: block;
    color: var(--mute);
    font-size: 0.82rem;
    line-height: 1.25;
  }
  .text .gap {
    color: var(--trouble);
  }
  .marks {
    display: flex;
    gap: 3px;
    margin-top: 3px;
  }
  .marks i {
    width: 16px;
    height: 5px;
    border-radius: 2px;
    background: var(--line);
  }
  .marks .seen {
    background: repeating-linear-gradient(90deg, var(--good) 0 2px, transparent 2px 4px);
    box-shadow: inset 0 0 0 1px var(--good);
  }
  .marks .identified {
    background: var(--good);
  }
  .quantity {
    font-size: 0.95rem;
  }
  .empty {
    padding: 1rem;
  }
</style>
