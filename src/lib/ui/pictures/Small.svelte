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
  /** The address that is asked for again. */
  let missing = $state('');
  let failed = $state('');

  /** One that is still being made, or that the network lost, is asked for again: soon at first, then ever more seldom. */
  const firstAgainMs = 700;
  const lastAgainMs = 20_000;
  /** So often it is not said that it failed. */
  const patientTries = 5;

  /** Listened to from here: a page made on the server may hold no code in its elements. */
  function watch(image: HTMLImageElement) {
    let [tries, triedUrl] = [0, ''];
    let again: ReturnType<typeof setTimeout> | undefined;
    const src = () => image.getAttribute('src') ?? '';
    const arrived = () => {
      clearTimeout(again);
      come = src();
      missing = failed = '';
    };
    const lost = () => {
      const of = (missing = src());
      tries = of === triedUrl ? tries + 1 : 1;
      triedUrl = of;
      if (tries > patientTries) failed = of;
      clearTimeout(again);
      const pause = Math.min(lastAgainMs, firstAgainMs * 2 ** Math.max(0, tries - patientTries));
      again = setTimeout(() => {
        if (src() === of) image.setAttribute('src', of);
      }, pause);
    };
    image.addEventListener('load', arrived);
    image.addEventListener('error', lost);
    if (image.complete) (image.naturalWidth > 0 ? arrived : lost)();
    return () => {
      clearTimeout(again);
      image.removeEventListener('load', arrived);
      image.removeEventListener('error', lost);
    };
  }
</script>

<span class="relative block overflow-hidden {frame} {come && missing !== url ? 'bg-stage' : 'bg-well'}">
  {#if !come || missing === url}
    <span class="text-ink-soft absolute inset-0 flex items-center justify-center" aria-hidden="true">
      {#if failed === url}<ImageOff size={22} />{:else}<Frame size={22} class="animate-pulse" />{/if}
    </span>
  {/if}
  <img
    src={url}
    {alt}
    class="absolute inset-0 h-full w-full object-contain {missing === url ? 'opacity-0' : ''}"
    draggable="false"
    loading={lazy ? 'lazy' : 'eager'}
    data-testid="small"
    data-come={come === url ? 'yes' : 'no'}
    {@attach watch}
  />
</span>
