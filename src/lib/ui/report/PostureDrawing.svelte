<script lang="ts">
  import type { FigurePart } from '$core/report/postureFigure';
  import { postureBox, postureShapes } from '$core/report/postureShapes';

  interface Props {
    parts: FigurePart[];
    seen: 'front' | 'side';
  }
  let { parts, seen }: Props = $props();
  const { left, top, width, height } = postureBox;
  const words = $derived(
    seen === 'front'
      ? 'Drawn from the readings, seen from the front: the left side is on the right.'
      : 'Drawn from the readings, seen from the right: forward is to the right.'
  );
</script>

<figure class="flex flex-col items-center">
  <svg viewBox="{left} {top} {width} {height}" class="h-[64mm]" role="img" aria-label={words}>
    {#each postureShapes(parts, seen) as shape, i (i)}
      <path
        d={shape.d}
        stroke={shape.stroke}
        stroke-width={shape.width}
        fill={shape.fill ?? 'none'}
        stroke-dasharray={shape.dashed ? '12 10' : undefined}
        stroke-linejoin="round"
        stroke-linecap="round"
      />
    {/each}
  </svg>
  <figcaption class="text-small text-center">
    {seen === 'front' ? 'From the front' : 'From the side'}
  </figcaption>
</figure>
