<script lang="ts">
  import { Slider } from 'bits-ui';

  interface Props {
    value: [low: number, high: number];
    /** What each end is called. */
    labels: readonly [string, string];
    least: number;
    most: number;
    step?: number;
    /** While an end is dragged, and once it is let go. */
    onmove: (value: [number, number]) => void;
    ondone: (value: [number, number]) => void;
  }
  let { value, labels, least, most, step = 1, onmove, ondone }: Props = $props();
  const clamped = $derived(value.map((each) => Math.min(most, Math.max(least, each))));
  let latest: [number, number] = [0, 0];

  function set([low, high]: number[]) {
    latest = [low, high];
    onmove(latest);
  }
  /** By keys it is told before the value has come. */
  const committed = () => queueMicrotask(() => ondone(latest));
</script>

<Slider.Root
  type="multiple"
  bind:value={() => clamped, set}
  min={least}
  max={most}
  {step}
  onValueCommit={committed}
  class="relative flex h-11 w-full touch-none items-center"
>
  <span class="bg-well h-1.5 w-full overflow-hidden rounded-full">
    <Slider.Range class="bg-coral absolute h-1.5 rounded-full" />
  </span>
  {#each labels as label, i (label)}
    <Slider.Thumb
      index={i}
      aria-label={label}
      class="border-coral bg-sheet block size-6 rounded-full border-[3px] focus-visible:outline-3"
    />
  {/each}
</Slider.Root>
