<script lang="ts">
  import TopBar from '$lib/shared/TopBar.svelte';

  const { data } = $props();
</script>

<svelte:head><title>HTTP interface · Nimble Quarry</title></svelte:head>

<div class="page">
  <TopBar />
  <main>
    <h1>HTTP interface</h1>
    <p>
      Everything that the pages do can be done by programs. Requests that change a drawing carry its version; a stale one gets 409 and changes nothing. An error
      is
      <code>{'{"error": {"code", "message"}}'}</code>: a code for programs, a sentence for people. The same as
      <a href="/api/openapi.json">OpenAPI 3.1</a>.
    </p>
    <ul>
      {#each data.operations as o (`${o.method} ${o.path}`)}
        <li>
          <p class="address"><b class={o.method.toLowerCase()}>{o.method}</b> <code>{o.path}</code></p>
          <p>{o.says}.</p>
          <p class="q-caption">
            Gives: {o.gives}{#if o.streamed}&#32;Told line by line: progress, then <code>{'{"result"}'}</code> or <code>{'{"error"}'}</code>.{/if}
          </p>
          {#if o.schema}
            <details>
              <summary>What is sent ({o.type})</summary>
              <pre>{o.schema}</pre>
            </details>
          {/if}
        </li>
      {/each}
    </ul>
  </main>
</div>

<style>
  .page {
    display: flex;
    flex-direction: column;
    height: 100vh;
  }
  main {
    flex: 1;
    overflow-y: auto;
    width: 100%;
    max-width: 980px;
    margin: 0 auto;
    padding: 1.4rem 2rem 3rem;
  }
  h1 {
    font-size: 1.4rem;
    font-weight: 600;
    margin-bottom: 0.5rem;
  }
  li {
    padding: 0.8rem 0;
    border-bottom: 1px solid var(--line);
  }
  .address b {
    display: inline-block;
    width: 4.6rem;
    font-weight: 600;
    color: var(--teal);
  }
  .address b.delete {
    color: var(--mute);
  }
  pre {
    max-height: 24rem;
    overflow: auto;
    margin-top: 0.4rem;
    padding: 0.7rem 0.9rem;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
    font-size: 0.82rem;
  }
  summary {
    cursor: pointer;
    color: var(--teal);
    font-size: 0.9rem;
  }
</style>
