<script lang="ts">
  import { Progress } from '@skeletonlabs/skeleton-svelte';

  /** How far something is, 0…1. */
  const { label, share }: { label: string; share: number } = $props();
</script>

<Progress value={Math.round(100 * share)} class="w-full">
  <Progress.Label class="sr-only">{label}</Progress.Label>
  <Progress.Track class="h-2 bg-surface-300 dark:bg-surface-700"><Progress.Range class="bg-secondary-500" /></Progress.Track>
</Progress>
