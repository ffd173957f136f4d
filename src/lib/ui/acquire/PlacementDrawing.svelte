<script lang="ts">
  import type { Slot } from '$core/tray/tray';

  /** Where the sensor lies and where the beam comes from, seen from above: the lower arch, front at the top. */
  let { slot }: { slot: Slot } = $props();
  const right = $derived(slot.side === 'right');
  const back = $derived(slot.teeth.some((tooth) => tooth % 10 >= 6));
  const along = $derived(back ? 0.78 : 0.5);
  const sign = $derived(right ? -1 : 1);
  const cx = $derived(150 + sign * (34 + 42 * along));
  const cy = $derived(24 + 118 * along);
  const tilt = $derived(sign * (back ? 8 : 22));
</script>

<svg
  viewBox="0 -18 300 184"
  class="h-full w-full"
  role="img"
  aria-label="{slot.name}: sensor inside the teeth on the patient’s {slot.side}, beam from the {slot.side} cheek"
>
  <path
    d="M62 160C58 78 98 16 150 16S242 78 238 160"
    fill="none"
    class="stroke-ink-soft"
    stroke-width="24"
    stroke-linecap="round"
    opacity="0.28"
  />
  <path
    d="M62 160C58 78 98 16 150 16S242 78 238 160"
    fill="none"
    class="stroke-sheet"
    stroke-width="24"
    stroke-dasharray="1 17"
  />
  <g transform="translate({cx - sign * 30} {cy + 6}) rotate({-tilt})">
    <rect x="-6" y="-36" width="12" height="66" rx="5" class="fill-ink" />
    <path d="M0 -36V-58" class="stroke-ink" stroke-width="3" stroke-linecap="round" />
  </g>
  <g
    transform="translate({cx + sign * 24} {cy + 6}) rotate({-tilt})"
    class="stroke-coral"
    stroke-width="3"
    fill="none"
    stroke-linecap="round"
  >
    {#each [-18, 0, 18] as y (y)}
      <path d="M{sign * 42} {y}H{sign * 6}m{sign * 8} -6l{-sign * 8} 6l{sign * 8} 6" />
    {/each}
  </g>
  <text x="20" y="24" class="fill-ink-soft text-small">right</text>
  <text x="280" y="24" text-anchor="end" class="fill-ink-soft text-small">left</text>
  <text x="150" y="-5" text-anchor="middle" class="fill-ink-soft text-small">front</text>
</svg>
