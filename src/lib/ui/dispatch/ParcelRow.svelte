<script lang="ts">
  import { ChevronRight, Download, TriangleAlert } from '@lucide/svelte';
  import { formatWords } from '$core/parcel/packing';
  import { type ParcelView, stateWords, wantsPerson } from '$core/parcel/road';
  import { clockWords, dateWords, secondsWords, todayAtClinic } from '../clock';
  import { countWords } from '../words';
  import Road from './Road.svelte';

  let { parcel, onopen }: { parcel: ParcelView; onopen: () => void } = $props();
  const stuck = $derived(wantsPerson(parcel));
  const day = $derived(parcel.madeAt.slice(0, 10));
  const when = $derived(
    day === todayAtClinic() ? clockWords(parcel.madeAt) : `${dateWords(day)}, ${clockWords(parcel.madeAt)}`
  );
</script>

<li
  class="panel flex flex-col gap-2 px-4 py-3 {stuck ? 'border-brass border-l-4' : ''}"
  data-testid="parcel"
  data-state={parcel.state}
>
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
    <button
      class="flex min-h-11 min-w-0 flex-1 items-center gap-2 text-left"
      onclick={onopen}
      data-testid="open-parcel"
    >
      <span class="min-w-0">
        <span class="block font-bold">
          {parcel.patient
            ? parcel.patient.name
            : countWords(parcel.pictures, 'picture', 'pictures') + ' of several patients'}
          <span class="font-normal">to</span>
          {parcel.destination ? parcel.destination.name : 'a file'}
        </span>
        <span class="text-small text-ink-soft block">
          {parcel.papers > 0
            ? `${countWords(parcel.papers, 'paper', 'papers')}, PDF`
            : `${countWords(parcel.pictures, 'picture', 'pictures')}, ${parcel.destination?.kind === 'film' ? 'on film' : formatWords[parcel.format]}`},
          {parcel.identity === 'identified' ? 'identity kept' : `de-identified (${parcel.rule})`} · {when}, {parcel.by}
        </span>
      </span>
      <ChevronRight size={18} class="text-ink-soft shrink-0" aria-hidden="true" />
    </button>
    <Road {parcel} />
    <span class="w-40 text-right font-semibold {stuck ? 'text-brass' : ''}" data-testid="parcel-state"
      >{stateWords(parcel)}</span
    >
  </div>
  {#if parcel.tracking}
    <p class="text-small text-ink-soft truncate" data-testid="parcel-tracking">
      Tracking {parcel.counts.delivered > 1 ? 'numbers' : 'number'}
      <strong class="text-ink select-all">{parcel.tracking}</strong>
    </p>
  {/if}
  {#if parcel.toldProblem}
    <p class="text-small text-brass flex items-start gap-2" data-testid="told-problem">
      <TriangleAlert size={17} class="mt-0.5 shrink-0" aria-hidden="true" />{parcel.toldProblem}
    </p>
  {/if}
  {#if parcel.reason}
    <p class="text-small flex items-start gap-2 {stuck ? 'text-brass' : 'text-ink-soft'}">
      <TriangleAlert size={17} class="mt-0.5 shrink-0" aria-hidden="true" />
      <span
        ><strong>{parcel.reason}</strong>
        {#if parcel.nextTryAt}Tried {parcel.attempts}x; again at {secondsWords(parcel.nextTryAt)}.{/if}
        {parcel.next}</span
      >
    </p>
  {/if}
  {#if parcel.destination === null && parcel.state === 'open'}
    <a
      class="button main self-start"
      href="/api/parcels/{parcel.parcelId}/file"
      download
      data-testid="fetch-parcel"><Download size={18} aria-hidden="true" />Fetch it as a ZIP</a
    >
  {/if}
</li>
