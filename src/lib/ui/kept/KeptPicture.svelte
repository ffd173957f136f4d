<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { linesSeen, pathSeen } from '$core/picture/drawnPaths';
  import { type KeptOf, viewOfKept } from '$core/picture/keptViews';
  import type { Point } from '$core/raster/orientation';
  import { fitted, toScreen } from '$core/raster/view';
  import Line from '../stage/Line.svelte';
  import { Viewport } from '../stage/viewport.svelte';
  import Words from '../stage/Words.svelte';
  import { wordsPlaces } from '$core/picture/wordsPlace';

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
  const laidOut = $derived.by(() => {
    const big = { width: screen.width * larger, height: screen.height * larger };
    const onBig = viewOfKept(kept, big);
    const seen = (point: Point) => toScreen(point, onBig, { picture, orientation, screen: big });
    const drawn = kept.drawings.map(({ shapes, wordsAt, words }) => ({
      paths: shapes.map((shape) => ({ d: pathSeen(shape, seen), dashed: shape.dashed === true })),
      at: seen(wordsAt),
      lines: linesSeen(shapes, seen),
      words
    }));
    const places = wordsPlaces(drawn, big);
    return { big, drawn: drawn.map((each, i) => ({ ...each, place: places[i] })) };
  });

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
  {#if kept.drawn}
    <svg
      class="pointer-events-none absolute inset-0 h-full w-full"
      viewBox="0 0 {laidOut.big.width} {laidOut.big.height}"
      aria-hidden="true"
    >
      {#each laidOut.drawn as { paths, words, place }, i (i)}
        {#each paths as { d, dashed }, k (k)}<Line {d} {dashed} />{/each}
        {#if words}<Words {...place} {words} />{/if}
      {/each}
    </svg>
  {/if}
  {#if viewport.message}<p class="text-small text-on-stage absolute inset-0 p-3">{viewport.message}</p>{/if}
</div>
