<script lang="ts">
  import { numberText } from '$core/ledger/items';
  import type { ViewRecord } from '$core/document/records';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { chosenSteps, groupsByAssembly, groupsBySource, isShown, showing, withFaint, withShown } from '../shows';

  const { drawing, view }: { drawing: Drawing; view: ViewRecord } = $props();

  const put = (label: string, record: ViewRecord) => drawing.edit(label, chosenSteps(drawing.scene, view, record));
  const groups = $derived([...groupsBySource(drawing.scene), ...groupsByAssembly(drawing.scene)]);
  const shown = $derived(drawing.components.filter((c) => isShown(view, c.path)).length);
  const stateOf = (paths: readonly string[]) => {
    const n = paths.filter((p) => isShown(view, p)).length;
    return n === 0 ? false : n === paths.length ? true : 'mixed';
  };
  const items = $derived(drawing.items.map((i) => ({ item: i, paths: i.components.map((c) => drawing.components[c]!.path) })));
  const faint = $derived(new Set(view.faint));
  let filter = $state('');
  const listed = $derived(
    items.filter(({ item }) => `${numberText(item)} ${item.values.description.text}`.toLowerCase().includes(filter.trim().toLowerCase())),
  );
</script>

<p>
  {shown === drawing.components.length ? 'All components' : `${shown} of ${drawing.components.length} components`}{view.faint
    ? `, ${view.faint.length} faint`
    : ''}
</p>
{#if view.shows}<p><button class="q-button" onclick={() => put('Show all components', showing(view, 'all'))}>Show all</button></p>{/if}
<p class="q-caption">By source and sub-assembly</p>
<ul>
  {#each groups as g, i (i)}
    <li>
      <label
        ><input
          type="checkbox"
          checked={stateOf(g.paths) === true}
          indeterminate={stateOf(g.paths) === 'mixed'}
          onchange={(e) => put(`${e.currentTarget.checked ? 'Show' : 'Hide'} ${g.title}`, withShown(view, drawing.scene, g.paths, e.currentTarget.checked))}
        />
        {g.title}</label
      >
      <button class="q-link" onclick={() => put(`Only ${g.title}`, showing(view, 'only', g.paths))}>only</button>
    </li>
  {/each}
</ul>
<p class="q-caption"><label for="shows-filter">Items</label></p>
<input id="shows-filter" class="q-field" bind:value={filter} placeholder="part of a name or number" />
<ul class="items">
  {#each listed as { item, paths } (item.part)}
    <li>
      <label
        ><input
          type="checkbox"
          checked={stateOf(paths) === true}
          indeterminate={stateOf(paths) === 'mixed'}
          onchange={(e) =>
            put(`${e.currentTarget.checked ? 'Show' : 'Hide'} item ${numberText(item)}`, withShown(view, drawing.scene, paths, e.currentTarget.checked))}
        />
        {numberText(item)}
        {item.values.description.text}</label
      >
      <button
        class="q-link"
        aria-pressed={paths.every((p) => faint.has(p))}
        onclick={() => {
          const on = !paths.every((p) => faint.has(p));
          put(`Item ${numberText(item)} ${on ? 'faint' : 'in full'}`, withFaint(view, paths, on));
        }}>{paths.every((p) => faint.has(p)) ? 'in full' : 'faint'}</button
      >
    </li>
  {/each}
</ul>

<style>
  ul {
    margin: 0 0 0.5rem;
    padding: 0;
    list-style: none;
  }
  .items {
    max-height: 14rem;
    overflow-y: auto;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    min-height: 26px;
    align-items: center;
  }
  label {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
</style>
