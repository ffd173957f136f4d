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
</script>

<Slider.Root
  type="single"
  bind:value
  min={least}
  max={most}
  {step}
  onValueCommit={onchange}
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
