<script lang="ts">
  import type { Proposed } from '$core/measurement/guides/proposed';
  import type { Sharpened } from '$core/measurement/guides/sharpened';
  import type { Point } from '$core/raster/orientation';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import Ring from './Ring.svelte';

  interface Props {
    proposed: Readonly<Record<string, Proposed & Pick<Partial<Sharpened>, 'outline' | 'path'>>>;
    /** The one that is asked for now. */
    wanted: string | undefined;
    view: View;
    stage: Stage;
  }
  let { proposed, wanted, view, stage }: Props = $props();
  const radius = 9;
  /** What goes about several landmarks is drawn once. */
  const paths = $derived([...new Set(Object.values(proposed).flatMap(({ path }) => path ?? []))]);
  const joined = (points: readonly Point[]) =>
    points
      .map((point) => toScreen(point, view, stage))
      .map(({ x, y }) => `${x},${y}`)
      .join(' ');
</script>

<!-- Hollow: nobody has taken them yet. -->
<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true" data-testid="found">
  {#each paths as { outline, axis }, i (i)}
    {#each [outline, axis] as line, k (k)}
      <polyline
        class="fill-none"
        points={joined(line)}
        stroke="#000"
        stroke-opacity="0.55"
        stroke-width="4"
      />
      <polyline
        class="stroke-ice fill-none"
        points={joined(line)}
        stroke-width="2"
        stroke-dasharray={k === 0 ? '8 4' : '2 6'}
        data-testid={k === 0 ? 'found-outline' : 'found-axis'}
      />
    {/each}
  {/each}
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
