<script lang="ts">
  import { isModelled, massText, PROPERTY_TITLES, totalMass, type Item } from '$core/ledger/items';
  import { coverageOf } from '$core/proof/coverage';
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { markText } from '../proof/marks';
  import type { Drawing } from '../shared/drawing.svelte';
  import { ITEM_DRAGGED } from '../shared/item-dragged';
  import { observeSize } from '../shared/observe-size';
  import { partPicture } from '../shared/part-pictures.svelte';
  import { notify } from '../shared/notices.svelte';
  import { untrack } from 'svelte';

  const { drawing }: { drawing: Drawing } = $props();

  const mass = $derived(totalMass(drawing.items));
  const unit = $derived(drawing.scene.ledger.massUnit);
  const pieces = $derived(drawing.items.reduce((s, i) => s + i.components.length, 0));
  const coverage = $derived(coverageOf(drawing.calm));
  const ready = $derived(drawing.seenThere && drawing.computing.size === 0);
  const all = $derived(drawing.calm.items.map((item, index) => ({ item, index })));
  const nowhere = $derived(all.filter((r) => isModelled(r.item) && coverage.best(r.index) === 'not seen'));
  const unidentified = $derived(all.filter((r) => isModelled(r.item) && coverage.best(r.index) !== 'identified'));
  const gaps = $derived(all.filter((r) => r.item.gaps.length > 0));

  let only = $state<'all' | 'nowhere' | 'unidentified' | 'gaps'>('all');
  const shown = $derived({ all, nowhere, unidentified, gaps }[only]);
  const flip = (f: typeof only) => (only = only === f ? 'all' : f);

  const subtitle = (i: Item) => {
    const source = i.values.source.text;
    const parts = source === 'bought' || source === 'standard' ? [source, i.values.material.text] : [i.values.drawingNumber.text, i.values.material.text];
    return parts.filter(Boolean).join(' · ');
  };
  const gapText = (i: Item) => `no ${i.gaps.map((g) => PROPERTY_TITLES[g].toLowerCase()).join(', ')}`;
  const keys = $derived(new Map(drawing.assembly.parts.map((p) => [p.id, p.geometryKey])));

  /** With more sheets than this their marks are counted instead of drawn. */
  const MOST_MARKS = 14;
  const marks = $derived(drawing.calm.sheets.length <= MOST_MARKS ? drawing.calm.sheets.map((_, n) => n) : undefined);
  const counted = (index: number) =>
    `seen on ${coverage.count(index, 'seen')}, identified on ${coverage.count(index, 'identified')} of ${drawing.calm.sheets.length} sheets`;

  let scroll = $state.raw<HTMLElement | null>(null);
  // Rows are as high as their texts: guessed until they are in sight, then measured; only by observers, as asking at once would lay the
  // whole page out while it is still being built.
  const GUESSED_PX = 58;
  const rows = createVirtualizer<HTMLElement, HTMLLIElement>({
    count: 0,
    getScrollElement: () => scroll,
    estimateSize: () => GUESSED_PX,
    measureElement: (row, entry, list) =>
      entry?.borderBoxSize[0]?.blockSize ?? list.itemSizeCache.get(list.options.getItemKey(list.indexFromElement(row))) ?? GUESSED_PX,
    initialRect: { width: 0, height: 800 },
    observeElementRect: observeSize,
    overscan: 6,
  });
  $effect(() => {
    const list = shown;
    const element = scroll;
    untrack(() => $rows.setOptions({ count: list.length, getScrollElement: () => element, getItemKey: (i) => list[i]?.item.part ?? i }));
  });
  /** Number of an item to go to. */
  let wanted = $state('');
  function jump() {
    const at = all.find((r) => r.item.number === Number(wanted));
    if (!at) {
      notify('trouble', `There is no item “${wanted}”.`);
      return;
    }
    if (!shown.includes(at)) only = 'all';
    drawing.select({ kind: 'item', part: at.item.part });
    wanted = '';
  }
  const measured = (node: HTMLLIElement) => {
    $rows.measureElement(node);
  };
  $effect(() => {
    const part = drawing.selectedPart;
    const at = part === undefined ? -1 : shown.findIndex((r) => r.item.part === part);
    if (at >= 0) untrack(() => $rows.scrollToIndex(at, { align: 'auto' }));
  });
</script>

