<script lang="ts">
  import Bar from '$lib/kit/Bar.svelte';
  import { composeSheet } from '$elements/compose';
  import { rectOf } from '$core/base/rect';
  import { scaleText } from '$core/sheet/paper';
  import type { ViewRecord } from '$core/document/records';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { shadingUrl } from '$lib/sheets/images.svelte';
  import { markupOf } from '$lib/sheets/markup';
  import { areaText } from './heat-map';
  import type { Cures } from './cures.svelte';

  const { drawing, cures }: { drawing: Drawing; cures: Cures } = $props();

  /** The detail as it would stand, drawn with the sheet that it would stand on. */
  function drawn(record: ViewRecord) {
    return composeSheet(drawing.scene.withDetail(record), record.sheet).groups.find((g) => g.id === record.id);
  }
</script>

{#if cures.item}
  <div class="panel" data-testid="cures">
    <header>
      <h2>Ways to show {cures.item.number} {cures.item.values.description.text}</h2>
      <button class="q-button" onclick={() => cures.close()}>Close</button>
    </header>
    {#if cures.progress !== undefined}
      <p class="sub">Directions, cuts and spreads are tried …</p>
      <Bar share={cures.progress ?? 0} label="Ways that were tried" />
    {:else if !cures.offers.length}
      <p class="sub">No direction, cut or spread shows it. Take away what is around it: a view may leave components out.</p>
    {/if}
    <ul>
      {#each cures.offers as o, i (i)}
        <li>
          {#if o.picture}
            <img src={o.picture} alt="The item among its neighbours" />
          {:else if o.detail}
            {@const group = drawn(o.detail)}
            {@const box = group && rectOf(group.box)}
            {#if group && box}
              <svg viewBox="{box.x} {box.y} {box.width} {box.height}" role="img" aria-label="The detail">
                <!-- eslint-disable-next-line svelte/no-at-html-tags -- written by ourselves, texts escaped -->
                {@html markupOf(group, (id) => shadingUrl(drawing.results.get(id)))}
              </svg>
            {/if}
          {/if}
          <p><b>{o.name}</b></p>
          <p class="sub">{areaText(o.visibleMm2)} mm² at {scaleText(o.scale)} · {Math.round(o.share * 100)} % of its outline</p>
          <button class="q-button main" onclick={() => cures.take(o)}>Add it</button>
        </li>
      {/each}
    </ul>
  </div>
{/if}

<style>
  .panel {
    padding: 0.7rem 0.9rem;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
  }
  header {
    display: flex;
    gap: 1rem;
    justify-content: space-between;
  }
  h2 {
    font-weight: 600;
    font-size: 1.05rem;
  }
  .sub {
    color: var(--mute);
    font-size: 0.85rem;
  }
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
    gap: 0.7rem;
    margin-top: 0.5rem;
  }
  li {
    display: flex;
    flex-direction: column;
    gap: 0.25rem;
    line-height: 1.3;
    font-size: 0.9rem;
  }
  li p {
    line-height: 1.3;
  }
  li .q-button {
    margin-top: auto;
  }
  img,
  svg {
    width: 100%;
    height: 130px;
    object-fit: contain;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: #fffefb;
  }
  svg {
    fill: none;
    stroke: #000;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  svg :global(text) {
    font-family: osifont;
    fill: #000;
    stroke: none;
  }
</style>
