<script lang="ts">
  import { numberWords } from '../writing';
  import { Copy, Waypoints } from '@lucide/svelte';
  import { page } from '$app/state';
  import type { ClinicMarker } from '$core/calibration/markerShape';
  import { isMarker } from '$core/picture/layers/scale/scale';
  import { pictureName } from '$core/picture/pictureView';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { countWords, typedNumber } from '../words';
  import BoneHeight from './BoneHeight.svelte';
  import MarkerCard from './MarkerCard.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { edits, may } = $derived(table);
  const picture = $derived(table.picture!);
  let known = $state('');
  let tolerance = $state('0.1');
  let message = $state('');
  let size = $state('');
  const sizes = $derived((page.data.markers ?? []) as ClinicMarker[]);
  const scale = $derived(edits.scale);
  const isGiven = $derived(edits.layers.scale !== null);
  const plusMinus = $derived(scale ? numberWords(200 * scale.relativeUncertainty, 1) : '');

  function choose(markerId: string) {
    const marker = sizes.find((each) => each.markerId === markerId);
    if (marker) [known, tolerance] = [String(marker.sizeMm), String(marker.toleranceMm)];
  }

  function use(event: SubmitEvent) {
    event.preventDefault();
    const [mm, u] = [typedNumber(known), typedNumber(tolerance)];
    if (!table.line) return;
    if (!(mm > 0)) message = 'Enter the known length in millimetres, above 0.';
    else if (!(u >= 0)) message = 'Enter how sure the length is in millimetres, 0 or more.';
    else {
      // The tolerance is taken as the bounds of a rectangular distribution (GUM 4.3.7).
      table.useLine(mm, u / Math.sqrt(3));
      [message, known, size] = ['', '', ''];
    }
  }
</script>

<section>
  <h2 class="heading mb-1">Scale in use</h2>
  {#if scale}
    <p class="text-title font-bold" data-testid="scale-words">
      {scale.mmPerPixelX.toPrecision(4)} mm a pixel
    </p>
    <p class="text-small text-ink-soft">± {plusMinus} %, from {scale.description}</p>
    {#if scale.mmPerPixelX !== scale.mmPerPixelY}
      <p class="text-small text-ink-soft">
        down the picture {scale.mmPerPixelY.toPrecision(4)} mm: its pixels are not square
      </p>
    {/if}
    {#if scale.source === 'detector'}
      <p class="bg-brass-wash text-small text-brass mt-2 rounded-lg px-3 py-2 font-semibold">
        Lengths are at the detector. What lies nearer the source looks larger than it is, and the ± does not
        hold that.
      </p>
    {/if}
  {:else}
    <p class="text-lead text-brass font-semibold">None: lengths are in pixels</p>
  {/if}
  {#if picture.scaleDoubt}<p
      class="bg-brass-wash text-small text-brass mt-2 rounded-lg px-3 py-2 font-semibold"
    >
      {picture.scaleDoubt}
    </p>{/if}
  {#if may.changePictures && table.alike.length > 0}
    <div class="mt-2 flex flex-col gap-1.5">
      <button class="button" onclick={() => table.giveScaleTo(table.alike)} data-testid="give-scale"
        ><Copy size={18} aria-hidden="true" />Give it to {countWords(
          table.alike.length,
          'other picture',
          'other pictures'
        )}</button
      >
      <p class="text-small text-ink-soft">
        Of this visit, from {picture.from}. It holds for those that were taken at the same distance:
        {table.alike.map(pictureName).join('; ')}.
      </p>
    </div>
  {/if}
</section>
{#if isMarker(edits.layers.scale) && (edits.layers.scale.bone || table.boneMayLieElsewhere)}
  {#key picture.pictureId}<BoneHeight {table} given={edits.layers.scale} />{/key}
{/if}
{#if may.changePictures}
  <MarkerCard {table} />
  <section class="border-rule flex flex-col gap-2 border-t pt-3">
    <h2 class="heading">From a known length</h2>
    {#if table.line}
      <form onsubmit={use} class="flex flex-col gap-2">
        {#if sizes.length > 0}
          <Select
            label="What the line lies over"
            empty="Something of the clinic’s"
            bind:value={size}
            options={sizes.map(({ markerId, name, sizeMm }) => ({
              value: markerId,
              words: name,
              detail: `${sizeMm} mm`
            }))}
            testid="known-size"
            onchange={choose}
          />
        {/if}
        <TextField label="The line is, in mm" bind:value={known} figure first testid="known-mm" />
        <TextField label="give or take, in mm" bind:value={tolerance} figure />
        {#if message}<p role="alert" class="text-small text-brass font-semibold">{message}</p>{/if}
        <button class="button main" data-testid="use-scale">Use this scale</button>
        <button type="button" class="button" onclick={() => (table.line = null)}>Drop the line</button>
      </form>
    {:else if table.tool.makes === 'known length'}
      <p class="text-ink-soft">
        Press at both ends of the known length, or drag from one to the other. By keys: arrows and Enter.
      </p>
    {:else}
      <button
        class="button px-2 {table.markers.proposals.length === 0 ? 'main' : ''}"
        onclick={() => table.takeUp('known-length')}
        data-testid="draw-known"><Waypoints size={18} aria-hidden="true" />Draw over a known length</button
      >
    {/if}
    {#if isGiven}<button class="button" onclick={() => edits.setScale(null)}>Back to the file’s own</button
      >{/if}
  </section>
{/if}
