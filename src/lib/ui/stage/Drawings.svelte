<script lang="ts">
  import type { PlacedPoint } from '$core/calibration/scale';
  import { type Shape, segmentsOf } from '$core/picture/drawing';
  import type { Point } from '$core/raster/orientation';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import { type ShownDrawing, drawnOf, pointNameOf, pointsOf } from './shownDrawing';
  import { wordsPlaces } from './wordsPlace';

  interface Props {
    drawings: ShownDrawing[];
    /** Points of a drawing that is being made. */
    draft: PlacedPoint[];
    /** Those of them that are marked. */
    marks?: readonly PlacedPoint[];
    /** Points between the last two of the draft, along an edge. */
    ahead?: readonly Point[];
    view: View;
    stage: Stage;
    /** Height of a pixel over its width. */
    aspect: number;
    highlighted: string | null;
    movable: boolean;
    /** How near a point a press takes it up, in screen pixels; 0 for never. */
    grip: number;
    onhighlight?: (id: string | null) => void;
  }
  let {
    drawings,
    draft,
    marks = draft,
    ahead = [],
    view,
    stage,
    aspect,
    highlighted,
    movable,
    grip,
    onhighlight
  }: Props = $props();
  const headPx = 16;
  const mostMarks = 24;
  const headRad = 0.42;
  const armPx = 7;
  const cross = `M${-armPx} 0H-2M2 0H${armPx}M0 ${-armPx}V-2M0 2V${armPx}`;
  const seen = (point: Point) => toScreen(point, view, stage);
  /** Each drawing as it is seen, with a place for its words. */
  const onPicture = $derived(drawings.map((drawing) => ({ drawing, ...drawnOf(drawing, aspect) })));
  const laidOut = $derived.by(() => {
    const drawn = onPicture.map(({ drawing, shapes, wordsAt }) => ({
      drawing,
      shapes,
      at: seen(wordsAt),
      lines: linesOf(shapes),
      words: drawing.words
    }));
    const places = wordsPlaces(drawn, stage.screen);
    return drawn.map((each, i) => ({ ...each, place: places[i] }));
  });
  /** Its points, where they are few enough to be told apart, or it is the one that is looked at. */
  function marksOf(drawing: ShownDrawing): PlacedPoint[] {
    const points = pointsOf(drawing);
    return points.length <= mostMarks || highlighted === drawing.id ? points : [];
  }
  /** The two barbs of an arrow's head, the same size at every zoom. */
  function head(shape: Shape): string {
    if (shape.kind !== 'line' || !shape.head) return '';
    const [from, to] = [seen(shape.from), seen(shape.to)];
    const way = Math.atan2(to.y - from.y, to.x - from.x);
    return [-1, 1]
      .map((side) => way + Math.PI + side * headRad)
      .map((at) => `M${to.x} ${to.y}L${to.x + headPx * Math.cos(at)} ${to.y + headPx * Math.sin(at)}`)
      .join('');
  }
  const path = (shape: Shape) =>
    linesOf([shape])
      .map(([from, to]) => `M${from.x} ${from.y}L${to.x} ${to.y}`)
      .join('');
  /** The lines of shapes as they are seen. */
  const linesOf = (shapes: readonly Shape[]) =>
    shapes.flatMap(segmentsOf).map(([from, to]): [Point, Point] => [seen(from), seen(to)]);
</script>

{#snippet line(d: string, bright: boolean, dashed: boolean)}
  <path {d} fill="none" stroke="#000" stroke-opacity="0.6" stroke-width={bright ? 6 : 4.5} />
  <path
    {d}
    fill="none"
    class="stroke-ice"
    stroke-width={bright ? 2.6 : 1.5}
    stroke-dasharray={dashed ? '7 5' : undefined}
  />
{/snippet}

{#snippet mark()}
  <path d={cross} stroke="#000" stroke-opacity="0.6" stroke-width="4" />
  <path d={cross} class="stroke-ice" stroke-width="1.6" />
{/snippet}

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-label="Drawings" role="group">
  {#each laidOut as { drawing, shapes, words, place } (drawing.id)}
    <g data-drawing={drawing.id} data-kind={drawing.kind}>
      {#each shapes as shape, i (i)}
        {@render line(path(shape) + head(shape), highlighted === drawing.id, shape.dashed === true)}
      {/each}
      {#each marksOf(drawing) as point, i (i)}
        {@const at = seen(point)}
        <g transform="translate({at.x} {at.y})">
          {@render mark()}
          {#if movable}
            <circle
              r={grip}
              fill="transparent"
              class="focus-visible:stroke-coral cursor-move outline-none focus-visible:stroke-[3] {grip > 0
                ? 'pointer-events-auto'
                : ''}"
              role="button"
              tabindex="0"
              aria-label="{pointNameOf(drawing, i)} of {words}; arrow keys move it, with Shift ten times"
              data-handle={drawing.id}
              data-index={i}
              onpointerenter={() => onhighlight?.(drawing.id)}
              onpointerleave={() => onhighlight?.(null)}
              onfocus={() => onhighlight?.(drawing.id)}
              onblur={() => onhighlight?.(null)}
            />
          {/if}
        </g>
      {/each}
      {#if words}
        <text
          x={place.x}
          y={place.y}
          class="text-lead font-bold {highlighted === drawing.id ? 'fill-on-stage' : 'fill-ice'}"
          stroke="#000"
          stroke-opacity="0.75"
          stroke-width="4"
          paint-order="stroke"
          data-testid="drawing-words">{words}</text
        >
      {/if}
    </g>
  {/each}
  {#if draft.length > 0}
    <g data-testid="draft">
      {#if draft.length > 1}{@render line(
          path({ kind: 'path', points: [...draft.slice(0, -1), ...ahead, draft[draft.length - 1]] }),
          true,
          false
        )}{/if}
      {#each marks as point, i (i)}
        {@const at = seen(point)}
        <g transform="translate({at.x} {at.y})">{@render mark()}</g>
      {/each}
    </g>
  {/if}
</svg>
