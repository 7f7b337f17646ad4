<script lang="ts">
  import { onMount } from 'svelte';
  import Bar from '../kit/Bar.svelte';
  import { call } from '../shared/api';
  import { ISO_NAMES, INCH_NAMES } from './sheet-names';
  import { FileUp } from '@lucide/svelte';
  import UnitQuestion, { type Question } from './UnitQuestion.svelte';

  const { limitMb, oncreated }: { limitMb: number; oncreated: (id: string) => void } = $props();

  let over = $state(false);
  let sending = $state(-1);
  let trouble = $state('');
  let standard = $state<'iso' | 'asme'>('iso');
  let sheet = $state('');
  let recipe = $state('');
  let recipes = $state.raw<readonly string[]>([]);
  let format = $state('');
  let formats = $state.raw<readonly string[]>([]);
  onMount(async () => {
    // Without the list the usual first drawing is made.
    recipes = await call<{ name: string }[]>('/api/recipes').then(
      (list) => list.slice(1).map((r) => r.name),
      () => [],
    );
    // One's own come first; the standard's own needs no choice.
    formats = await call<{ name: string; shipped: boolean }[]>('/api/formats').then(
      (list) => [...list.filter((f) => !f.shipped), ...list.filter((f) => f.shipped && !/title block|title page/.test(f.name))].map((f) => f.name),
      () => [],
    );
  });
  let input: HTMLInputElement;
  let request: XMLHttpRequest | undefined;
  /** Files that wait for an answer. */
  let asked = $state.raw<{ files: readonly File[]; question: Question } | undefined>(undefined);

  /** XMLHttpRequest rather than fetch: it tells how far the upload is. */
  function send(list: FileList | readonly File[] | null | undefined, choice?: { unitMm: number; up: 'y' | 'z' }) {
    if (!list || list.length === 0) return;
    const files = [...list];
    trouble = '';
    asked = undefined;
    const form = new FormData();
    let bytes = 0;
    for (const f of files) {
      form.append('file', f, f.name);
      bytes += f.size;
    }
    if (bytes > limitMb * 1e6) {
      trouble = `${files[0]!.name} has ${Math.round(bytes / 1e6)} MB; the limit is ${limitMb} MB. Leave out what the drawing does not need.`;
      return;
    }
    form.append('standard', standard);
    if (sheet) form.append('sheet', sheet);
    if (recipe) form.append('recipe', recipe);
    if (format) form.append('format', format);
    if (choice) {
      form.append('unitMm', String(choice.unitMm));
      form.append('up', choice.up);
    }
    const r = new XMLHttpRequest();
    request = r;
    r.upload.onprogress = (e) => (sending = e.lengthComputable ? e.loaded / e.total : 0);
    r.onload = () => {
      sending = -1;
      const answer = JSON.parse(r.responseText || '{}') as { id?: string; question?: Question; error?: { message: string } };
      if (r.status === 201 && answer.id) oncreated(answer.id);
      else if (r.status === 200 && answer.question) asked = { files, question: answer.question };
      else trouble = answer.error?.message ?? 'The server did not take the file. Try it again.';
    };
    r.onerror = () => {
      sending = -1;
      trouble = 'The server does not answer. Try it again.';
    };
    r.onabort = () => (sending = -1);
    sending = 0;
    r.open('POST', '/api/jobs');
    r.send(form);
    input.value = '';
  }
  function drop(e: DragEvent) {
    e.preventDefault();
    over = false;
    send(e.dataTransfer?.files);
  }
</script>

<section
  class="drop"
  class:over
  ondragover={(e) => (e.preventDefault(), (over = true))}
  ondragleave={() => (over = false)}
  ondrop={drop}
  aria-label="Bring in an assembly"
>
  <FileUp size={30} />
  <div class="text">
    {#if sending >= 0}
      <p><b>Sending … {Math.round(sending * 100)} %</b></p>
      <Bar label="Upload" share={sending} />
    {:else}
      <p><b>Drop an assembly here</b></p>
      <p class="q-caption">STEP, glTF, 3MF, STL or OBJ. Several files, or a zip of them, are one assembly. Up to {limitMb} MB.</p>
    {/if}
    {#if trouble}<p class="trouble" role="alert">{trouble}</p>{/if}
  </div>
  <label class="q-caption"
    >Standard
    <select class="q-field" bind:value={standard} onchange={() => (sheet = '')}>
      <option value="iso">ISO, first angle</option>
      <option value="asme">ASME, third angle</option>
    </select>
  </label>
  <label class="q-caption"
    >Sheet
    <select class="q-field" bind:value={sheet}>
      <option value="">Automatic</option>
      {#each standard === 'iso' ? ISO_NAMES : INCH_NAMES as n (n)}<option>{n}</option>{/each}
    </select>
  </label>
  <label class="q-caption"
    >Format
    <select class="q-field" bind:value={format}>
      <option value="">The standard’s</option>
      {#each formats as f (f)}<option>{f}</option>{/each}
    </select>
  </label>
  <label class="q-caption"
    >Recipe
    <select class="q-field" bind:value={recipe}>
      <option value="">Arrangement</option>
      {#each recipes as r (r)}<option>{r}</option>{/each}
    </select>
  </label>
  {#if sending >= 0}
    <button class="q-button" onclick={() => request?.abort()}>Cancel</button>
  {:else}
    <button class="q-button main" onclick={() => input.click()}>Choose files</button>
  {/if}
  <input
    bind:this={input}
    type="file"
    multiple
    accept=".stp,.step,.p21,.glb,.gltf,.bin,.3mf,.stl,.obj,.mtl,.zip"
    class="sr-only"
    aria-label="Assembly files"
    tabindex="-1"
    onchange={(e) => send(e.currentTarget.files)}
  />
</section>
{#if asked}
  {@const { files, question } = asked}
  <UnitQuestion {question} onanswer={(unitMm, up) => send(files, { unitMm, up })} oncancel={() => (asked = undefined)} />
{/if}

<style>
  .drop {
    display: flex;
    align-items: center;
    gap: 1rem;
    padding: 1.1rem 1.3rem;
    border: 2px dashed var(--line);
    border-radius: 12px;
    background: var(--panel);
  }
  .drop.over {
    border-color: var(--teal);
    background: var(--teal-soft);
  }
  .text {
    flex: 1;
  }
  .trouble {
    margin-top: 0.3rem;
    color: var(--trouble);
  }
  label {
    display: grid;
    min-width: 90px;
  }
</style>
