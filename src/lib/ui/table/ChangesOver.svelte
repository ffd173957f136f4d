<script lang="ts">
  import { type Stage, type View, toScreen } from '$core/raster/view';

  interface Props {
    pixels: ImageData;
    /** The picture that they lie over. */
    view: View;
    stage: Stage;
  }
  let { pixels, view, stage }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  $effect(() => {
    if (!canvas) return;
    canvas.width = pixels.width;
    canvas.height = pixels.height;
    canvas.getContext('2d')!.putImageData(pixels, 0, 0);
  });
  /** Takes a pixel of what is drawn to where it is seen. */
  const matrix = $derived.by(() => {
    const { width, height } = stage.picture;
    const [origin, right, below] = [
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: 0, y: height }
    ].map((point) => toScreen(point, view, stage));
    const [w, h] = [pixels.width, pixels.height];
    return [
      (right.x - origin.x) / w,
      (right.y - origin.y) / w,
      (below.x - origin.x) / h,
      (below.y - origin.y) / h,
      origin.x,
      origin.y
    ].join(',');
  });
</script>

<canvas
  bind:this={canvas}
  class="pointer-events-none absolute top-0 left-0 max-w-none origin-top-left"
  style="transform: matrix({matrix})"
  aria-hidden="true"
  data-testid="changes-over"
></canvas>
