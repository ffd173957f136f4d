<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { type KeptOf, viewOfKept } from '$core/picture/keptViews';
  import type { Point } from '$core/raster/orientation';
  import { fitted, toScreen } from '$core/raster/view';
  import { Viewport } from '../stage/viewport.svelte';
  import KeptDrawn from './KeptDrawn.svelte';

  interface Props {
    of: KeptOf;
    /** How wide and how high it may be, in screen pixels. */
    most: { width: number; height: number };
    alt: string;
  }
  let { of, most, alt }: Props = $props();
  const { picture, kept } = $derived(of);
  let canvas = $state<HTMLCanvasElement>();
  const viewport = new Viewport();
  const share = $derived(Math.min(most.width / kept.window.width, most.height / kept.window.height));
  const screen = $derived({
    width: Math.max(1, Math.round(kept.window.width * share)),
    height: Math.max(1, Math.round(kept.window.height * share))
  });
  const view = $derived(viewOfKept(kept, screen));
  const { look, orientation, frame } = $derived(kept);
  const sight = () => ({ picture, frame, view, look, orientation, screen });

  /** Words are laid out for a picture at least so wide or high, and drawn smaller with it. */
  const leastLaidOut = 460;
  const larger = $derived(Math.max(1, leastLaidOut / Math.max(screen.width, screen.height)));
  const big = $derived({ width: screen.width * larger, height: screen.height * larger });
  const onBig = $derived(viewOfKept(kept, big));
  const seen = (point: Point) => toScreen(point, onBig, { picture, orientation, screen: big });

  onMount(() => {
    void viewport.attach(canvas!).then(() => {
      // As fine as the part that is seen takes, which is finer than for the whole picture.
      const zoom = Math.max(view.zoom, fitted({ picture, orientation, screen }).zoom);
      void viewport.open(picture, frame, zoom, () => void viewport.draw(sight()), false);
    });
    return () => viewport.close();
  });
  $effect(() => {
    void [view, look, orientation, screen];
    untrack(() => viewport.drawSoon(sight));
  });
</script>

<div
  class="bg-stage relative overflow-hidden"
  style="width: {screen.width}px; height: {screen.height}px"
  role="img"
  aria-label={alt}
  data-testid="kept-picture"
  data-come={viewport.shown !== null}
>
  <canvas bind:this={canvas} class="absolute inset-0 h-full w-full" aria-hidden="true"></canvas>
  {#if kept.drawn}<KeptDrawn drawings={kept.drawings} {seen} size={big} />{/if}
  {#if viewport.message}<p class="text-small text-on-stage absolute inset-0 p-3">{viewport.message}</p>{/if}
</div>
