<script lang="ts">
  import { Waypoints } from '@lucide/svelte';
  import type { PlacedPoint } from '$core/calibration/scale';
  import type { PictureView } from '$core/picture/pictureView';
  import type { Edits } from './edits.svelte';

  interface Props {
    picture: PictureView;
    edits: Edits;
    mayChange: boolean;
    line: [PlacedPoint, PlacedPoint] | null;
    drawing: boolean;
    ondraw: () => void;
  }
  let { picture, edits, mayChange, line = $bindable(), drawing, ondraw }: Props = $props();
  let known = $state('');
  let tolerance = $state('0.1');
  let says = $state('');
  const scale = $derived(edits.scale);
  const own = $derived(edits.scaleLine !== null);
  const plusMinus = $derived(scale ? (200 * scale.relativeUncertainty).toFixed(1) : '');
  const figure = (text: string) => Number(text.trim().replace(',', '.'));

  function use(event: SubmitEvent) {
    event.preventDefault();
    const [mm, u] = [figure(known), figure(tolerance)];
    if (!line) return;
    if (!(mm > 0)) says = 'Enter the known length in millimetres, above 0.';
    else if (!(u >= 0)) says = 'Enter how sure the length is in millimetres, 0 or more.';
    else {
      // The tolerance is taken as the bounds of a rectangular distribution (GUM 4.3.7).
      edits.setScale(line, mm, u / Math.sqrt(3));
      says = '';
      known = '';
      line = null;
    }
  }
</script>

<section>
  <h2 class="heading mb-1">Scale in use</h2>
  {#if scale}
    <p class="text-title font-bold" data-testid="scale-words">
      {scale.mmPerPixelX.toPrecision(4)} mm a pixel
    </p>
    <p class="text-small text-ink-soft">± {plusMinus} %, from {scale.says}</p>
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
</section>
{#if mayChange}
  <section class="border-rule flex flex-col gap-2 border-t pt-3">
    <h2 class="heading">From a known length</h2>
    {#if line}
      <form onsubmit={use} class="flex flex-col gap-2">
        <label class="block"
          ><span class="text-small font-semibold">The line is, in mm</span>
          <!-- svelte-ignore a11y_autofocus -->
          <input
            bind:value={known}
            inputmode="decimal"
            autofocus
            class="border-rule bg-paper text-lead mt-0.5 min-h-11 w-full rounded-lg border px-3"
            data-testid="known-mm"
          />
        </label>
        <label class="block"
          ><span class="text-small font-semibold">give or take, in mm</span>
          <input
            bind:value={tolerance}
            inputmode="decimal"
            class="border-rule bg-paper text-lead mt-0.5 min-h-11 w-full rounded-lg border px-3"
          />
        </label>
        {#if says}<p role="alert" class="text-small text-brass font-semibold">{says}</p>{/if}
        <button class="button main" data-testid="use-scale">Use this scale</button>
        <button type="button" class="button" onclick={() => (line = null)}>Drop the line</button>
      </form>
    {:else if drawing}
      <p class="text-ink-soft">
        Drag from one end of the known length to the other, or press once at each end.
      </p>
    {:else}
      <button class="button main" onclick={ondraw} data-testid="draw-known"
        ><Waypoints size={18} aria-hidden="true" />Draw over a known length</button
      >
    {/if}
    {#if own}<button class="button" onclick={() => edits.dropScale()}>Back to the file’s own scale</button
      >{/if}
  </section>
{/if}
