<script lang="ts">
  interface Props {
    label: string;
    /** Value and name of each. */
    options: readonly (readonly [string, string])[];
    value: string;
    onchange: (value: string) => void;
  }
  const { label, options, value, onchange }: Props = $props();
</script>

<p class="q-caption">{label}</p>
<p class="chips" role="group" aria-label={label}>
  {#each options as [v, name] (v)}
    <button class="q-chip" class:on={v === value} aria-pressed={v === value} onclick={() => onchange(v)}>{name}</button>
  {/each}
</p>

<style>
  .chips {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    margin: 0.15rem 0 0.6rem;
  }
</style>
