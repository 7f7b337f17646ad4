<script lang="ts">
  import { ownSizeName, paperByName, PAPER_SIZES } from '$core/sheet/paper';
  import { notify } from '$lib/shared/notices.svelte';
  import TextField from '$lib/shared/TextField.svelte';

  interface Props {
    size: string;
    landscape: boolean;
    onchange: (size: string, landscape: boolean) => void;
  }
  const { size, landscape, onchange }: Props = $props();
  const id = $props.id();
  const paper = $derived(paperByName(size)!);
  const own = $derived(!PAPER_SIZES.some((p) => p.name === size));
  let typing = $state(false);
  const inch = (mm: number) => String(Math.round((mm / 25.4) * 100) / 100);
  const sizeText = (name: string) => {
    const f = paperByName(name)!;
    return f.standard === 'iso' ? `${name}  ${f.long} × ${f.short}` : `${name}  ${inch(f.long)} × ${inch(f.short)} in`;
  };

  function choose(name: string) {
    typing = name === '';
    if (name) onchange(name, landscape);
  }
  function side(which: 'long' | 'short', typed: string) {
    const mm = Number(typed.replace(',', '.'));
    const name = ownSizeName(which === 'long' ? mm : paper.long, which === 'short' ? mm : paper.short);
    if (name) onchange(name, landscape);
    else notify('trouble', 'A sheet has sides of 100 to 5000 mm.');
  }
</script>

<p class="q-caption"><label for="{id}-size">Size</label></p>
<select id="{id}-size" class="q-field" value={own || typing ? '' : size} onchange={(e) => choose(e.currentTarget.value)}>
  {#each PAPER_SIZES as f (f.name)}<option value={f.name}>{sizeText(f.name)}</option>{/each}
  <option value="">a size of your own</option>
</select>
{#if own || typing}
  <div class="pair">
    <TextField label="Longer side, mm" value={String(paper.long)} onchange={(v) => side('long', v)} />
    <TextField label="Shorter side, mm" value={String(paper.short)} onchange={(v) => side('short', v)} />
  </div>
{/if}
<p class="q-row"><button class="q-button" onclick={() => onchange(size, !landscape)}>{landscape ? 'Turn upright' : 'Turn level'}</button></p>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0 0.5rem;
    margin-top: 0.4rem;
  }
</style>
