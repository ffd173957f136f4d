<script lang="ts">
  import { type CourseStep, courseBox, courseDrawing } from '$core/report/courseDrawing';

  interface Props {
    steps: readonly CourseStep[];
    limits: { low: number | null; high: number | null } | null;
    words: string;
  }
  let { steps, limits, words }: Props = $props();
</script>

<svg viewBox="0 0 {courseBox.width} {courseBox.height}" class="h-[9mm]" role="img" aria-label={words}>
  {#each courseDrawing(steps, limits) as shape, i (i)}
    <path
      d={shape.d}
      stroke={shape.stroke}
      stroke-width={shape.width}
      fill={shape.fill ?? 'none'}
      stroke-dasharray={shape.dashed ? '3 2' : undefined}
    />
  {/each}
</svg>
