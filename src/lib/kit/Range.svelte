<script lang="ts">
  import { Slider } from '@skeletonlabs/skeleton-svelte';

  interface Props {
    label: string;
    value: number;
    min?: number;
    max: number;
    step: number;
    disabled?: boolean;
    onchange: (value: number) => void;
  }
  const { label, value, min = 0, max, step, disabled = false, onchange }: Props = $props();
</script>

<Slider
  value={[value]}
  {min}
  max={Math.max(max, min + step)}
  {step}
  {disabled}
  aria-label={[label]}
  onValueChange={(d) => d.value[0] !== undefined && d.value[0] !== value && onchange(d.value[0])}
  class="flex-1 min-w-20"
>
  <Slider.Control>
    <Slider.Track class="h-1.5 bg-surface-300 dark:bg-surface-700"><Slider.Range class="bg-secondary-500" /></Slider.Track>
    <Slider.Thumb index={0} class="size-4 bg-secondary-500 ring-2 ring-surface-50"><Slider.HiddenInput /></Slider.Thumb>
  </Slider.Control>
</Slider>
