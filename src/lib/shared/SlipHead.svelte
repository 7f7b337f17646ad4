<script lang="ts">
  import type { Snippet } from 'svelte';

  const { title, subtitle, children }: { title: string; subtitle?: string; children?: Snippet } = $props();
</script>

<header>
  <h2>{title}</h2>
  {#if subtitle}<p class="q-caption">{subtitle}</p>{/if}
  {@render children?.()}
</header>

<style>
  header {
    margin-bottom: 0.8rem;
  }
  h2 {
    font-weight: 600;
    font-size: 1rem;
    overflow-wrap: anywhere;
  }
</style>
