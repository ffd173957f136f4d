<script lang="ts">
  import type { PaperBox, PaperShape } from '$core/report/paperShapes';

  interface Props {
    shapes: readonly PaperShape[];
    box: PaperBox;
    /** How high it stands. */
    height: string;
    words: string;
    dashes: string;
  }
  let { shapes, box, height, words, dashes }: Props = $props();
</script>

<svg viewBox="{box.left} {box.top} {box.width} {box.height}" class={height} role="img" aria-label={words}>
  {#each shapes as shape, i (i)}
    <path
      d={shape.d}
      stroke={shape.stroke}
      stroke-width={shape.width}
      fill={shape.fill ?? 'none'}
      stroke-dasharray={shape.dashed ? dashes : undefined}
      stroke-linejoin="round"
      stroke-linecap="round"
    />
  {/each}
</svg>
