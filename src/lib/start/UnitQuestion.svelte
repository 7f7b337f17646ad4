<script module lang="ts">
  export interface Question {
    readonly files: readonly string[];
    readonly size: { readonly z: readonly number[]; readonly y: readonly number[] };
    readonly guess: { readonly unitMm: number; readonly up: 'y' | 'z' };
  }
</script>

<script lang="ts">
  import { sizeText, unitChoices } from '$core/assembly/units';

  const { question, onanswer, oncancel }: { question: Question; onanswer: (unitMm: number, up: 'y' | 'z') => void; oncancel: () => void } = $props();

  const UNITS = unitChoices([1, 1, 1]).sort((a, b) => a.unitMm - b.unitMm);
  // svelte-ignore state_referenced_locally
  let unitMm = $state(question.guess.unitMm);
  // svelte-ignore state_referenced_locally
  let up = $state(question.guess.up);
</script>

<form
  class="question"
  aria-label="Unit of the file"
  onsubmit={(e) => {
    e.preventDefault();
    onanswer(unitMm, up);
  }}
>
  <p>
    <b>{question.files.length === 1 ? question.files[0] : `${question.files.length} files`}</b>
    {question.files.length === 1 ? 'does' : 'do'} not say in which unit. How large is it, wide × deep × high?
  </p>
  <div class="choices" role="radiogroup" aria-label="Unit">
    {#each UNITS as { plural, unitMm: mm } (plural)}
      <label
        ><input type="radio" name="unit" value={mm} bind:group={unitMm} /> <span>{plural}</span>
        <small>{sizeText(question.size[up].map((v) => v * mm))}</small></label
      >
    {/each}
  </div>
  <div class="choices" role="radiogroup" aria-label="Axis that is up">
    <label><input type="radio" name="up" value="z" bind:group={up} /> Z is up</label>
    <label><input type="radio" name="up" value="y" bind:group={up} /> Y is up</label>
  </div>
  <div class="row">
    <button class="q-button main" type="submit">Bring in</button>
    <button class="q-button" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>

<style>
  .question {
    display: grid;
    gap: 0.6rem;
    margin-top: 0.8rem;
    padding: 1rem 1.3rem;
    border: 1px solid var(--line);
    border-radius: 12px;
    background: var(--panel);
  }
  .choices {
    display: flex;
    flex-wrap: wrap;
    gap: 0.4rem 1.2rem;
  }
  label {
    display: flex;
    align-items: baseline;
    gap: 0.35rem;
    min-height: 28px;
    cursor: pointer;
  }
  small {
    color: var(--mute);
  }
  .row {
    display: flex;
    gap: 0.5rem;
  }
</style>
