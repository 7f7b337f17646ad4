<script lang="ts">
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { openSheetAt } from '$lib/shared/go';
  import { LoaderCircle } from '@lucide/svelte';
  import type { IssueDesk } from './issue-desk.svelte';

  const { drawing, desk }: { drawing: Drawing; desk: IssueDesk } = $props();
  const moments = $derived([
    ...desk.issues.map((i) => [i.id, `${i.revision}, ${i.date}${i.kind === 'review' ? ', for review' : ''}`] as const),
    ...desk.history.map((h) => [`v${h.version}`, `${h.createdAt.slice(5, 16).replace('T', ' ')}  ${h.kind === 'edit' ? '' : `${h.kind} `}${h.label}`] as const),
    ...(desk.began ? [[desk.began, 'as it began'] as const] : []),
  ]);
  const sheet = $derived(desk.difference?.sheets[desk.sheet]);
  const picture = $derived(sheet ? URL.createObjectURL(new Blob([sheet.svg], { type: 'image/svg+xml' })) : undefined);
  $effect(() => {
    const url = picture;
    return () => url && URL.revokeObjectURL(url);
  });
  const said = { added: 'added', removed: 'removed', moved: 'moved', changed: 'changed' } as const;
  const total = $derived((desk.difference?.sheets ?? []).reduce((n, s) => n + s.changes.length, 0));
</script>

<div class="bar">
  <label
    >From <select class="q-field" aria-label="Compare from" bind:value={desk.from} onchange={() => desk.compare()}
      >{#each moments as [id, name] (id)}<option value={id}>{name}</option>{/each}</select
    ></label
  >
  <label
    >to <select class="q-field" aria-label="Compare to" bind:value={desk.to} onchange={() => desk.compare()}
      ><option value="now">as it stands</option>{#each moments as [id, name] (id)}<option value={id}>{name}</option>{/each}</select
    ></label
  >
  <span class="legend"><i class="gone"></i> only before <i class="come"></i> only now <i class="same"></i> both</span>
</div>
{#if desk.comparing}<p class="wait"><LoaderCircle class="spin" size={18} /> Being compared …</p>{/if}
{#if sheet}
  <div class="sheets" role="group" aria-label="Sheets">
    {#each desk.difference?.sheets ?? [] as s, i (s.id)}
      <button class="q-chip" class:on={i === desk.sheet} aria-pressed={i === desk.sheet} onclick={() => (desk.sheet = i)}
        >{i + 1} {s.name} {s.kind === 'same' ? '' : s.kind === 'changed' ? `· ${s.changes.length}` : `· ${s.kind}`}</button
      >
    {/each}
  </div>
  <div class="picture"><img src={picture} alt="{sheet.name}: what was, and what is" data-testid="two-inks" /></div>
  <div class="lists">
    <section aria-label="Changes of this sheet">
      <h3>{sheet.name}: {sheet.changes.length ? `${sheet.changes.length} ${sheet.changes.length === 1 ? 'change' : 'changes'}` : 'nothing changed'}</h3>
      <ul>
        {#each sheet.changes as c (c.id)}
          <li>
            {#if drawing.document[c.id]}<button class="link" onclick={() => openSheetAt(drawing, sheet.id, { kind: 'record', id: c.id })}>{c.label}</button
              >{:else}{c.label}{/if}
            <small>{said[c.kind]}</small>
          </li>
        {/each}
      </ul>
    </section>
    <section aria-label="Changes of the parts list">
      <h3>Parts list: {desk.difference?.rows.length ? `${desk.difference.rows.length} rows` : 'nothing changed'}</h3>
      <ul>
        {#each desk.difference?.rows ?? [] as r, i (i)}<li>
            {r.row.filter(Boolean).join(' · ')} <small>{r.kind}{r.before ? `, was ${r.before.filter(Boolean).join(' · ')}` : ''}</small>
          </li>{/each}
      </ul>
    </section>
  </div>
{:else if desk.loaded && !desk.comparing}
  <p class="wait">Choose two moments to compare.</p>
{/if}
<p class="sr" aria-live="polite">{total} changes</p>

<style>
  .bar {
    display: flex;
    flex-wrap: wrap;
    gap: 0.8rem;
    align-items: center;
    padding: 0.6rem 1rem;
  }
  .bar select {
    width: auto;
    max-width: 260px;
    display: inline-block;
  }
  .legend i {
    display: inline-block;
    width: 18px;
    border-top: 3px solid;
    vertical-align: middle;
    margin-left: 0.6rem;
  }
  .gone {
    border-color: #b3261e !important;
    border-top-style: dashed !important;
  }
  .come {
    border-color: #0b6e4f !important;
  }
  .same {
    border-color: #a8a39a !important;
  }
  .sheets {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    padding: 0 1rem;
  }
  .picture {
    flex: 1;
    min-height: 220px;
    padding: 0.6rem 1rem;
    display: grid;
    place-items: center;
  }
  .picture img {
    max-width: 100%;
    max-height: 100%;
    min-height: 0;
    background: #fffefb;
    box-shadow: 0 2px 10px rgb(0 0 0 / 0.18);
  }
  .lists {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 1rem;
    max-height: 190px;
    overflow: auto;
    padding: 0 1rem 0.8rem;
    font-size: 0.9rem;
  }
  h3 {
    font-weight: 600;
  }
  .link {
    text-decoration: underline;
    cursor: pointer;
    text-align: left;
  }
  small {
    color: var(--mute);
  }
  .wait {
    padding: 1rem;
    display: flex;
    gap: 0.5rem;
    align-items: center;
  }
  .sr {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
</style>
