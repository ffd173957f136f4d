<script lang="ts">
  import { onMount } from 'svelte';
  import type { News } from '$core/visit/news';
  import { onNews } from '../net/news';

  type Lines = Extract<News, { topic: 'reading' }>;
  interface Props {
    visitId: string;
    /** How many pictures the visit has: a plate that was read is one of them. */
    count: number;
  }
  let { visitId, count }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  let plate = $state.raw<{ readingId: string; plate: string; device: string; share: number } | null>(null);
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
    const bytes = Uint8Array.from(atob(lines.rows), (each) => each.charCodeAt(0));
    const high = bytes.length / lines.width;
    if (canvas && (plate?.readingId !== lines.readingId || canvas.width !== lines.width)) {
      canvas.width = lines.width;
      canvas.height = lines.height;
    }
    const pen = canvas?.getContext('2d');
    if (!pen) return;
    const image = pen.createImageData(lines.width, high);
    // Denser is brighter, as radiographs are looked at.
    bytes.forEach((value, i) => image.data.set([value, value, value, 255], i * 4));
    pen.putImageData(image, 0, lines.from);
    const { readingId, device } = lines;
    plate = { readingId, device, plate: lines.plate, share: (lines.from + high) / lines.height };
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
