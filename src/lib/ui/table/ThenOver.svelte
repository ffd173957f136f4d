<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import type { PictureView } from '$core/picture/pictureView';
  import { lookOf, orientationOf } from '$core/picture/pictureView';
  import { type Similarity, inverse, onto } from '$core/raster/geometry/similarity';
  import { type Stage, type View, fitted } from '$core/raster/view';
  import { Viewport } from '../stage/viewport.svelte';

  interface Props {
    picture: PictureView;
    /** From this picture as it is turned to the one below. */
    similarity: Similarity;
    /** What lies below it. */
    view: View;
    stage: Stage;
    /** How much of the width is shown, from the left. */
    share?: number;
  }
  let { picture, similarity, view, stage, share = 1 }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  const viewport = new Viewport();
  const look = $derived(lookOf(picture));
  const orientation = $derived(orientationOf(picture));
  /** So large a square that it fills the stage however it is turned. */
  const side = $derived(Math.ceil(Math.hypot(stage.screen.width, stage.screen.height)));
  const screen = $derived({ width: side, height: side });
  const own: View = $derived({
    center: onto(inverse(similarity), view.center),
    zoom: view.zoom * similarity.scale
  });
  const sight = () => ({ picture, frame: 0, view: own, look, orientation, screen });

  onMount(() => {
    void viewport.attach(canvas!).then(() => {
      const zoom = fitted({ picture, orientation, screen: stage.screen }).zoom;
      void viewport.open(picture, 0, zoom, () => void viewport.draw(sight()));
    });
    return () => viewport.close();
  });
  $effect(() => {
    void [own, look, orientation, screen];
    untrack(() => viewport.drawSoon(sight));
  });
</script>

<div
  class="pointer-events-none absolute inset-0 overflow-hidden"
  style="clip-path: inset(0 {100 - share * 100}% 0 0)"
  data-testid="then-over"
  data-come={viewport.shown?.pictureId === picture.pictureId}
>
  <canvas
    bind:this={canvas}
    class="absolute max-w-none"
    style="width: {side}px; height: {side}px; left: {(stage.screen.width - side) / 2}px; top: {(stage.screen
      .height -
      side) /
      2}px; transform: rotate({similarity.turn}rad)"
    aria-hidden="true"
  ></canvas>
</div>
