<script lang="ts">
  import { Chart, Filler, LineController, LineElement, LinearScale, PointElement } from 'chart.js';
  import { onMount } from 'svelte';
  import { dayWords } from '../clock';
  import { colourOf, chartType } from './chartLooks';

  interface Props {
    /** The oldest first. */
    points: readonly { takenAt: string; value: number; plusMinus: number; confirmed: boolean }[];
    unit: string;
    label: string;
  }
  let { points, unit, label }: Props = $props();
  let canvas = $state<HTMLCanvasElement>();
  let live = $state(false);
  Chart.register(LineController, LineElement, PointElement, LinearScale, Filler);
  onMount(() => {
    live = true;
  });

  $effect(() => {
    if (!live || !canvas) return;
    chartType();
    const [ink, band] = [colourOf('--ink'), colourOf('--lagoon-wash')];
    const at = (y: (point: Props['points'][number]) => number) =>
      points.map((point) => ({ x: Date.parse(point.takenAt), y: y(point) }));
    const edge = { borderWidth: 0, pointRadius: 0, backgroundColor: band };
    const chart = new Chart(canvas, {
      type: 'line',
      data: {
        datasets: [
          {
            data: at(({ value }) => value),
            borderColor: ink,
            borderWidth: 2,
            pointRadius: 5,
            pointBorderColor: ink,
            pointBorderWidth: 2,
            // Hollow until a clinician has confirmed it.
            pointBackgroundColor: points.map(({ confirmed }) => (confirmed ? ink : colourOf('--sheet')))
          },
          { ...edge, data: at(({ value, plusMinus }) => value + plusMinus), fill: '+1' },
          { ...edge, data: at(({ value, plusMinus }) => value - plusMinus), fill: false }
        ]
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        scales: {
          x: {
            type: 'linear',
            ticks: {
              color: ink,
              maxTicksLimit: 4,
              callback: (at) => dayWords(new Date(Number(at)).toISOString())
            },
            grid: { display: false }
          },
          y: {
            title: { display: unit !== '', text: unit, color: ink },
            ticks: { color: ink, maxTicksLimit: 5 },
            grid: { color: colourOf('--rule') }
          }
        },
        plugins: { legend: { display: false } }
      }
    });
    return () => chart.destroy();
  });
</script>

<div class="relative h-full w-full" role="img" aria-label={label}><canvas bind:this={canvas}></canvas></div>
