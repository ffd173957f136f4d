<script lang="ts">
  import type { Proposed } from '$core/measurement/guides/proposed';
  import type { Sharpened } from '$core/measurement/guides/sharpened';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import Ring from './Ring.svelte';

  interface Props {
    proposed: Readonly<Record<string, Proposed & Pick<Partial<Sharpened>, 'outline'>>>;
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
    {#if point.outline}<Ring
        at={toScreen(point.outline.center, view, stage)}
        radius={point.outline.radiusPx * view.zoom}
        stroke="stroke-ice"
        width={1.5}
        dashed
      />{/if}
    <Ring {at} {radius} stroke={key === wanted ? 'stroke-coral' : 'stroke-ice'} width={2} {key} />
  {/each}
</svg>
