<script lang="ts">
  import { Trash2 } from '@lucide/svelte';
  import { type ClinicMarker, type MarkerShape, markerShapes } from '$core/calibration/markerShape';
  import Choice from '../kit/Choice.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';

  /** What has a known size and is looked for in pictures. */
  interface Props {
    markers: readonly ClinicMarker[];
    mayChange: boolean;
    onkept: () => void;
  }
  let { markers, mayChange, onkept }: Props = $props();

  let [name, size, tolerance] = $state(['', '', '']);
  let shape = $state<MarkerShape>('ball');
  const shapeWords: Record<MarkerShape, string> = {
    ball: 'a ball',
    disc: 'a disc',
    bar: 'a bar',
    ruler: 'a ruler',
    'plumb line': 'a plumb line with two balls',
    length: 'a length'
  };
  const sizeWords: Record<MarkerShape, string> = {
    ball: 'Across',
    disc: 'Across',
    bar: 'Long',
    ruler: 'Line to line',
    'plumb line': 'Ball to ball',
    length: 'Long'
  };
  const figure = (text: string) => Number(text.trim().replace(',', '.'));
  async function keepSize(event: SubmitEvent) {
    event.preventDefault();
    const wish = { name, shape, sizeMm: figure(size), toleranceMm: figure(tolerance) };
    if (await attempt(() => ask('/api/markers', wish))) {
      [name, size, tolerance] = ['', '', ''];
      onkept();
    }
  }
  async function drop(markerId: string) {
    await attempt(() => ask(`/api/markers/${markerId}`, {}, 'DELETE'));
    onkept();
  }
</script>

<section class="panel p-6" aria-labelledby="sizes">
  <h2 id="sizes" class="text-lead font-bold">Things of known size</h2>
  <p class="text-ink-soft mb-3">
    Balls, discs, bars, rulers and plumb lines are looked for in pictures; all are offered where a line is
    drawn over one.
  </p>
  <ul class="flex flex-col gap-1.5">
    {#each markers as marker (marker.markerId)}
      <li class="border-rule flex min-h-12 items-center gap-3 rounded-lg border pl-4" data-testid="marker">
        <span class="min-w-0 flex-1 font-semibold break-words">{marker.name}</span>
        <span class="text-ink-soft {mayChange ? '' : 'pr-4'}"
          >{shapeWords[marker.shape]}, {marker.sizeMm} ± {marker.toleranceMm} mm</span
        >
        {#if mayChange}
          <Tooltip
            words="Take {marker.name} off the list"
            button="flex size-11 items-center justify-center rounded-lg"
            onclick={() => drop(marker.markerId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
          >
        {/if}
      </li>
    {:else}<li class="text-ink-soft">None yet.</li>{/each}
  </ul>
  {#if mayChange}
    <form onsubmit={keepSize} class="border-rule mt-4 flex flex-wrap items-end gap-2 border-t pt-4">
      <label class="min-w-40 flex-1"
        ><span class="text-small font-semibold">Name</span>
        <input
          bind:value={name}
          class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
          data-testid="marker-name"
        /></label
      >
      <Choice
        label="What it looks like"
        small
        testid="marker-shape"
        bind:value={shape}
        options={markerShapes.map((value) => ({ value, words: shapeWords[value] }))}
      />
      <label class="w-24"
        ><span class="text-small font-semibold">{sizeWords[shape]}, mm</span>
        <input
          bind:value={size}
          inputmode="decimal"
          class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
        /></label
      >
      <label class="w-24"
        ><span class="text-small font-semibold">give or take</span>
        <input
          bind:value={tolerance}
          inputmode="decimal"
          class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
        /></label
      >
      <button class="button">Add it</button>
    </form>
  {/if}
</section>
