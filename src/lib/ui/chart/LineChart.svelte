<script lang="ts">
  import { Chart, LineController, LineElement, LinearScale, PointElement } from 'chart.js';
  import ChartCanvas from './ChartCanvas.svelte';
  import { colourOf } from './chartLooks';

  interface Props {
    /** Evenly spaced; what is not a number is a gap. */
    values: ArrayLike<number>;
    /** How far the last lies from the first, on the axis. */
    length: number;
    axis: string;
    label: string;
  }
  let { values, length, axis, label }: Props = $props();
  Chart.register(LineController, LineElement, PointElement, LinearScale);
</script>

<ChartCanvas
  {label}
  made={() => {
    const ink = colourOf('--ink');
    const step = values.length > 1 ? length / (values.length - 1) : 0;
    return {
      type: 'line',
      data: {
        datasets: [
          {
            data: Array.from(values, (y, i) => ({ x: i * step, y })),
            borderColor: ink,
            borderWidth: 1.5,
            pointRadius: 0
          }
        ]
      },
      options: {
        scales: {
          x: {
            type: 'linear',
            max: Math.ceil(length),
            title: { display: true, text: axis, color: ink },
            ticks: { color: ink, maxTicksLimit: 4 },
            grid: { display: false }
          },
          y: { ticks: { color: ink, maxTicksLimit: 4 }, grid: { color: colourOf('--rule') } }
        },
        plugins: { legend: { display: false } }
      }
    };
  }}
/>
