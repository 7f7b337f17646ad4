<script lang="ts">
  import { ChevronDown } from '@lucide/svelte';
  import { Accordion } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';

  /** A part of a slip that folds; how it was left is kept for the page's life. */
  interface Props {
    title: string;
    /** It begins folded. */
    folded?: boolean;
    children: Snippet;
  }
  const { title, folded = false, children }: Props = $props();
  const key = $derived(`fold:${title}`);
  const kept = () => (typeof sessionStorage === 'undefined' ? null : sessionStorage.getItem(key));
  let open = $state<boolean>();
  // What was open stays open: it never folds under someone's hand.
  $effect(() => {
    if (!folded && kept() === null) open ??= true;
  });
  const shown = $derived(open ?? (kept() ?? (folded ? 'folded' : 'open')) !== 'folded');
</script>

<Accordion
  collapsible
  value={shown ? ['it'] : []}
  onValueChange={(d) => {
    open = d.value.length > 0;
    sessionStorage.setItem(key, open ? 'open' : 'folded');
  }}
  class="border-t border-(--line) mt-2"
>
  <Accordion.Item value="it">
    <h3>
      <Accordion.ItemTrigger class="flex w-full items-center justify-between px-0 py-1 font-semibold text-[0.9rem]">
        {title}<Accordion.ItemIndicator class="data-[state=closed]:-rotate-90"><ChevronDown size={16} /></Accordion.ItemIndicator>
      </Accordion.ItemTrigger>
    </h3>
    <Accordion.ItemContent class="px-0 pt-0 pb-2">{@render children()}</Accordion.ItemContent>
  </Accordion.Item>
</Accordion>
