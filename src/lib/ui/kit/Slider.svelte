<script lang="ts">
  import Track from './Track.svelte';

  interface Props {
    value: number;
    label: string;
    least: number;
    most: number;
    step?: number;
    onchange?: (value: number) => void;
  }
  let { value = $bindable(), label, least, most, step = 1, onchange }: Props = $props();
</script>

<Track
  values={[value]}
  labels={[label]}
  {least}
  {most}
  {step}
  onmove={([next]) => (value = next)}
  ondone={([next]) => onchange?.(next)}
/>
