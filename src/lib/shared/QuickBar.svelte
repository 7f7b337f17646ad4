<script lang="ts">
  import { Command, Dialog } from 'bits-ui';
  import type { Action } from './action';
  import type { Drawing } from './drawing.svelte';

  const { drawing, tools, actions }: { drawing: Drawing; tools: { quickBar: boolean }; actions: readonly Action[] } = $props();

  function done(run: () => void) {
    tools.quickBar = false;
    run();
  }
</script>

<Dialog.Root bind:open={tools.quickBar}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content class="quick-bar" aria-describedby={undefined}>
      <Dialog.Title class="sr-only">Do anything</Dialog.Title>
      <Command.Root label="Do anything">
        <Command.Input class="q-field quick-input" placeholder="What do you want to do?" />
        <Command.List class="quick-list">
          <Command.Viewport>
            <Command.Empty class="q-caption p-3">Nothing goes by that name.</Command.Empty>
            <Command.Group>
              <Command.GroupHeading class="q-caption px-3 pt-2">Actions</Command.GroupHeading>
              <Command.GroupItems>
                {#each actions.filter((a) => a.id !== 'quick') as a (a.id)}
                  <Command.Item class="quick-item" value={a.label} disabled={a.disabled ?? false} onSelect={() => done(a.run)}
                    ><span>{a.label}</span><kbd>{a.key}</kbd></Command.Item
                  >
                {/each}
              </Command.GroupItems>
            </Command.Group>
            <Command.Group>
              <Command.GroupHeading class="q-caption px-3 pt-2">Items</Command.GroupHeading>
              <Command.GroupItems>
                {#each drawing.items as i (i.part)}
                  <Command.Item
                    class="quick-item"
                    value="{i.number} {i.values.description.text} {i.values.drawingNumber.text}"
                    onSelect={() => done(() => drawing.select({ kind: 'item', part: i.part }))}
                  >
                    <span>{i.number}&ensp;{i.values.description.text}</span><kbd>{i.values.drawingNumber.text}</kbd>
                  </Command.Item>
                {/each}
              </Command.GroupItems>
            </Command.Group>
          </Command.Viewport>
        </Command.List>
      </Command.Root>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  :global(.quick-bar) {
    position: fixed;
    z-index: 50;
    left: 50%;
    top: 14vh;
    transform: translateX(-50%);
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
  }
  :global(.quick-item) {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    padding: 0.35rem 0.75rem;
    border-radius: 6px;
    cursor: pointer;
  }
  :global(.quick-item[data-selected]) {
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
