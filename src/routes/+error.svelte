<script lang="ts">
  import { page } from '$app/state';
  import TopBar from '$lib/shared/TopBar.svelte';
</script>

<svelte:head><title>Nimble Quarry</title></svelte:head>
<TopBar />
<main>
  <h1>{page.status === 404 ? 'Not found' : 'That did not work'}</h1>
  <p>{page.error?.message}</p>
  <p><a class="q-button" href="/">All jobs</a></p>
</main>

<style>
  main {
    padding: 3rem;
    display: grid;
    gap: 0.8rem;
  }
  h1 {
    font-size: 1.5rem;
    font-weight: 600;
  }
</style>
