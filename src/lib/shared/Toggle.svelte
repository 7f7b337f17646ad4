<script lang="ts">
  import { Switch } from '@skeletonlabs/skeleton-svelte';

  const { label, checked, onchange }: { label: string; checked: boolean; onchange: (on: boolean) => void } = $props();
</script>

<Switch {checked} onCheckedChange={(d) => onchange(d.checked)} class="relative flex w-full items-center justify-between py-1">
  <Switch.Label>{label}</Switch.Label>
  <Switch.Control><Switch.Thumb /></Switch.Control>
  <Switch.HiddenInput aria-label={label} />
</Switch>
