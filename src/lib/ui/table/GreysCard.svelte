<script lang="ts">
  import type { RegionStatistics } from '$core/raster/region';
  import LineChart from '../chart/LineChart.svelte';
  import { type GreysState, figure } from './greys.svelte';

  let { values }: { values: GreysState } = $props();

  const inDetail = ({ median, least, greatest, standardDeviation, pixels }: RegionStatistics) =>
    [
      `${figure(least)} to ${figure(greatest)}, median ${figure(median)}`,
      ...(pixels > 1 ? [`standard deviation ${figure(standardDeviation)}`] : []),
      `${pixels} ${pixels === 1 ? 'pixel' : 'pixels'}`
    ].join(', ');
</script>

{#if values.state === 'reading'}
  <p class="text-small text-ink-soft">Reading the picture at full size.</p>
{:else if values.state === 'failed'}
  <p class="text-small text-brass font-semibold">{values.why}</p>
{:else if values.greys.kind === 'inside'}
  {@const statistics = values.greys.statistics}
  {#if statistics}
    <p class="text-lead font-bold" data-testid="reading">mean {figure(statistics.mean)}</p>
    <p class="text-small text-ink-soft">{inDetail(statistics)}</p>
  {:else}
    <p class="text-small text-brass font-semibold">No pixel of the picture lies inside.</p>
  {/if}
{:else if values.greys.values.every(Number.isNaN)}
  <p class="text-small text-brass font-semibold">The line does not cross the picture.</p>
{:else}
  {@const seen = values.greys.values.filter((value) => !Number.isNaN(value))}
  <p class="text-lead font-bold" data-testid="reading">
    {figure(Math.min(...seen))} to {figure(Math.max(...seen))}
  </p>
  <div class="h-28">
    <LineChart
      values={values.greys.values}
      length={values.greys.lengthPx}
      axis="pixels along the line"
      label="Grey values along the line, from {figure(seen[0])} at its start to {figure(
        seen[seen.length - 1]
      )} at its end"
    />
  </div>
{/if}
