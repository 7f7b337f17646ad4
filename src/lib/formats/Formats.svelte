<script lang="ts">
  import { untrack } from 'svelte';
  import { changeFormat } from '$elements/sheet/face/format-actions';
  import DeskDialog from '../kit/DeskDialog.svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import Toggle from '../shared/Toggle.svelte';
  import GroupPicture from '../sheets/GroupPicture.svelte';
  import { FormatDesk } from './format-desk.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: { formats: boolean } } = $props();
  const desk = untrack(() => new FormatDesk(drawing));
  $effect(() => {
    if (tools.formats) untrack(() => void desk.load());
  });
  const all = $derived(desk.sheets.size === drawing.sheets.length);
  let file = $state<HTMLInputElement>();

  function change() {
    const { open } = desk;
    tools.formats = false;
    if (open?.here) {
      drawing.select({ kind: 'none' });
      drawing.sheetId = open.here.id;
      return;
    }
    const [first] = desk.sheets;
    if (!first || !desk.apply()) return;
    changeFormat(drawing, first, false);
  }
</script>

<DeskDialog bind:open={tools.formats} title="Sheet formats" words="Frame, marks, title block, logo and fixed texts: what sheets lie on.">
  <div class="both">
    <div class="list">
      <ul aria-label="Sheet formats">
        {#each desk.listed as f (f.name)}
          <li>
            <button class:chosen={f.name === desk.chosen} aria-pressed={f.name === desk.chosen} onclick={() => void desk.choose(f.name)}>
              <b>{f.name}</b>
              <span class="q-caption">{f.shipped ? 'shipped' : f.version === 0 ? 'here' : f.version > 1 ? `yours, version ${f.version}` : 'yours'}</span>
            </button>
          </li>
        {/each}
      </ul>
      <div class="files">
        <button class="q-button" onclick={() => file?.click()}>Read in …</button>
        <button class="q-button" disabled={!desk.body} onclick={() => desk.giveOut()}>Give out</button>
        {#if desk.open && !desk.open.shipped && desk.open.version > 0}<button class="q-button" onclick={() => void desk.remove()}>Remove</button>{/if}
        <input
          bind:this={file}
          type="file"
          accept=".json"
          class="sr-only"
          tabindex="-1"
          aria-label="Sheet format file"
          onchange={(e) => (void desk.readIn(e.currentTarget.files?.[0]), (e.currentTarget.value = ''))}
        />
      </div>
    </div>
    <section class="shown" aria-label="The format">
      {#if desk.picture}
        <svg viewBox="0 0 {desk.picture.width} {desk.picture.height}" role="img" aria-label="A sheet on “{desk.chosen}”">
          <rect width={desk.picture.width} height={desk.picture.height} fill="#fffefb" />
          {#each desk.picture.groups as g (g.id)}<GroupPicture group={g} highlight={undefined} highlightItem={undefined} images={() => undefined} />{/each}
        </svg>
      {/if}
      <p class="words">
        {desk.open?.words ?? ''}{desk.body ? ` Made on ${desk.body.size.replace('x', ' × ')}, ${desk.body.landscape ? 'level' : 'upright'}.` : ''}
      </p>
      {#if desk.newer}
        <p class="news" role="status">
          Version {desk.newer.kept} was kept; the sheets of this drawing lie on version {desk.newer.has}.
          <button class="q-button main" onclick={() => desk.follow()}>Let them follow</button>
          <button class="q-button" onclick={() => desk.stay()}>They stay</button>
        </p>
      {/if}
      {#if desk.unkept}
        <p class="news">
          {desk.open?.version === 0 ? 'Other jobs do not know it yet.' : 'It was changed here since it was kept.'}
          <button class="q-button main" onclick={() => void desk.keep()}>{desk.open?.version ? 'Keep as the next version' : 'Keep it for all jobs'}</button>
        </p>
      {/if}
      <fieldset>
        <legend class="q-caption">Sheets that lie on it</legend>
        <label
          ><input
            type="checkbox"
            checked={all}
            onchange={() => (desk.sheets = all ? new Set([drawing.sheets[0]!.id]) : new Set(drawing.sheets.map((s) => s.id)))}
          /> all</label
        >
        {#each drawing.sheets as s, i (s.id)}
          <label title={s.name}><input type="checkbox" checked={desk.sheets.has(s.id)} onchange={() => desk.toggle(s.id)} /> {i + 1} {s.name}</label>
        {/each}
      </fieldset>
      <Toggle label="The sheets take its size too" checked={desk.sized} onchange={(on) => (desk.sized = on)} />
    </section>
  </div>
  <footer>
    <button class="q-button" onclick={() => (tools.formats = false)}>Close</button>
    <button class="q-button" disabled={!desk.body} onclick={change}>{desk.open?.here ? 'Change it …' : 'Change a copy …'}</button>
    <button class="q-button main" disabled={!desk.body || (desk.sheets.size === 0 && !desk.open?.here)} onclick={() => desk.apply() && (tools.formats = false)}
      >{desk.sheets.size === 1 ? 'Put one sheet on it' : `Put ${desk.sheets.size} sheets on it`}</button
    >
  </footer>
</DeskDialog>

<style>
  .shown {
    display: flex;
    flex-direction: column;
    gap: 0.5rem;
    min-height: 0;
    overflow: auto;
  }
  svg {
    width: 100%;
    max-height: 36vh;
    border: 1px solid var(--line);
    background: var(--desk, #d9d6cc);
  }
  .words {
    font-size: 0.92rem;
  }
  .news {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    align-items: center;
    padding: 0.45rem 0.7rem;
    border-left: 3px solid var(--ochre);
    background: var(--ochre-soft);
    font-size: 0.92rem;
  }
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 0.9rem;
    max-height: 14vh;
    overflow: auto;
  }
  label {
    display: flex;
    gap: 0.35rem;
    align-items: center;
    max-width: 240px;
    min-height: 26px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    font-size: 0.92rem;
  }
</style>
