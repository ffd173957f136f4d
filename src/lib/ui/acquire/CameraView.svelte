<script lang="ts">
  import { onMount } from 'svelte';
  import { Camera as CameraIcon, Trash2, Video, X } from '@lucide/svelte';
  import type { PictureView } from '$core/picture/pictureView';
  import Select from '../kit/Select.svelte';
  import Small from '../pictures/Small.svelte';
  import type { Camera } from './camera.svelte';

  let { camera, pictures }: { camera: Camera; pictures: readonly PictureView[] } = $props();
  let video = $state<HTMLVideoElement>();
  const stills = $derived(
    camera.stills.flatMap((id) => pictures.find(({ pictureId }) => pictureId === id) ?? [])
  );
  const seeing = $derived(camera.stream !== null);

  $effect(() => {
    camera.video = video ?? null;
    if (video && video.srcObject !== camera.stream) video.srcObject = camera.stream;
  });
  onMount(() => () => camera.stop());
</script>

<!-- Looking at a still leaves the camera on behind it. -->
<div
  class="absolute inset-0 z-10 flex flex-col gap-3 rounded-2xl p-3 {camera.looking
    ? 'pointer-events-none justify-end'
    : 'bg-stage'}"
  data-testid="camera"
>
  {#if camera.problem}
    <div
      class="text-on-stage flex flex-1 flex-col items-center justify-center gap-2 text-center"
      role="alert"
    >
      <h2 class="text-title font-bold">{camera.problem.sentence}</h2>
      <p class="max-w-md">{camera.problem.next}</p>
      <button class="on-stage mt-2 px-4" onclick={() => void camera.begin()}>Open it again</button>
    </div>
  {/if}
  <div class="relative min-h-0 flex-1 {camera.looking || camera.problem ? 'hidden' : ''}">
    <video
      bind:this={video}
      class="absolute inset-0 h-full w-full rounded-xl object-contain"
      autoplay
      muted
      playsinline
      aria-label="What the camera sees now"
    ></video>
    {#if seeing}
      <p
        class="bg-coral text-on-fill absolute top-3 left-3 flex items-center gap-2 rounded-full px-3 py-1 font-bold"
      >
        <span class="size-2.5 animate-pulse rounded-full bg-current" aria-hidden="true"></span>Live
      </p>
    {:else}
      <p class="text-on-stage flex h-full items-center justify-center">Opening the camera.</p>
    {/if}
  </div>
  <div class="bg-stage pointer-events-auto flex items-center gap-3 rounded-xl">
    <ul class="flex min-w-0 flex-1 gap-2 overflow-x-auto p-1" aria-label="Stills of this sitting">
      <!-- The newest first: it is what one has just taken and looks for. -->
      {#each stills.toReversed() as still, i (still.pictureId)}
        <li class="relative shrink-0">
          <button
            class="ring-on-stage/40 block h-22 w-30 overflow-hidden rounded-md ring-1"
            onclick={() => camera.look(still.pictureId)}
            aria-label="Look at still {stills.length - i}"
            data-testid="still"><Small picture={still} /></button
          >
          <button
            class="on-stage absolute top-0 right-0 px-2.5!"
            onclick={() => camera.drop(still.pictureId)}
            aria-label="Drop still {stills.length - i}"
            data-testid="drop-still"><Trash2 size={18} aria-hidden="true" /></button
          >
        </li>
      {/each}
    </ul>
    {#if stills.length > 1}
      <button class="on-stage px-3" onclick={() => camera.dropAll()} data-testid="drop-all">Drop all</button>
    {/if}
    {#if camera.cameras.length > 1}
      <div class="w-44 shrink-0">
        <Select
          small
          label="Camera"
          testid="cameras"
          value={camera.chosen}
          options={camera.cameras.map(({ id, words }) => ({ value: id, words }))}
          onchange={(id) => void camera.start(id)}
        />
      </div>
    {/if}
    <button
      class="button main border-on-stage! text-lead min-h-14 px-5"
      onclick={() => void camera.still()}
      disabled={!camera.looking && !seeing}
      title="Space, Enter or the pedal"
      data-testid="take-still"
    >
      {#if camera.looking}<Video size={22} aria-hidden="true" />Back to live
      {:else}<CameraIcon size={22} aria-hidden="true" />Take a still{/if}
    </button>
    <button class="on-stage min-h-14! px-3" onclick={() => camera.close()} data-testid="close-camera"
      ><X size={20} aria-hidden="true" />Close</button
    >
  </div>
</div>
