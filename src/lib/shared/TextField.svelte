<script lang="ts">
  interface Props {
    label: string;
    value: string;
    /** Where the value comes from. */
    origin?: string;
    wanted?: boolean;
    options?: readonly string[];
    focus?: boolean;
    onchange: (value: string) => void;
    /** Puts the value back to what it was before typing. */
    onreset?: (() => void) | undefined;
  }
  const { label, value, origin, wanted = false, options, focus = false, onchange, onreset }: Props = $props();
  const id = $props.id();

  let input = $state<HTMLInputElement>();
  $effect(() => {
    if (focus) input?.focus();
  });
  function key(e: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    if (e.key === 'Enter') e.currentTarget.blur();
    if (e.key === 'Escape') {
      e.currentTarget.value = value;
      e.stopPropagation();
      e.currentTarget.blur();
    }
  }
</script>

<div class="field">
  <label class="q-caption" for={id}
    >{label}{#if wanted}<span class="wanted"> · wanted</span>{/if}</label
  >
  {#if options}
    <select {id} class="q-field" {value} onchange={(e) => onchange(e.currentTarget.value)}>
      {#if !options.includes(value)}<option {value}>{value || '–'}</option>{/if}
      {#each options as o (o)}<option value={o}>{o}</option>{/each}
    </select>
  {:else}
    <input
      {id}
      bind:this={input}
      class="q-field"
      class:gap={wanted}
      {value}
      onkeydown={key}
      onchange={(e) => e.currentTarget.value !== value && onchange(e.currentTarget.value)}
    />
  {/if}
  {#if origin}
    <p class="origin">
      {origin}{#if onreset}<button type="button" onclick={onreset}>Put back</button>{/if}
    </p>
  {/if}
</div>

<style>
  .field {
    margin-bottom: 0.55rem;
  }
  .wanted {
    color: var(--trouble);
  }
  .gap {
    border-color: var(--trouble);
    border-style: dashed;
  }
  .origin {
    font-size: 0.78rem;
    color: var(--mute);
    line-height: 1.25;
    margin-top: 1px;
  }
  .origin button {
    margin-left: 0.4rem;
    color: var(--teal);
    text-decoration: underline;
    cursor: pointer;
    min-height: 24px;
  }
</style>
