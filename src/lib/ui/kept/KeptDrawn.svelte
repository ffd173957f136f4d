<script lang="ts">
  import { linesSeen, pathSeen } from '$core/picture/drawnPaths';
  import type { KeptDrawing } from '$core/picture/layers/kept/kept';
  import { wordsPlaces } from '$core/picture/wordsPlace';
  import type { Point, Size } from '$core/raster/orientation';
  import Line from '../stage/Line.svelte';
  import Words from '../stage/Words.svelte';

  interface Props {
    drawings: readonly KeptDrawing[];
    /** Where an image point is seen in a picture of this size. */
    seen: (point: Point) => Point;
    size: Size;
  }
  let { drawings, seen, size }: Props = $props();
  const drawn = $derived.by(() => {
    const each = drawings.map(({ shapes, wordsAt, words }) => ({
      paths: shapes.map((shape) => ({ d: pathSeen(shape, seen), dashed: shape.dashed === true })),
      at: seen(wordsAt),
      lines: linesSeen(shapes, seen),
      words
    }));
    const places = wordsPlaces(each, size);
    return each.map((one, i) => ({ ...one, place: places[i] }));
  });
</script>

<svg
  class="pointer-events-none absolute inset-0 h-full w-full"
  viewBox="0 0 {size.width} {size.height}"
  aria-hidden="true"
>
  {#each drawn as { paths, words, place }, i (i)}
    {#each paths as { d, dashed }, k (k)}<Line {d} {dashed} />{/each}
    {#if words}<Words {...place} {words} />{/if}
  {/each}
</svg>
