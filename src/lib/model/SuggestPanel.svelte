<script lang="ts">
  import { PROPERTY_TITLES, type PropertyKey } from '$core/ledger/items';
  import type { Grid } from './grid.svelte';

  const { grid }: { grid: Grid } = $props();
  const groups = $derived(
    [...new Set(grid.suggestions.map((s) => s.key))].map((key) => ({
      key,
      title: PROPERTY_TITLES[key as PropertyKey],
      list: grid.suggestions.filter((s) => s.key === key),
    })),
  );
  const itemOf = (part: string) => grid.drawing.items.find((i) => i.part === part);
</script>

{#each groups as g (g.key)}
  <section>
    <h2>{g.title} <button class="q-button main" onclick={() => grid.change(`${g.list.length} × ${g.title}`, g.list)}>Take all {g.list.length}</button></h2>
    <ul>
      {#each g.list as s (s.part)}
        {@const item = itemOf(s.part)}
        <li>
          <span class="what"><b>{item?.number}</b> {item?.values.description.text}</span>
          <span>→ <b>{s.text}</b></span>
          <small>{s.why}</small>
          <button class="q-button" onclick={() => grid.change(`${g.title} of ${item?.number ?? ''}`, [s])}>Take</button>
        </li>
      {/each}
    </ul>
  </section>
{:else}<p>Nothing to propose.</p>{/each}

<style>
  h2 {
    display: flex;
    align-items: center;
    gap: 0.6rem;
    margin: 0.3rem 0;
    font-weight: 600;
    font-size: 0.95rem;
  }
  li {
    display: grid;
    grid-template-columns: minmax(140px, 1fr) minmax(140px, 1fr) 2fr auto;
    align-items: center;
    gap: 0.8rem;
    padding: 2px 0;
    border-bottom: 1px solid var(--line);
  }
  small {
    color: var(--mute);
  }
</style>
