<script lang="ts">
  import { Chart, type ChartConfiguration } from 'chart.js';
  import { onMount } from 'svelte';
  import { chartType } from './chartLooks';

  interface Props {
    /** The chart as it is now: made anew when what it is made of changes. */
    made: () => ChartConfiguration;
    /** In words, for whoever can't see it. */
    label: string;
  }
  let { made, label }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  let live = $state(false);
  onMount(() => {
    live = true;
  });

  $effect(() => {
    if (!live || !canvas) return;
    chartType();
    const { options, ...chart } = made();
    const drawn = new Chart(canvas, {
      ...chart,
      options: { animation: false, responsive: true, maintainAspectRatio: false, ...options }
    });
    return () => drawn.destroy();
  });
</script>

<div class="relative h-full w-full" role="img" aria-label={label}><canvas bind:this={canvas}></canvas></div>
