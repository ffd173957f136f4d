<script lang="ts">
  import type { PlacedPoint } from '$core/calibration/scale';
  import { type Shape, segmentsOf } from '$core/picture/drawing';
  import type { Point } from '$core/raster/orientation';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import { type ShownDrawing, drawnOf, pointNamesOf, pointsOf } from './shownDrawing';
  import { wordsPlace } from './wordsPlace';

  interface Props {
    drawings: ShownDrawing[];
    /** Points of a drawing that is being made. */
    draft: PlacedPoint[];
    view: View;
    stage: Stage;
    highlighted: string | null;
    movable: boolean;
    onhighlight?: (id: string | null) => void;
  }
  let { drawings, draft, view, stage, highlighted, movable, onhighlight }: Props = $props();
  const armPx = 7;
  const cross = `M${-armPx} 0H-2M2 0H${armPx}M0 ${-armPx}V-2M0 2V${armPx}`;
  const seen = (point: Point) => toScreen(point, view, stage);
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
  {#each drawings as drawing (drawing.id)}
    {@const { shapes, wordsAt } = drawnOf(drawing)}
    {@const words = wordsPlace(seen(wordsAt), drawing.words, linesOf(shapes), stage.screen)}
    <g data-drawing={drawing.id} data-kind={drawing.kind}>
      {#each shapes as shape, i (i)}
        {@render line(
          path(shape),
          highlighted === drawing.id,
          shape.kind === 'line' && shape.dashed === true
        )}
      {/each}
      {#each pointsOf(drawing) as point, i (i)}
        {@const at = seen(point)}
        <g transform="translate({at.x} {at.y})">
          {@render mark()}
          {#if movable}
            <circle
              r="22"
              fill="transparent"
              class="focus-visible:stroke-coral pointer-events-auto cursor-move outline-none focus-visible:stroke-[3]"
              role="button"
              tabindex="0"
              aria-label="{pointNamesOf(drawing)[
                i
              ]} of {drawing.words}; arrow keys move it, with Shift ten times"
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
      {#if drawing.words}
        <text
          x={words.x}
          y={words.y}
          class="fill-ice text-lead font-bold"
          stroke="#000"
          stroke-opacity="0.75"
          stroke-width="4"
          paint-order="stroke"
          data-testid="drawing-words">{drawing.words}</text
        >
      {/if}
    </g>
  {/each}
  {#if draft.length > 0}
    <g data-testid="draft">
      {#if draft.length > 1}{@render line(path({ kind: 'path', points: draft }), true, false)}{/if}
      {#each draft as point, i (i)}
        {@const at = seen(point)}
        <g transform="translate({at.x} {at.y})">{@render mark()}</g>
      {/each}
    </g>
  {/if}
</svg>
