<script lang="ts">
  import { Image as Frame, ImageOff } from '@lucide/svelte';
  import type { PictureView } from '$core/picture/pictureView';
  import { previewUrl } from './previewUrl';

  interface Props {
    picture: PictureView;
    alt?: string;
    /** Classes that give it its size. */
    frame?: string;
    lazy?: boolean;
  }
  let { picture, alt = '', frame = 'h-full w-full', lazy = false }: Props = $props();
  const url = $derived(previewUrl(picture));
  /** The address that has come; until then a frame says that a picture is here, and nothing is black. */
  let come = $state('');
  let failed = $state('');

  /** Listened to from here: a page made on the server may hold no code in its elements. */
  function watch(image: HTMLImageElement) {
    const arrived = () => (come = image.getAttribute('src') ?? '');
    const lost = () => (failed = image.getAttribute('src') ?? '');
    image.addEventListener('load', arrived);
    image.addEventListener('error', lost);
    if (image.complete) (image.naturalWidth > 0 ? arrived : lost)();
    return () => {
      image.removeEventListener('load', arrived);
      image.removeEventListener('error', lost);
    };
  }
</script>

<span class="relative block overflow-hidden {frame} {come ? 'bg-stage' : 'bg-well'}">
  {#if !come}
    <span class="text-ink-soft absolute inset-0 flex items-center justify-center" aria-hidden="true">
      {#if failed === url}<ImageOff size={22} />{:else}<Frame size={22} class="animate-pulse" />{/if}
    </span>
  {/if}
  <img
    src={url}
    {alt}
    class="absolute inset-0 h-full w-full object-contain {come ? '' : 'opacity-0'}"
    draggable="false"
    loading={lazy ? 'lazy' : 'eager'}
    data-testid="small"
    data-come={come === url ? 'yes' : 'no'}
    {@attach watch}
  />
</span>
