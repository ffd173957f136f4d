<script lang="ts">
  import type { Proposed } from '$core/measurement/guides/proposed';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import Ring from './Ring.svelte';

  interface Props {
    proposed: Readonly<Record<string, Proposed>>;
    /** The one that is asked for now. */
    wanted: string | undefined;
    view: View;
    stage: Stage;
  }
  let { proposed, wanted, view, stage }: Props = $props();
  const radius = 9;
</script>

<!-- Hollow: nobody has taken them yet. -->
<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true" data-testid="found">
  {#each Object.entries(proposed) as [key, point] (key)}
    {@const at = toScreen(point, view, stage)}
    <Ring {at} {radius} stroke={key === wanted ? 'stroke-coral' : 'stroke-ice'} width={2} {key} />
  {/each}
</svg>
