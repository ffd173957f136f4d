<script lang="ts">
  import type { Point, Size } from '$core/raster/orientation';

  interface Props {
    point: Point;
    at: Point;
    screen: Size;
    zoom: number;
    magnify: (point: Point, zoom: number, size: number) => Promise<ImageData | null>;
  }
  let { point, at, screen, zoom, magnify }: Props = $props();
  const size = 150;
  const awayPx = 40;
  let canvas = $state<HTMLCanvasElement>();

  const left = $derived(at.x + awayPx + size < screen.width ? at.x + awayPx : at.x - awayPx - size);
  const top = $derived(Math.max(6, Math.min(screen.height - size - 6, at.y - awayPx - size)));

  $effect(() => {
    const target = canvas;
    void magnify({ ...point }, zoom, size).then((image) => {
      if (image && target) target.getContext('2d')?.putImageData(image, 0, 0);
    });
  });
</script>

<div
  class="border-ice pointer-events-none absolute overflow-hidden rounded-full border-2 shadow-lg"
  style="left: {left}px; top: {top}px; width: {size}px; height: {size}px"
  aria-hidden="true"
  data-testid="magnifier"
>
  <canvas bind:this={canvas} width={size} height={size}></canvas>
  <svg viewBox="0 0 {size} {size}" class="absolute inset-0">
    <path
      d="M{size / 2 - 16} {size / 2}H{size / 2 - 4}M{size / 2 + 4} {size / 2}H{size / 2 + 16}M{size /
        2} {size / 2 - 16}V{size / 2 - 4}M{size / 2} {size / 2 + 4}V{size / 2 + 16}"
      class="stroke-ice"
      stroke-width="1.5"
    />
  </svg>
</div>
