<script lang="ts">
  import { Slider } from 'bits-ui';

  interface Props {
    value: number;
    label: string;
    least: number;
    most: number;
    step?: number;
    onchange?: (value: number) => void;
  }
  let { value = $bindable(), label, least, most, step = 1, onchange }: Props = $props();
  let latest = 0;

  function set(next: number) {
    latest = next;
    value = next;
  }
  /** By keys it is told before the value has come; then it is told too that the value is there to stay. */
  const committed = () => queueMicrotask(() => onchange?.(latest));
</script>

<Slider.Root
  type="single"
  bind:value={() => value, set}
  min={least}
  max={most}
  {step}
  onValueCommit={committed}
  class="relative flex h-11 w-full touch-none items-center"
>
  <span class="bg-well h-1.5 w-full overflow-hidden rounded-full">
    <Slider.Range class="bg-coral absolute h-1.5 rounded-full" />
  </span>
  <Slider.Thumb
    index={0}
    aria-label={label}
    class="border-coral bg-sheet block size-6 rounded-full border-[3px] focus-visible:outline-3"
  />
</Slider.Root>
