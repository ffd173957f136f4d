<script lang="ts">
  import { Slider } from 'bits-ui';

  interface Props {
    /** From the least to the greatest, one for each thumb. */
    values: readonly number[];
    /** What each thumb is called. */
    labels: readonly string[];
    least: number;
    most: number;
    step?: number;
    /** It is as it was found: nothing of it strikes. */
    quiet?: boolean;
    /** While a thumb is moved, and once it is let go. */
    onmove: (values: number[]) => void;
    ondone: (values: number[]) => void;
  }
  let { values, labels, least, most, step = 1, quiet = false, onmove, ondone }: Props = $props();
  const within = $derived(values.map((each) => Math.min(most, Math.max(least, each))));
  let latest: number[] = [];

  function move(next: number[]) {
    latest = next;
    onmove(next);
  }
  /** By keys it is told that a value is there to stay before the value has come. */
  const committed = () => queueMicrotask(() => ondone(latest));
</script>

<Slider.Root
  type="multiple"
  bind:value={() => within, move}
  min={least}
  max={most}
  {step}
  onValueCommit={committed}
  class="relative flex h-11 w-full touch-none items-center"
>
  <span class="bg-well h-1.5 w-full overflow-hidden rounded-full">
    <Slider.Range class="absolute h-1.5 rounded-full {quiet ? 'bg-ink-soft/60' : 'bg-coral'}" />
  </span>
  {#each labels as label, i (label)}
    <Slider.Thumb
      index={i}
      aria-label={label}
      class="bg-sheet block size-6 rounded-full border-[3px] focus-visible:outline-3 {quiet
        ? 'border-ink-soft'
        : 'border-coral'}"
    />
  {/each}
</Slider.Root>
