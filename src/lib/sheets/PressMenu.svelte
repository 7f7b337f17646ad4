<script lang="ts">
  import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
  import { untrack } from 'svelte';
  import { ChevronRight } from '@lucide/svelte';
  import type { Action } from '../shared/action';
  import { actionsIn, isSubmenu, type Menu as Offered } from './menu';

  interface Props {
    /** What is offered, and where the menu stands in pixels of the window. It stays as it was when it was opened. */
    menu: { readonly x: number; readonly y: number; readonly of: Offered };
    onclosed: () => void;
  }
  const props: Props = $props();
  const { x, y, of } = untrack(() => props.menu);
  const actions = actionsIn(of);

  function run(id: string) {
    props.onclosed();
    actions.find((a) => a.id === id)?.run();
  }
  /** Inside the window, whatever it is opened on. */
  const fits = { fitViewport: true, overlap: true, slide: true, flip: true, gutter: 2, overflowPadding: 6 } as const;
</script>

{#snippet item(a: Action)}
  <Menu.Item value={a.id} class="press-item">
    <Menu.ItemText>{a.label}</Menu.ItemText>
    {#if a.key}<kbd>{a.key}</kbd>{/if}
  </Menu.Item>
{/snippet}

<Menu
  open
  positioning={{ ...fits, placement: 'bottom-start', getAnchorRect: () => ({ x, y, width: 0, height: 0 }) }}
  onOpenChange={(d) => !d.open && props.onclosed()}
  onSelect={(d) => run(d.value)}
  aria-label={of.title}
>
  <Portal>
    <Menu.Positioner class="z-50!">
      <Menu.Content class="press-menu">
        {#each of.groups as group, i (i)}
          {#if i}<Menu.Separator />{/if}
          <Menu.ItemGroup>
            {#if !i}<Menu.ItemGroupLabel class="press-title">{of.title}</Menu.ItemGroupLabel>{/if}
            {#each group as e (e.id)}
              {#if isSubmenu(e)}
                <Menu positioning={{ ...fits, overlap: false, placement: 'right-start' }} onSelect={(d) => run(d.value)} aria-label={e.label}>
                  <Menu.TriggerItem value={e.id} class="press-item">
                    <Menu.ItemText>{e.label}</Menu.ItemText>
                    <ChevronRight size={15} />
                  </Menu.TriggerItem>
                  <Portal>
                    <Menu.Positioner class="z-50!">
                      <Menu.Content class="press-menu">
                        {#each e.actions as a (a.id)}{@render item(a)}{/each}
                      </Menu.Content>
                    </Menu.Positioner>
                  </Portal>
                </Menu>
              {:else}{@render item(e)}{/if}
            {/each}
          </Menu.ItemGroup>
        {/each}
      </Menu.Content>
    </Menu.Positioner>
  </Portal>
</Menu>

<style>
  :global(.press-menu) {
    min-width: 250px;
    max-width: 380px;
    max-height: min(var(--available-height, 560px), 560px);
    overflow-y: auto;
    padding: 5px;
    border: 1px solid var(--line);
    border-radius: 9px;
    background: var(--panel);
    color: var(--ink);
    box-shadow: 0 8px 28px rgb(0 0 0 / 0.28);
    outline: none;
  }
  :global(.press-title) {
    padding: 0.2rem 0.6rem 0.35rem;
    font-weight: 600;
    font-size: 0.9rem;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  :global(.press-item) {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 1.2rem;
    padding: 0.22rem 0.6rem;
    border-radius: 5px;
    cursor: pointer;
  }
  :global(.press-item[data-highlighted]) {
    background: var(--teal-soft);
  }
  :global(.press-item kbd) {
    font-family: inherit;
    font-size: 0.82rem;
    color: var(--mute);
  }
  :global(.press-menu hr) {
    margin: 4px 0;
    border-color: var(--line);
  }
</style>
