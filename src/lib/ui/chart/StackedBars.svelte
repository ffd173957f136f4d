<script lang="ts">
  import { BarController, BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
  import ChartCanvas from './ChartCanvas.svelte';
  import { colourOf } from './chartLooks';

  interface Props {
    labels: readonly string[];
    series: readonly { name: string; values: readonly number[] }[];
    /** What is counted, on the axis. */
    axis: string;
    /** Bars lie, for names that are long. */
    lying?: boolean;
    /** In words, for whoever can't see it; the figures themselves belong beside it. */
    label: string;
  }
  let { labels, series, axis, lying = false, label }: Props = $props();
  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Legend, Tooltip);

  /** As many as there are hues for; then they begin again. */
  const hues = 11;
</script>

<ChartCanvas
  {label}
  made={() => {
    const ink = colourOf('--ink');
    const rule = colourOf('--rule');
    const count = {
      stacked: true,
      title: { display: true, text: axis, color: ink },
      ticks: { color: ink, precision: 0 },
      grid: { color: rule }
    };
    const name = { stacked: true, ticks: { color: ink }, grid: { display: false } };
    return {
      type: 'bar',
      data: {
        labels: [...labels],
        datasets: series.map((each, i) => ({
          label: each.name,
          data: [...each.values],
          backgroundColor: colourOf(`--series-${i % hues}`),
          borderColor: colourOf('--sheet'),
          borderWidth: 1,
          maxBarThickness: 44
        }))
      },
      options: {
        indexAxis: lying ? 'y' : 'x',
        scales: lying ? { x: count, y: name } : { x: name, y: count },
        plugins: { legend: { position: 'bottom', labels: { color: ink, boxWidth: 14, padding: 14 } } }
      }
    };
  }}
/>
