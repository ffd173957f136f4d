<script lang="ts">
  import type { PlacedPoint } from '$core/calibration/scale';
  import { linesSeen, pathSeen } from '$core/picture/drawnPaths';
  import type { Point } from '$core/raster/orientation';
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import Line from './Line.svelte';
  import Words from './Words.svelte';
  import { type ShownDrawing, drawnOf, pointNameOf, pointsOf } from './shownDrawing';
  import { wordsPlaces } from '$core/picture/wordsPlace';

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
    /** @param index of the point that is looked at */
    onhighlight?: (id: string | null, index?: number) => void;
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
  const mostMarks = 24;
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
      lines: linesSeen(shapes, seen),
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
</script>

{#snippet mark()}
  <path d={cross} stroke="#000" stroke-opacity="0.6" stroke-width="4" />
  <path d={cross} class="stroke-ice" stroke-width="1.6" />
{/snippet}

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-label="Drawings" role="group">
  {#each laidOut as { drawing, shapes, words, place } (drawing.id)}
    <g data-drawing={drawing.id} data-kind={drawing.kind}>
      {#each shapes as shape, i (i)}
        <Line d={pathSeen(shape, seen)} bright={highlighted === drawing.id} dashed={shape.dashed === true} />
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
              onpointerenter={() => onhighlight?.(drawing.id, i)}
              onpointerleave={() => onhighlight?.(null)}
              onfocus={() => onhighlight?.(drawing.id, i)}
              onblur={() => onhighlight?.(null)}
            />
          {/if}
        </g>
      {/each}
      {#if words}
        <Words {...place} {words} bright={highlighted === drawing.id} testid="drawing-words" />
      {/if}
    </g>
  {/each}
  {#if draft.length > 0}
    <g data-testid="draft">
      {#if draft.length > 1}<Line
          d={pathSeen(
            { kind: 'path', points: [...draft.slice(0, -1), ...ahead, draft[draft.length - 1]] },
            seen
          )}
          bright
        />{/if}
      {#each marks as point, i (i)}
        {@const at = seen(point)}
        <g transform="translate({at.x} {at.y})">{@render mark()}</g>
      {/each}
    </g>
  {/if}
</svg>
