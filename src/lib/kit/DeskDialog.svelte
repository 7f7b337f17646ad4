<script lang="ts">
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';

  /** The frame of a dialog over a stage; what is in it is there while it is open. */
  interface Props {
    open: boolean;
    title: string;
    /** Under the title. */
    words: string;
    /** It holds a few fields, not two columns. */
    narrow?: boolean;
    children: Snippet;
  }
  let { open = $bindable(), title, words, narrow = false, children }: Props = $props();
</script>

<Dialog {open} onOpenChange={(d) => (open = d.open)}>
  <Portal>
    <Dialog.Backdrop class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Positioner class="fixed inset-0 z-50 flex items-start justify-center pt-[8vh]">
      <Dialog.Content class="q-desk-dialog {narrow ? 'narrow' : ''}">
        <Dialog.Title class="title">{title}</Dialog.Title>
        <Dialog.Description class="q-caption">{words}</Dialog.Description>
        {#if open}{@render children()}{/if}
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>
