<script lang="ts">
  import { Chart, Filler, LineController, LineElement, LinearScale, PointElement } from 'chart.js';
  import { dayWords } from '../clock';
  import ChartCanvas from './ChartCanvas.svelte';
  import { colourOf } from './chartLooks';

  interface Props {
    /** The oldest first. */
    points: readonly { takenAt: string; value: number; plusMinus: number; confirmed: boolean }[];
    unit: string;
    /** Limits that are drawn across it, dashed. */
    range?: { low: number | null; high: number | null };
    label: string;
  }
  let { points, unit, range, label }: Props = $props();
  Chart.register(LineController, LineElement, PointElement, LinearScale, Filler);
  const at = (y: (point: Props['points'][number]) => number) =>
    points.map((point) => ({ x: Date.parse(point.takenAt), y: y(point) }));
  const limits = $derived([range?.low, range?.high].flatMap((limit) => limit ?? []));
</script>

<ChartCanvas
  {label}
  made={() => {
    const ink = colourOf('--ink');
    const edge = { borderWidth: 0, pointRadius: 0, backgroundColor: colourOf('--lagoon-wash') };
    return {
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
          { ...edge, data: at(({ value, plusMinus }) => value - plusMinus), fill: false },
          ...limits.map((limit) => ({
            data: at(() => limit),
            borderColor: colourOf('--lagoon'),
            borderWidth: 1.5,
            borderDash: [6, 5],
            pointRadius: 0
          }))
        ]
      },
      options: {
        scales: {
          x: {
            type: 'linear',
            ticks: {
              color: ink,
              maxTicksLimit: 4,
              callback: (when) => dayWords(new Date(Number(when)).toISOString())
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
    };
  }}
/>
