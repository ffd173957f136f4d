<script lang="ts">
  import Track from './Track.svelte';

  interface Props {
    value: [low: number, high: number];
    /** What each end is called. */
    labels: readonly [string, string];
    least: number;
    most: number;
    step?: number;
    quiet?: boolean;
    /** While an end is dragged, and once it is let go. */
    onmove: (value: [number, number]) => void;
    ondone: (value: [number, number]) => void;
  }
  let { value, labels, least, most, step = 1, quiet = false, onmove, ondone }: Props = $props();
</script>

<Track
  values={value}
  {labels}
  {least}
  {most}
  {step}
  {quiet}
  onmove={([low, high]) => onmove([low, high])}
  ondone={([low, high]) => ondone([low, high])}
/>
