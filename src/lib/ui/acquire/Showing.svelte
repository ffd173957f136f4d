<script lang="ts">
  import { ChevronLeft, ChevronRight, X } from '@lucide/svelte';
  import { onMount } from 'svelte';
  import { type PictureView, lookOf, orientationOf, partOf, pictureName } from '$core/picture/pictureView';
  import { previewUrl } from '../pictures/previewUrl';
  import Stage from '../stage/Stage.svelte';

  /** The series as it is shown to the patient: one picture over the whole window, nothing to press by mistake. */
  interface Props {
    pictures: readonly PictureView[];
    /** What is said about each, where the story says something. */
    words?: readonly string[];
    onclose: () => void;
  }
  let { pictures, words = [], onclose }: Props = $props();
  let at = $state(0);
  const picture = $derived(pictures[Math.min(at, pictures.length - 1)]);
  let close = $state<HTMLButtonElement>();
  onMount(() => close?.focus());
  const go = (by: number) => (at = Math.max(0, Math.min(pictures.length - 1, at + by)));

  function onKey(event: KeyboardEvent) {
    if (event.key === 'ArrowRight' || event.key === 'PageDown') go(1);
    else if (event.key === 'ArrowLeft' || event.key === 'PageUp') go(-1);
    else if (event.key === 'Home') at = 0;
    else if (event.key === 'End') at = pictures.length - 1;
    else if (event.key === 'Escape') onclose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<svelte:window onkeydowncapture={onKey} />

<div
  class="bg-stage fixed inset-0 z-40 flex flex-col"
  role="dialog"
  aria-modal="true"
  aria-label="The series, shown"
  data-testid="showing"
>
  <div class="min-h-0 flex-1">
    {#key at}
      <Stage
        {picture}
        look={lookOf(picture)}
        orientation={orientationOf(picture)}
        part={partOf(picture)}
        preview={previewUrl(picture)}
        label="Picture: {pictureName(picture)}"
      />
    {/key}
  </div>
  <div class="text-on-stage flex items-center gap-3 px-4 py-3">
    <button
      class="button border-stage-edge bg-stage text-on-stage hover:bg-stage-edge!"
      onclick={() => go(-1)}
      disabled={at === 0}
      aria-label="The one before"><ChevronLeft size={22} aria-hidden="true" /></button
    >
    <p class="text-title min-w-0 flex-1 text-center font-bold" aria-live="polite">
      {pictureName(picture)}
      {#if words[at]}<span class="text-body font-normal">{words[at]} ·</span>{/if}
      <span class="text-body font-normal">{at + 1} of {pictures.length}</span>
    </p>
    <button
      class="button border-stage-edge bg-stage text-on-stage hover:bg-stage-edge!"
      onclick={() => go(1)}
      disabled={at === pictures.length - 1}
      aria-label="The next"><ChevronRight size={22} aria-hidden="true" /></button
    >
    <button
      bind:this={close}
      class="button border-stage-edge bg-stage text-on-stage hover:bg-stage-edge!"
      onclick={onclose}><X size={20} aria-hidden="true" />Back to the chair</button
    >
  </div>
</div>
