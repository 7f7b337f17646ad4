<script lang="ts">
  import Fold from '$lib/kit/Fold.svelte';
  import Bar from '$lib/kit/Bar.svelte';
  import { isMade, type Drawing } from '$lib/shared/drawing.svelte';
  import { OUTPUTS, type IssueDesk } from './issue-desk.svelte';

  const { drawing, desk }: { drawing: Drawing; desk: IssueDesk } = $props();
  const id = $props.id();
  const counts = $derived(drawing.proof.counts);
  const making = $derived(isMade(drawing.issuing) ? drawing.issuing : undefined);
  let waited = false;
  $effect(() => {
    const now = drawing.issuing;
    if (isMade(now)) waited = true;
    else if (waited && now) {
      waited = false;
      if (now.state === 'done') void desk.made(now.kind);
    }
  });
  const stopped = $derived(!desk.loaded || counts.must > 0 || !desk.outputs.length || !desk.revision.trim() || drawing.drafting !== undefined);
  const toggle = (what: string, on: boolean) => (desk.outputs = on ? [...desk.outputs, what] : desk.outputs.filter((o) => o !== what));
</script>

<h2>Issue revision {desk.revision || '…'}</h2>
<p class="quiet">The letter follows the last one; any letter or number will do.</p>
<div class="two">
  <label for="{id}-revision">Revision</label><input id="{id}-revision" class="q-field" bind:value={desk.revision} maxlength="12" />
  <label for="{id}-date">Date</label><input id="{id}-date" class="q-field" type="date" bind:value={desk.date} />
  <label for="{id}-drawn">Drawn</label><input id="{id}-drawn" class="q-field" bind:value={desk.drawn} />
  <label for="{id}-checked">Checked</label><input id="{id}-checked" class="q-field" bind:value={desk.checked} />
  <label for="{id}-approved">Approved</label><input id="{id}-approved" class="q-field" bind:value={desk.approved} />
</div>
<label class="q-caption" for="{id}-words">What changed: proposed from the comparison, a line each</label>
<textarea id="{id}-words" class="q-field" rows="5" bind:value={desk.words}></textarea>
<p><button class="q-button" disabled={!desk.issues.length || !desk.difference} onclick={() => desk.putClouds()}>Clouds around what changed</button></p>
<p class="quiet">
  {OUTPUTS.filter(([o]) => desk.outputs.includes(o))
    .map(([, n]) => n)
    .join('; ')}
</p>
<Fold title="What is in the package" folded>
  {#each OUTPUTS as [what, name] (what)}
    <label class="check"><input type="checkbox" checked={desk.outputs.includes(what)} onchange={(e) => toggle(what, e.currentTarget.checked)} /> {name}</label>
  {/each}
  <label class="check"><input type="checkbox" bind:checked={desk.grey} /> in grey</label>
  <label class="check"><input type="checkbox" bind:checked={desk.layers} /> PDF with layers that a reader can switch</label>
  {#if desk.outputs.includes('png')}
    <label class="q-caption" for="{id}-dpi">Pixels per inch of pictures</label>
    <input id="{id}-dpi" class="q-field" type="number" min="36" max="1200" bind:value={desk.dpi} />
  {/if}
</Fold>
<label class="q-caption" for="{id}-names">File names</label>
<input id="{id}-names" class="q-field" bind:value={desk.names} />
<div class="before" class:bad={counts.must > 0}>
  {#if drawing.drafting}
    <b>Sheets are still being drawn</b> ({drawing.drafting.stage}); it can go out when they stand.
  {:else if counts.must}
    <b>{counts.must} “must” are open</b>: put them right, or accept them with a reason. <a href="/jobs/{drawing.id}/proof">See them</a>
  {:else if counts.should}
    <b>{counts.should} “should” are open</b>, nothing stops it. <a href="/jobs/{drawing.id}/proof">See them</a>
  {:else}<b>Nothing is open.</b>{/if}
</div>
{#if making}
  <p>Being made: {Math.round(100 * making.progress)} %. It goes on when you leave this page.</p>
  <Bar share={making.progress} label="The issue" />
  <button class="q-button" onclick={() => drawing.stopIssuing()}>Stop it</button>
{:else}
  <button class="q-button main" disabled={stopped} onclick={() => desk.issue('issued')}>Issue {desk.revision} and make the package</button>
  <button class="q-button" disabled={stopped} onclick={() => desk.issue('review')}>For review only</button>
{/if}

<style>
  h2 {
    font-size: 1.05rem;
    font-weight: 600;
  }
  .quiet {
    line-height: 1.35;
    color: var(--mute);
    font-size: 0.85rem;
  }
  .two {
    display: grid;
    grid-template-columns: 5rem 1fr;
    gap: 4px 8px;
    align-items: center;
    margin: 0.4rem 0;
  }
  .check {
    display: flex;
    gap: 0.5rem;
    align-items: center;
    min-height: 26px;
  }
  .before {
    margin: 0.7rem 0;
    padding: 0.5rem 0.7rem;
    border-radius: 8px;
    background: color-mix(in srgb, #b4690e 18%, transparent);
  }
  .before.bad {
    background: color-mix(in srgb, #a3271f 18%, transparent);
  }
  .before a {
    text-decoration: underline;
  }
  .q-button {
    width: 100%;
    margin: 0.2rem 0;
    min-height: 34px;
  }
</style>
