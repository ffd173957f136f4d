<script lang="ts">
  import type { Point } from '$core/raster/orientation';

  interface Props {
    /** On the stage. */
    at: Point;
    radius: number;
    /** What colours its line. */
    stroke: 'stroke-ice' | 'stroke-coral';
    width: number;
    dashed?: boolean;
    key?: string;
  }
  let { at, radius, stroke, width, dashed = false, key }: Props = $props();
</script>

<!-- Dark around it, to be seen on white too. -->
<circle
  cx={at.x}
  cy={at.y}
  r={radius}
  fill="none"
  stroke="#000"
  stroke-opacity="0.55"
  stroke-width={width + 2}
/>
<circle
  cx={at.x}
  cy={at.y}
  r={radius}
  fill="none"
  class={stroke}
  stroke-width={width}
  stroke-dasharray={dashed ? '2 6' : undefined}
  stroke-linecap="round"
  data-key={key}
/>