<section class="ledger" aria-label="Parts ledger">
  <header>
    <h2>Parts ledger</h2>
    <p class="q-caption">
      {drawing.items.length} items · {pieces} pieces{mass.kg > 0 ? ` · ${massText(mass.kg, unit)}${mass.complete ? '' : ', incomplete'}` : ''}
    </p>
    <form
      class="jump"
      onsubmit={(e) => {
        e.preventDefault();
        jump();
      }}
    >
      <input class="q-field" bind:value={wanted} inputmode="numeric" aria-label="Go to item" placeholder="Go to item …" />
    </form>
    <div class="chips">
      {#if ready && nowhere.length}<button class="trouble" aria-pressed={only === 'nowhere'} onclick={() => flip('nowhere')}
          >{nowhere.length} seen nowhere</button
        >{/if}
      {#if ready && unidentified.length}<button class="warn" aria-pressed={only === 'unidentified'} onclick={() => flip('unidentified')}
          >{unidentified.length} not identified</button
        >{/if}
      {#if gaps.length}<button aria-pressed={only === 'gaps'} onclick={() => flip('gaps')}>{gaps.length} with gaps</button>{/if}
      {#if ready && !nowhere.length && !unidentified.length && !gaps.length}<span class="good">All seen, identified and complete</span>{/if}
    </div>
    {#if marks}
      <p class="legend marks">
        On each sheet: <span><i class="identified"></i> with a balloon</span> <span><i class="seen"></i> seen</span>
        <span><i class="not-seen"></i> not seen</span>
      </p>
    {/if}
  </header>
  <div class="scroll" bind:this={scroll}>
    <ul style="height: {$rows.getTotalSize()}px" aria-label="Items">
      {#each $rows.getVirtualItems() as row (row.key)}
        {@const found = shown[row.index]}
        {#if found}
          {@const { item, index } = found}
          {@const open = ready && isModelled(item) && coverage.best(index) !== 'identified'}
          <li data-index={row.index} {@attach measured} style="transform: translateY({row.start}px)" aria-setsize={shown.length} aria-posinset={row.index + 1}>
            <button
              class="row"
              data-part={item.part}
              class:on={drawing.selectedPart === item.part}
              aria-pressed={drawing.selectedPart === item.part}
              draggable={isModelled(item)}
              ondragstart={(e) => e.dataTransfer?.setData(ITEM_DRAGGED, item.part)}
              onclick={() => drawing.select({ kind: 'item', part: item.part })}
            >
              <span class="number" class:open>{item.unnumbered ? '–' : item.number}</span>
              {#if isModelled(item)}<img src={partPicture(keys.get(item.part))} alt="" />{:else}<span class="bare"></span>{/if}
              <span class="text">
                <b>{item.values.description.text || '(no description)'}</b>
                <small>{subtitle(item)}</small>
                {#if item.gaps.length}<small class="gap">{gapText(item)}</small>{/if}
                {#if drawing.proof.marks.items.has(item.number)}<small class="gap">{markText(drawing.proof.marks.items.get(item.number)!)}</small>{/if}
                {#if !isModelled(item)}<small>a row of your own</small>{:else if marks}
                  <span class="marks" role="img" aria-label={marks.map((n) => `sheet ${n + 1}: ${coverage.mark(index, n)}`).join(', ')}>
                    {#each marks as n (n)}<i class={coverage.mark(index, n).replace(' ', '-')} title="Sheet {n + 1}: {coverage.mark(index, n)}"></i>{/each}
                  </span>
                {:else}<small>{counted(index)}</small>{/if}
              </span>
              <span class="quantity" aria-label="quantity {item.quantityText ?? item.quantity}">{item.quantityText ?? item.quantity}</span>
            </button>
          </li>
        {/if}
      {/each}
    </ul>
    {#if shown.length === 0}<p class="q-caption empty">Nothing matches this filter.</p>{/if}
  </div>
</section>

<style>
  .jump {
    margin: 4px 0;
  }
  .jump input {
    min-height: 28px;
  }
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
  .scroll {
    flex: 1;
    overflow-y: auto;
    min-height: 0;
  }
  ul {
    position: relative;
  }
  li {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
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
  .legend {
    flex-wrap: wrap;
    align-items: center;
    font-size: 0.78rem;
    color: var(--mute);
  }
  .legend span {
    display: inline-flex;
    align-items: center;
    gap: 4px;
  }
  .quantity {
    font-size: 0.95rem;
  }
  .empty {
    padding: 1rem;
  }
</style>
