<script lang="ts" generics="T extends string">
  import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';

  interface Props {
    label: string;
    /** One of few, side by side; none is chosen when the value is among none of them. */
    options: readonly (readonly [value: T, text: string])[];
    value: T | '';
    onchange: (value: T) => void;
  }
  const { label, options, value, onchange }: Props = $props();
</script>

<SegmentedControl orientation="horizontal" value={value || null} onValueChange={(d) => d.value && onchange(d.value as T)} class="mb-2 gap-0.5">
  <SegmentedControl.Label class="q-caption">{label}</SegmentedControl.Label>
  <SegmentedControl.Control class="q-choice">
    <SegmentedControl.Indicator />
    {#each options as [v, text] (v)}
      <SegmentedControl.Item value={v} class="flex-1 min-h-7 px-1">
        <SegmentedControl.ItemText>{text}</SegmentedControl.ItemText>
        <SegmentedControl.ItemHiddenInput />
      </SegmentedControl.Item>
    {/each}
  </SegmentedControl.Control>
</SegmentedControl>
