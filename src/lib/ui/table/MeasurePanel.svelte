<script lang="ts">
  import { Ruler, Trash2 } from '@lucide/svelte';
  import { inWords } from '$core/measurement/length';
  import type { PictureView } from '$core/picture/pictureView';
  import type { Edits } from './edits.svelte';

  interface Props {
    picture: PictureView;
    edits: Edits;
    mayChange: boolean;
    lit: string | null;
    drawing: boolean;
    ondraw: () => void;
  }
  let { picture, edits, mayChange, lit = $bindable(), drawing, ondraw }: Props = $props();
  const scale = $derived(edits.scale);
</script>

<section class="flex min-h-0 flex-1 flex-col gap-2">
  <h2 class="heading">Readings</h2>
  <ul class="flex flex-col gap-1.5">
    {#each edits.readings as reading, i (reading.id)}
      <li
        class="flex items-center gap-2 rounded-lg border pl-3 {lit === reading.id
          ? 'border-coral bg-coral-wash'
          : 'border-rule'}"
        onpointerenter={() => (lit = reading.id)}
        onpointerleave={() => (lit = null)}
      >
        <span class="min-w-0 flex-1">
          <span class="text-small text-ink-soft block">Length {i + 1}</span>
          <span class="text-lead block font-bold" data-testid="reading">{inWords(reading.measured)}</span>
        </span>
        {#if mayChange}
          <button
            class="flex size-11 items-center justify-center"
            onclick={() => edits.removeLength(reading.id)}
            aria-label="Remove length {i + 1}"
          >
            <Trash2 size={18} aria-hidden="true" />
          </button>
        {/if}
      </li>
    {:else}
      <li class="text-ink-soft">
        {drawing ? 'Drag from one end to the other, or press once at each end.' : 'No length yet.'}
      </li>
    {/each}
  </ul>
  {#if mayChange && !drawing}
    <button class="button main" onclick={ondraw}
      ><Ruler size={18} aria-hidden="true" />Measure a length</button
    >
  {/if}
</section>
<section class="border-rule text-small text-ink-soft border-t pt-3">
  {#if scale}
    <p>
      ± is two standard uncertainties: the scale’s and that of placing the ends at the zoom they were placed
      at.
    </p>
    <p class="mt-1.5">Scale: {scale.says}.</p>
    {#if scale.source === 'detector'}
      <p class="text-brass mt-1.5 font-semibold">
        Lengths are at the detector; magnification is not in the ±. A known length in the picture mends that.
      </p>
    {/if}
  {:else}
    <p class="text-brass font-semibold">This picture has no scale, so lengths are in pixels.</p>
  {/if}
  {#if picture.scale === null && mayChange}<p class="mt-1.5">Give it one at the Scale station.</p>{/if}
</section>
