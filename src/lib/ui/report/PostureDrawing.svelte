<script lang="ts">
  import type { FigurePart } from '$core/report/postureFigure';
  import { postureBox, postureShapes } from '$core/report/postureShapes';
  import PaperDrawing from './PaperDrawing.svelte';

  interface Props {
    parts: FigurePart[];
    seen: 'front' | 'side';
  }
  let { parts, seen }: Props = $props();
  const words = $derived(
    seen === 'front'
      ? 'Drawn from the readings, seen from the front: the left side is on the right.'
      : 'Drawn from the readings, seen from the right: forward is to the right.'
  );
</script>

<figure class="flex flex-col items-center">
  <PaperDrawing
    shapes={postureShapes(parts, seen)}
    box={postureBox}
    height="h-[64mm]"
    {words}
    dashes="12 10"
  />
  <figcaption class="text-small text-center">
    {seen === 'front' ? 'From the front' : 'From the side'}
  </figcaption>
</figure>
