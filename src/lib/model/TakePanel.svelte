<script lang="ts">
  import type { Grid } from './grid.svelte';
  import { notify } from '../shared/notices.svelte';

  interface Change {
    readonly part: string;
    readonly key: string;
    readonly text: string;
    readonly title: string;
    readonly before: string;
  }
  interface Preview {
    readonly changes: readonly Change[];
    readonly refused: readonly string[];
    readonly unknown: readonly string[];
  }
  const { grid }: { grid: Grid } = $props();
  let preview = $state.raw<Preview | undefined>(undefined);
  let busy = $state(false);

  async function read(file: File | undefined) {
    if (!file) return;
    busy = true;
    try {
      const form = new FormData();
      form.append('file', file, file.name);
      const r = await fetch(`/api/jobs/${grid.drawing.id}/properties`, { method: 'POST', body: form });
      const answer = (await r.json()) as Preview & { error?: { message: string } };
      if (r.ok) preview = answer;
      else notify('trouble', answer.error?.message ?? 'The file could not be read.');
    } catch {
      notify('trouble', 'The server does not answer. Try it again.');
    } finally {
      busy = false;
    }
  }
  function take() {
    if (preview) grid.change(`${preview.changes.length} values brought in`, preview.changes);
    preview = undefined;
  }
  const itemOf = (part: string) => grid.drawing.items.find((i) => i.part === part);
</script>

<div class="row">
  <a class="q-button" href="/api/jobs/{grid.drawing.id}/files/properties.xlsx" download>Take out as XLSX</a>
  <a class="q-button" href="/api/jobs/{grid.drawing.id}/files/properties.csv" download>Take out as CSV</a>
  <label class="q-button">
    {busy ? 'Reading …' : 'Bring in XLSX or CSV'}
    <input class="sr-only" type="file" accept=".xlsx,.csv" aria-label="Properties file" onchange={(e) => void read(e.currentTarget.files?.[0])} />
  </label>
</div>
{#if preview}
  <h2>{preview.changes.length === 0 ? 'Nothing would change' : `${preview.changes.length} values would change`}</h2>
  {#each preview.refused as r (r)}<p class="trouble">{r}</p>{/each}
  {#if preview.unknown.length}<p class="trouble">
      Not matched to a part: {preview.unknown.slice(0, 10).join(', ')}{preview.unknown.length > 10 ? ' …' : ''}
    </p>{/if}
  <ul>
    {#each preview.changes as c (`${c.part}/${c.key}`)}
      <li><b>{itemOf(c.part)?.number}</b> {itemOf(c.part)?.values.description.text}: {c.title} <s>{c.before || 'empty'}</s> → <b>{c.text || 'empty'}</b></li>
    {/each}
  </ul>
  <div class="row">
    <button class="q-button main" disabled={preview.changes.length === 0} onclick={take}>Bring these in</button>
    <button class="q-button" onclick={() => (preview = undefined)}>Leave it</button>
  </div>
{/if}

<style>
  .row {
    display: flex;
    gap: 0.6rem;
    margin-bottom: 0.4rem;
  }
  h2 {
    font-weight: 600;
  }
  .trouble {
    color: var(--trouble);
  }
  s {
    color: var(--mute);
  }
</style>
