<script lang="ts">
  import { untrack } from 'svelte';
  import DeskDialog from '../kit/DeskDialog.svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import { RecipeDesk } from './recipe-desk.svelte';
  import RecipeEditor from './RecipeEditor.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: { recipes: boolean } } = $props();
  const desk = untrack(() => new RecipeDesk(drawing));
  $effect(() => {
    if (tools.recipes) untrack(() => void desk.load());
  });
  const chosen = $derived(desk.recipes.find((r) => r.name === desk.chosen));
  const coming = $derived(desk.preview?.sheets.filter((s) => !s.stands).length ?? 0);
  const left = $derived(desk.slots.filter((s) => !s.filled));
  let file: HTMLInputElement;
</script>

<DeskDialog bind:open={tools.recipes} title="Recipes" words="Sheets that are made again from any assembly.">
  <div class="both">
    <div class="list">
      <ul aria-label="Recipes">
        {#each desk.recipes as r (r.name)}
          <li>
            <button class:chosen={r.name === desk.chosen} aria-pressed={r.name === desk.chosen} onclick={() => void desk.choose(r.name)}>
              <b>{r.name}</b>
              <span class="q-caption">{r.shipped ? 'shipped' : r.version > 1 ? `yours, version ${r.version}` : 'yours'}</span>
            </button>
          </li>
        {/each}
      </ul>
      <form class="keep" onsubmit={(e) => (e.preventDefault(), void desk.keep())}>
        <label class="q-caption" for="recipe-name">Keep the sheets of this drawing as</label>
        <input id="recipe-name" class="q-field" bind:value={desk.name} maxlength="100" placeholder="Name of the recipe" />
        <button class="q-button" disabled={!desk.name.trim()}>Keep as recipe</button>
      </form>
      <div class="files">
        <button class="q-button" onclick={() => desk.begin()}>New …</button>
        <button class="q-button" disabled={!chosen} onclick={() => void desk.change()}>Change …</button>
        <button class="q-button" onclick={() => file.click()}>Read in …</button>
        {#if chosen}<a class="q-button" href="/api/recipes/{encodeURIComponent(chosen.name)}" download="{chosen.name}.json">Give out</a>{/if}
        {#if chosen && !chosen.shipped}<button class="q-button" onclick={() => void desk.remove()}>Remove</button>{/if}
        <input
          bind:this={file}
          type="file"
          accept=".json"
          class="sr-only"
          tabindex="-1"
          aria-label="Recipe file"
          onchange={(e) => void desk.readIn(e.currentTarget.files?.[0])}
        />
      </div>
    </div>
    <section class="preview" aria-label={desk.editing ? 'The recipe' : 'Sheets that would come'}>
      {#if desk.editing}
        <label class="q-caption" for="recipe-own-name">Name</label>
        <input
          id="recipe-own-name"
          class="q-field"
          maxlength="100"
          value={desk.editing.name}
          onchange={(e) => (desk.editing = { ...desk.editing!, name: e.currentTarget.value.trim() || desk.editing!.name })}
        />
        <RecipeEditor recipe={desk.editing} onchange={(next) => (desk.editing = next)} />
      {:else if chosen}
        <p>{chosen.words}</p>
        {#if desk.preview}
          <ol>
            {#each desk.preview.sheets as s, i (i)}
              <li class:stands={s.stands}>
                <b>{s.name}</b>
                <span class="q-caption">{s.stands ? 'stands already and stays as it is' : s.slots.join(' · ')}</span>
              </li>
            {:else}
              <li class="stands">This model has nothing for it.</li>
            {/each}
          </ol>
          {#if desk.preview.leftOut.length}<p class="q-caption">Left out, since the model has nothing for it: {desk.preview.leftOut.join(', ')}.</p>{/if}
        {:else}<p class="q-caption">Being looked up …</p>{/if}
        {#if left.length}
          <details open>
            <summary>{left.length === 1 ? 'One slot was' : `${left.length} slots were`} left out</summary>
            <ul class="left">
              {#each left as s, i (i)}<li><b>{s.sheet}</b>: {s.name}. {s.why}</li>{/each}
            </ul>
          </details>
        {/if}
      {/if}
    </section>
  </div>
  <footer>
    {#if desk.editing}
      <button class="q-button" onclick={() => (desk.editing = undefined)}>Leave it as it was</button>
      <button class="q-button main" onclick={() => void desk.keepChanged()}>Keep this recipe</button>
    {:else if desk.making !== undefined}
      <span role="status">Being drawn: {desk.making || '…'}</span>
      <button class="q-button" onclick={() => desk.cancel()}>Cancel</button>
    {:else}
      <button class="q-button" onclick={() => (tools.recipes = false)}>Close</button>
      <button class="q-button main" disabled={coming === 0 || drawing.drafting !== undefined} onclick={() => void desk.make()}
        >{coming === 1 ? 'Make one sheet' : `Make ${coming} sheets`}</button
      >
    {/if}
  </footer>
</DeskDialog>

<style>
  .keep {
    display: grid;
    gap: 0.35rem;
    padding-top: 0.7rem;
    border-top: 1px solid var(--line);
  }
  .preview {
    min-height: 260px;
    max-height: 52vh;
    overflow: auto;
    padding: 0.7rem 0.9rem;
    border: 1px solid var(--line);
    border-radius: 10px;
  }
  .preview ol {
    margin: 0.6rem 0;
    padding-left: 1.6rem;
    list-style: decimal;
  }
  .preview ol li {
    padding: 0.18rem 0;
  }
  .preview ol li b {
    font-weight: 500;
  }
  .preview ol li span {
    display: block;
  }
  .stands {
    color: var(--mute);
  }
  .left {
    padding-left: 1.2rem;
    list-style: disc;
    font-size: 0.9rem;
  }
</style>
