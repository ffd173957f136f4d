<script lang="ts">
  import { Check, CircleDotDashed, X } from '@lucide/svelte';
  import type { ClinicMarker } from '$core/calibration/markerShape';
  import { numberWords, readingWords } from '../writing';
  import { scaleGiven } from '$core/picture/layers/scale/scale';
  import Tooltip from '../kit/Tooltip.svelte';
  import { type MarkerProposal, givenBy, saidOf, sizeOf } from './markers.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { markers: search, edits } = $derived(table);
  const picture = $derived(table.picture!);
  const sought = $derived(table.soughtMarkers);

  function sizeWords(proposal: MarkerProposal): string {
    const { sizePx, uncertaintyPx } = sizeOf(proposal, edits.aspect);
    const size = readingWords({ value: sizePx, unit: 'px', plusMinus: 2 * uncertaintyPx });
    if (proposal.seen.kind === 'round') return `${size} across`;
    return proposal.seen.kind === 'bar' ? `${size} long` : `${proposal.seen.places + 1} lines, ${size} apart`;
  }

  function use(proposal: MarkerProposal, marker: ClinicMarker) {
    edits.setScale(givenBy(proposal, marker, edits.aspect));
    search.forget();
  }
</script>

<section class="border-rule flex flex-col gap-2 border-t pt-3" aria-label="From a marker">
  <h2 class="heading">From a marker</h2>
  {#if !table.pixelsAreSquare}
    <p class="text-small text-ink-soft">
      Its pixels are not square, so markers are not looked for: draw over a known length instead.
    </p>
  {:else if sought.length === 0}
    <p class="text-small text-ink-soft">
      The clinic has named none yet: an administrator adds them under Settings.
    </p>
  {:else}
    {#if search.state === 'looking'}
      <p class="text-small" role="status" data-testid="marker-progress">Looking for {search.words}</p>
      <button class="button" onclick={() => search.stop()} data-testid="stop-looking">Stop looking</button>
    {:else}
      <div class="flex gap-1.5">
        <button
          class="button flex-1 px-2"
          onclick={() => void search.find(picture, table.frame, sought)}
          data-testid="find-markers"><CircleDotDashed size={18} aria-hidden="true" />Find it</button
        >
        {#if table.roundMarkers.length > 0}<button
            class="button flex-1 px-2"
            onclick={() => table.takeUp('known-circle')}
            data-testid="draw-marker">Draw round it</button
          >{/if}
      </div>
    {/if}
    {#if search.state === 'failed'}<p role="alert" class="text-small text-brass font-semibold">
        {search.words}
      </p>{/if}
    {#if search.state === 'done' && search.proposals.length === 0}
      <p class="text-small text-ink-soft" role="status" data-testid="no-marker">
        Nothing in this picture looks like {sought.length === 1 ? `the ${sought[0].name}` : 'one of them'}.
        Draw round it or along it where you see it.
      </p>
    {/if}
    {#each search.proposals as proposal (proposal.id)}
      <div
        class="flex flex-col gap-1 rounded-lg border p-2.5 {table.highlighted === proposal.id
          ? 'border-coral bg-coral-wash'
          : 'border-rule'}"
        role="group"
        aria-label="Proposed marker"
        onpointerenter={() => (table.highlighted = proposal.id)}
        onpointerleave={() => (table.highlighted = null)}
        data-testid="marker-proposal"
      >
        <div class="flex items-start justify-between gap-1">
          <p class="leading-tight">
            <span class="text-small text-ink-soft block"
              >{proposal.byHand
                ? 'drawn by hand'
                : proposal.doubts.length === 0
                  ? 'found, and clear'
                  : 'found, not sure'}</span
            >
            <span class="font-bold">{sizeWords(proposal)}</span>
          </p>
          <Tooltip
            words="It is none"
            button="flex size-11 shrink-0 items-center justify-center rounded-lg"
            testid="not-a-marker"
            onclick={() => search.drop(proposal.id)}><X size={18} aria-hidden="true" /></Tooltip
          >
        </div>
        {#if proposal.doubts.length > 0}<p class="text-small text-brass font-semibold">
            Look at it: {proposal.doubts.join(', ')}.
          </p>{/if}
        {#each proposal.markers as marker (marker.markerId)}
          {@const scale = scaleGiven(givenBy(proposal, marker, edits.aspect))}
          {@const said = saidOf(proposal, marker, picture.fileScale)}
          <p class="text-small">
            {scale.mmPerPixelX.toPrecision(4)} mm a pixel ± {numberWords(200 * scale.relativeUncertainty, 1)} %{#if said.magnification},
              imaged {numberWords(said.magnification.value, 3)} ± {numberWords(
                said.magnification.plusMinus,
                3
              )} times as large{/if}
          </p>
          {#if said.contradiction}<p class="text-small text-brass font-semibold">{said.contradiction}</p>{/if}
          <button
            class="button px-2 {proposal.doubts.length === 0 && !said.contradiction ? 'main' : ''}"
            onclick={() => use(proposal, marker)}
            data-testid="use-marker"
            ><Check size={18} aria-hidden="true" />{proposal.markers.length === 1
              ? `It is the ${marker.name}`
              : `It is ${marker.name}`}</button
          >
        {/each}
      </div>
    {/each}
  {/if}
</section>
