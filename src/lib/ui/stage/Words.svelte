<script lang="ts">
  interface Props {
    x: number;
    y: number;
    words: string;
    bright?: boolean;
    testid?: string;
  }
  let { x, y, words, bright = false, testid }: Props = $props();
</script>

<!-- With a dark halo, so that they read on white and on black. -->
<text
  {x}
  {y}
  class="text-lead font-bold {bright ? 'fill-on-stage' : 'fill-ice'}"
  stroke="#000"
  stroke-opacity="0.75"
  stroke-width="4"
  paint-order="stroke"
  data-testid={testid}>{words}</text
>
