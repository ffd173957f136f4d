<script lang="ts">
  import { isUpperTooth } from '$core/anatomy/teeth';
  import { type Slot, slotSide, slotTeeth } from '$core/tray/slot';

  /** Where the sensor lies and where the beam comes from, seen from above, front at the top. */
  let { slot }: { slot: Slot } = $props();
  const halfWidth = 88;
  const depth = 150;
  const backDeg = 78;
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const teeth = $derived(slotTeeth(slot));
  const side = $derived(slotSide(slot) ?? 'both');
  const place = $derived(side === 'both' ? 0 : mean(teeth.map((tooth) => tooth % 10)));
  const angle = $derived(((place / 8) * backDeg * Math.PI) / 180);
  const sign = $derived(side === 'right' ? -1 : 1);
  const x = $derived(150 + sign * halfWidth * Math.sin(angle));
  const y = $derived(16 + depth * (1 - Math.cos(angle)));
  /** Degrees of the way out of the mouth there; 0 is to the right of the drawing. */
  const outDeg = $derived(
    (Math.atan2(-Math.cos(angle) / depth, (sign * Math.sin(angle)) / halfWidth) * 180) / Math.PI
  );
  const from = $derived(side === 'both' ? 'the front' : `the ${side} cheek`);
</script>

<svg
  viewBox="-70 -34 440 200"
  class="h-full w-full"
  role="img"
  aria-label="{slot.name}: sensor inside the teeth, beam from {from}"
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
  <g transform="translate({x} {y}) rotate({outDeg})">
    <rect x="-36" y="-32" width="12" height="64" rx="5" class="fill-ink" />
    <g class="stroke-coral" stroke-width="3" fill="none" stroke-linecap="round">
      {#each [-18, 0, 18] as dy (dy)}
        <path d="M52 {dy}H18m8 -6l-8 6l8 6" />
      {/each}
    </g>
  </g>
  <text x="40" y="40" text-anchor="end" class="fill-ink-soft" font-size="22">right</text>
  <text x="262" y="40" class="fill-ink-soft" font-size="22">left</text>
  <text x="150" y="150" text-anchor="middle" class="fill-ink" font-size="22" font-weight="600"
    >{slot.projection === 'bitewing' ? 'biting' : isUpperTooth(teeth[0]) ? 'upper jaw' : 'lower jaw'}</text
  >
</svg>
