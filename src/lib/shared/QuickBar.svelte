<script lang="ts">
  import { numberText } from '$core/ledger/items';
  import { Combobox, Dialog, Portal, useListCollection } from '@skeletonlabs/skeleton-svelte';
  import type { Action } from './action';
  import type { Drawing } from './drawing.svelte';
  import { matching } from './matching';
  import { withSynonyms } from './synonyms';

  const { drawing, tools, actions }: { drawing: Drawing; tools: { quickBar: boolean }; actions: readonly Action[] } = $props();

  interface Entry {
    readonly value: string;
    readonly label: string;
    readonly key: string;
    readonly disabled: boolean;
    readonly group: 'Actions' | 'Items';
    readonly run: () => void;
  }

  let typed = $state('');
  const entries = $derived.by((): readonly Entry[] => {
    if (!tools.quickBar) return [];
    return [
      ...actions
        .filter((a) => a.id !== 'quick')
        .map((a) => ({ value: `action:${a.id}`, label: a.label, key: a.key, disabled: a.disabled ?? false, group: 'Actions', run: a.run }) as const),
      ...drawing.items.map(
        (i) =>
          ({
            value: `item:${i.part}`,
            label: `${numberText(i)}  ${i.values.description.text}`,
            key: i.values.drawingNumber.text,
            disabled: false,
            group: 'Items',
            run: () => drawing.select({ kind: 'item', part: i.part }),
          }) as const,
      ),
    ];
  });
  const found = $derived(matching(entries, typed, (e) => `${e.group === 'Actions' ? withSynonyms(e.label) : e.label} ${e.key}`));
  const collection = $derived(
    useListCollection({ items: [...found], itemToString: (e) => e.label, itemToValue: (e) => e.value, isItemDisabled: (e) => e.disabled }),
  );

  function open(on: boolean) {
    tools.quickBar = on;
    typed = '';
  }
  function run(value: string | undefined) {
    const entry = entries.find((e) => e.value === value);
    if (!entry || entry.disabled) return;
    open(false);
    entry.run();
  }
</script>

<Dialog open={tools.quickBar} onOpenChange={(d) => open(d.open)} initialFocusEl={() => document.querySelector<HTMLInputElement>('.quick-input')}>
  <Portal>
    <Dialog.Backdrop class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Positioner class="fixed inset-0 z-50 flex items-start justify-center pt-[14vh]">
      <Dialog.Content class="quick-bar">
        <Dialog.Title class="sr-only">Do anything</Dialog.Title>
        {#if tools.quickBar}
          <Combobox
            open
            {collection}
            inputValue={typed}
            value={[]}
            inputBehavior="autohighlight"
            selectionBehavior="preserve"
            loopFocus
            onInputValueChange={(d) => (typed = d.inputValue)}
            onValueChange={(d) => run(d.value[0])}
          >
            <Combobox.Label class="sr-only">Do anything</Combobox.Label>
            <Combobox.Control><Combobox.Input class="quick-input q-field" placeholder="What do you want to do?" /></Combobox.Control>
            <Combobox.Content class="quick-list">
              {#each ['Actions', 'Items'] as group (group)}
                {@const list = found.filter((e) => e.group === group)}
                {#if list.length}
                  <Combobox.ItemGroup>
                    <Combobox.ItemGroupLabel class="q-caption px-3 pt-2">{group}</Combobox.ItemGroupLabel>
                    {#each list as e (e.value)}
                      <Combobox.Item item={e} class="quick-item">
                        <Combobox.ItemText>{e.label}</Combobox.ItemText><kbd>{e.key}</kbd>
                      </Combobox.Item>
                    {/each}
                  </Combobox.ItemGroup>
                {/if}
              {/each}
            </Combobox.Content>
            {#if !found.length}<p class="q-caption p-3">Nothing goes by that name.</p>{/if}
          </Combobox>
        {/if}
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>

<style>
  :global(.quick-bar) {
    width: min(560px, 92vw);
    padding: 8px;
    border-radius: 12px;
    border: 1px solid var(--line);
    background: var(--panel);
    color: var(--ink);
    box-shadow: 0 12px 40px rgb(0 0 0 / 0.35);
  }
  :global(.quick-input) {
    min-height: 40px;
    font-size: 1.05rem;
  }
  :global(.quick-list) {
    max-height: 52vh;
    overflow-y: auto;
    margin-top: 6px;
    padding: 0;
    border: 0;
    background: transparent;
    box-shadow: none;
  }
  :global(.quick-item) {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    padding: 0.35rem 0.75rem;
    border-radius: 6px;
    cursor: pointer;
  }
  :global(.quick-item[data-highlighted]) {
    background: var(--teal-soft);
  }
  :global(.quick-item[data-disabled]) {
    opacity: 0.45;
  }
  :global(.quick-item kbd) {
    font-family: inherit;
    color: var(--mute);
  }
</style>
