<script lang="ts">
  import type { Likely } from '$core/measurement/guides/likely';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import Ring from './Ring.svelte';

  let { likely, view, stage }: { likely: Likely; view: View; stage: Stage } = $props();
  const at = $derived(toScreen(likely.at, view, stage));
  const radius = $derived(likely.radius * view.zoom);
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true" data-testid="likely">
  <circle cx={at.x} cy={at.y} r={radius} class="fill-ice" fill-opacity="0.1" />
  <Ring {at} {radius} stroke="stroke-ice" width={1.5} dashed />
</svg>
