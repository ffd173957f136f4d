<script lang="ts">
  import type { SlotShape } from '$core/tray/slot';
  import { wellShapes } from '$core/tray/layout';

  /** A tray drawn small: where its wells lie and how they stand. */
  let { wells }: { wells: readonly { x: number; y: number; shape: SlotShape }[] } = $props();
  const unit = $derived(wells.length > 12 ? 8.5 : wells.length > 5 ? 11 : 17);
  const along = (share: number, full: number, size: number) =>
    Math.max(3, Math.min(full - 3 - size, share * full - size / 2));
</script>

<svg viewBox="0 0 120 44" class="h-11 w-30 shrink-0" aria-hidden="true">
  <rect width="120" height="44" rx="10" class="fill-tray" />
  {#each wells as { x, y, shape }, i (i)}
    {@const width = wellShapes[shape].width * unit}
    {@const height = wellShapes[shape].height * unit}
    <rect
      x={along(x, 120, width)}
      y={along(y, 44, height)}
      {width}
      {height}
      rx="1.5"
      class="fill-sheet stroke-ink-soft"
      stroke-width="1"
    />
  {/each}
</svg>
