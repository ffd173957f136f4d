<script lang="ts">
  import type { Point } from '$core/raster/orientation';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import Ring from './Ring.svelte';

  interface Props {
    parts: { points: readonly Point[]; lines: readonly (readonly [Point, Point])[] };
    view: View;
    stage: Stage;
  }
  let { parts, view, stage }: Props = $props();
  const seen = (point: Point) => toScreen(point, view, stage);
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true" data-testid="lit">
  {#each parts.lines as [from, to], i (i)}
    {@const [a, b] = [seen(from), seen(to)]}
    <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="#000" stroke-opacity="0.6" stroke-width="6" />
    <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} class="stroke-coral" stroke-width="3" />
  {/each}
  {#each parts.points as point, i (i)}
    <Ring at={seen(point)} radius={8} stroke="stroke-coral" width={3} />
  {/each}
</svg>
