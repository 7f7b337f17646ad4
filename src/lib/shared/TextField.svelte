<script lang="ts">
  import { Info } from '@lucide/svelte';
  import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';

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
  <div class="head">
    <label class="q-caption" id="{id}-label" for={id}
      >{label}{#if wanted}<span class="wanted">&ensp;wanted</span>{/if}</label
    >
    {#if origin}
      <Popover positioning={{ placement: 'bottom-end' }}>
        <Popover.Trigger class="info" aria-label="Where this comes from" aria-describedby="{id}-label"><Info size={14} /></Popover.Trigger>
        <Portal>
          <Popover.Positioner class="z-50!">
            <Popover.Content class="origin-card">
              <Popover.Description>{origin}</Popover.Description>
              {#if onreset}<button class="q-button" type="button" onclick={onreset}>Put back</button>{/if}
            </Popover.Content>
          </Popover.Positioner>
        </Portal>
      </Popover>
    {/if}
  </div>
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
</div>

<style>
  .field {
    min-width: 0;
    margin-bottom: 0.4rem;
  }
  .wanted {
    color: var(--trouble);
  }
  .gap {
    border-color: var(--trouble);
    border-style: dashed;
  }
  .head {
    display: flex;
    justify-content: space-between;
    align-items: center;
    min-height: 24px;
  }
  .head :global(.info) {
    display: grid;
    place-items: center;
    width: 24px;
    height: 24px;
    border-radius: 50%;
    color: var(--mute);
    cursor: pointer;
  }
  .head :global(.info:hover) {
    color: var(--teal);
  }
  :global(.origin-card) {
    display: grid;
    gap: 0.5rem;
    max-width: 240px;
    padding: 0.5rem 0.7rem;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
    color: var(--ink);
    font-size: 0.88rem;
    box-shadow: 0 6px 20px rgb(0 0 0 / 0.22);
  }
</style>
