<script lang="ts">
  import '../app.css';
  import { toaster } from '$lib/shared/notices.svelte';
  import { Toast } from '@skeletonlabs/skeleton-svelte';

  const { children } = $props();
</script>

{@render children()}

<Toast.Group {toaster}>
  {#snippet children(toast)}
    <Toast {toast}>
      <Toast.Message>
        <Toast.Title>{toast.title}</Toast.Title>
      </Toast.Message>
      {#if toast.action}<Toast.ActionTrigger class="q-button">{toast.action.label}</Toast.ActionTrigger>{/if}
      <Toast.CloseTrigger aria-label="Close" />
    </Toast>
  {/snippet}
</Toast.Group>
