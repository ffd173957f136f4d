<script lang="ts">
  import { onMount } from 'svelte';
  import type { News } from '$core/visit/news';
  import type { Orientation } from '$core/raster/orientation';
  import { turnRaster } from '$core/raster/turnRaster';
  import { onNews } from '../net/news';

  type Lines = Extract<News, { topic: 'reading' }>;
  interface Props {
    visitId: string;
    /** How many pictures the visit has: a plate that was read is one of them. */
    count: number;
    /** How what is read lies, to be seen upright. */
    orientation: Orientation;
  }
  let { visitId, count, orientation }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  let held: { readingId: string; data: Uint8Array } | null = null;
  let plate = $state.raw<{ plate: string; device: string; share: number } | null>(null);
  /** A scanner that fell silent reads no more. */
  const silentMs = 6_000;
  let silence: ReturnType<typeof setTimeout>;

  onMount(() => {
    const stop = onNews((heard) => {
      if (heard.topic === 'reading' && heard.visitId === visitId) draw(heard);
    });
    return () => {
      clearTimeout(silence);
      stop();
    };
  });
  $effect(() => {
    void count;
    plate = null;
  });

  function draw(lines: Lines) {
    const { width, height, readingId, device, from } = lines;
    const rows = Uint8Array.from(atob(lines.rows), (each) => each.charCodeAt(0));
    if (held?.readingId !== readingId) held = { readingId, data: new Uint8Array(width * height) };
    held.data.set(rows, from * width);
    const raster = { width, height, channels: 1 as const, bitsStored: 8, offset: 0, data: held.data };
    // The right way up for where it belongs, while it comes.
    const upright = turnRaster(raster, orientation);
    if (canvas && (canvas.width !== upright.width || canvas.height !== upright.height)) {
      canvas.width = upright.width;
      canvas.height = upright.height;
    }
    const pen = canvas?.getContext('2d');
    if (!pen) return;
    const image = pen.createImageData(upright.width, upright.height);
    // Denser is brighter, as radiographs are looked at.
    upright.data.forEach((value, i) => image.data.set([value, value, value, 255], i * 4));
    pen.putImageData(image, 0, 0);
    plate = { device, plate: lines.plate, share: (from + rows.length / width) / height };
    clearTimeout(silence);
    silence = setTimeout(() => (plate = null), silentMs);
  }
</script>

<div
  class="bg-stage absolute inset-0 flex-col items-center justify-center gap-3 rounded-2xl p-4 {plate
    ? 'flex'
    : 'hidden'}"
  data-testid="plate-coming"
>
  <canvas bind:this={canvas} class="min-h-0 max-w-full flex-1 rounded-md" aria-hidden="true"></canvas>
  {#if plate}
    <p class="text-on-stage font-semibold" role="status">
      {plate.device} reads plate {plate.plate}: {Math.round(plate.share * 100)} %
    </p>
  {/if}
</div>
