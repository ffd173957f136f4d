<script lang="ts">
  import { type Place, placeKey, placeWords, showPlaces } from '$core/anatomy/place';
  import type { Notation } from '$core/anatomy/teeth';
  import { countWords } from '../words';
  import type { BodyDrawing, Spot } from '$core/body/drawing';
  import { crownPath } from '$core/body/drawings';

  interface Props {
    drawing: BodyDrawing;
    notation: Notation;
    /** How many pictures each place has, by its key. */
    counts: Record<string, number>;
    /** Keys of the places that are chosen, and of those that are proposed. */
    chosen: readonly string[];
    offered: readonly string[];
    label: string;
    /** When the newest picture of each place was taken: older ones are paler. */
    newest?: Record<string, string>;
    onchoose?: (place: Place) => void;
    /** Several at once: those that a stroke goes over, or that a word on the drawing stands for. */
    onpick?: (places: readonly Place[], on: boolean) => void;
  }
  let { drawing, notation, counts, chosen, offered, label, newest = {}, onchoose, onpick }: Props = $props();
  /** The spot that is pointed at: it is named under the drawing. */
  let pointed = $state<Place | null>(null);

  /** How large the drawing may be on the page; nothing until it is there. */
  let room = $state({ width: 0, height: 0 });
  const readablePx = 12.5;
  /** Letters larger than this, in the drawing's own units, would run into one another. */
  const mostLetters = 15.5;
  const lettersIn = $derived.by(() => {
    const scale = Math.min(room.width / drawing.width, room.height / drawing.height);
    return scale > 0 ? Math.min(mostLetters, readablePx / scale) : readablePx;
  });

  const yearMs = 365.25 * 86_400_000;
  const now = Date.now();
  /** How strongly a place with pictures is filled: of this year whole, then ever paler. */
  function strengthOf(key: string): number {
    const at = newest[key];
    if (!at) return 1;
    const years = (now - Date.parse(at)) / yearMs;
    return years < 1 ? 1 : years < 3 ? 0.6 : 0.3;
  }

  /** What one stroke has gone over by now, and whether it picks or drops. */
  let stroke: { keys: Set<string>; on: boolean; first: Place } | null = null;
  /** A stroke ends on a place without pressing it. */
  let stroked = false;
  const spotAt = (x: number, y: number) => {
    const key = document.elementFromPoint(x, y)?.closest<SVGElement>('[data-place]')?.dataset.place;
    return drawing.spots.find(({ place }) => placeKey(place) === key)?.place;
  };
  function begin(event: PointerEvent) {
    stroked = false;
    const first = onpick && spotAt(event.clientX, event.clientY);
    if (first) stroke = { keys: new Set([placeKey(first)]), on: !chosen.includes(placeKey(first)), first };
  }
  function go(event: PointerEvent) {
    if (!stroke || event.buttons === 0) return;
    const place = spotAt(event.clientX, event.clientY);
    if (!place || stroke.keys.has(placeKey(place))) return;
    if (!stroked) onpick?.([stroke.first], stroke.on);
    stroked = true;
    stroke.keys.add(placeKey(place));
    onpick?.([place], stroke.on);
  }
  const end = () => (stroke = null);
  function press(place: Place) {
    if (!stroked) onchoose?.(place);
    stroked = false;
  }
  const allChosen = (places: readonly Place[]) => places.every((place) => chosen.includes(placeKey(place)));

  const leastTargetPx = 22;
  const labelOf = (place: Place, count: number) =>
    `${place.kind === 'tooth' ? `${showPlaces([place], notation)}, ` : ''}${placeWords(place, notation)}, ${
      count === 0 ? 'no picture' : countWords(count, 'picture', 'pictures')
    }`;
</script>

{#snippet seen(spot: Spot, count: number, isChosen: boolean, isOffered: boolean)}
  {@const tone = isChosen
    ? 'fill-ink stroke-ink'
    : count > 0
      ? 'fill-lagoon-wash stroke-lagoon'
      : 'fill-sheet stroke-ink-soft/70'}
  {@const strong = isChosen || count > 0}
  <g transform="translate({spot.x} {spot.y}) rotate({spot.turnDeg})">
    {#if spot.shape === 'crown'}
      <path
        d={crownPath(spot.width, spot.height)}
        class={tone}
        fill-opacity={isChosen || count === 0 ? 1 : strengthOf(placeKey(spot.place))}
        stroke-width={strong ? 2 : 1.2}
        stroke-dasharray={isOffered && !isChosen ? '4 3' : undefined}
      />
    {:else}
      <rect
        x={-spot.width / 2}
        y={-spot.height / 2}
        width={spot.width}
        height={spot.height}
        rx={Math.min(spot.width, spot.height) / 2}
        class={tone}
        fill-opacity={isChosen ? 1 : strong ? strengthOf(placeKey(spot.place)) : 0.55}
        stroke-width={strong ? 2 : 1.2}
        stroke-dasharray={isOffered && !isChosen ? '4 3' : undefined}
      />
    {/if}
  </g>
  {#if count > 0}
    <text
      x={spot.x}
      y={spot.y + 4.5}
      text-anchor="middle"
      class="font-bold {isChosen ? 'fill-paper' : 'fill-lagoon'}">{count}</text
    >
  {/if}
  {#if spot.label && !(count > 0 && spot.label.x === spot.x && spot.label.y === spot.y)}
    <text
      x={spot.label.x}
      y={spot.label.y + 4.5}
      text-anchor="middle"
      class="{strong ? 'font-bold' : ''} {isChosen && spot.label.x === spot.x && spot.label.y === spot.y
        ? 'fill-paper'
        : strong
          ? 'fill-ink'
          : 'fill-ink-soft'}">{showPlaces([spot.place], notation)}</text
    >
  {/if}
{/snippet}

<!-- What is pointed at is named below the drawing, never over it. -->
<div
  class="relative h-full w-full {onchoose ? 'pb-7' : ''}"
  bind:clientWidth={room.width}
  bind:clientHeight={room.height}
>
  <svg
    viewBox="0 0 {drawing.width} {drawing.height}"
    class="h-full w-full {onpick ? 'touch-none select-none' : ''}"
    style="font-size: {lettersIn}px"
    onpointerdown={begin}
    onpointermove={go}
    onpointerup={end}
    onpointercancel={end}
    role="group"
    aria-label={label}
  >
    {#each drawing.outline as { path, stroke }, i (i)}
      <path
        d={path}
        class={stroke > 1 ? 'stroke-tray fill-none' : stroke > 0 ? 'stroke-rule fill-none' : 'fill-tray'}
        stroke-width={stroke || undefined}
        stroke-linecap="round"
        stroke-linejoin="round"
      />
    {/each}
    {#each drawing.words as { text, x, y, picks } (text)}
      {#if picks && onpick}
        {@const all = allChosen(picks.places)}
        <g
          role="button"
          tabindex="0"
          aria-label={picks.words}
          aria-pressed={all}
          class="cursor-pointer"
          onclick={() => onpick(picks.places, !all)}
          onkeydown={(event) => {
            if (event.key !== ' ' && event.key !== 'Enter') return;
            event.preventDefault();
            onpick(picks.places, !all);
          }}
          data-testid="pick-{text}"
        >
          <rect x={x - 32} y={y - 19} width="64" height="28" rx="14" class={all ? 'fill-ink' : 'fill-tray'} />
          <text {x} {y} text-anchor="middle" class={all ? 'fill-paper' : 'fill-ink'}>{text}</text>
        </g>
      {:else}<text {x} {y} text-anchor="middle" class="fill-ink-soft">{text}</text>{/if}
    {/each}
    {#each drawing.spots as spot (placeKey(spot.place))}
      {@const key = placeKey(spot.place)}
      {@const count = counts[key] ?? 0}
      {@const isChosen = chosen.includes(key)}
      {#if onchoose}
        <g
          role="checkbox"
          aria-checked={isChosen}
          aria-label={labelOf(spot.place, count)}
          tabindex="0"
          class="cursor-pointer"
          data-place={key}
          onclick={() => press(spot.place)}
          onkeydown={(event) => {
            if (event.key !== ' ' && event.key !== 'Enter') return;
            event.preventDefault();
            onchoose(spot.place);
          }}
          onpointerenter={() => (pointed = spot.place)}
          onpointerleave={() => (pointed = null)}
          onfocus={() => (pointed = spot.place)}
          onblur={() => (pointed = null)}
        >
          {#if spot.shape === 'crown' && spot.label}
            <circle
              cx={(spot.x + spot.label.x) / 2}
              cy={(spot.y + spot.label.y) / 2}
              r={leastTargetPx}
              fill="transparent"
            />
          {/if}
          {@render seen(spot, count, isChosen, offered.includes(key))}
        </g>
      {:else}
        <g role="img" aria-label={labelOf(spot.place, count)} data-place={key}>
          {@render seen(spot, count, isChosen, offered.includes(key))}
        </g>
      {/if}
    {/each}
  </svg>
  {#if pointed}
    <p
      class="bg-ink text-paper text-small pointer-events-none absolute bottom-0 left-1/2 -translate-x-1/2 rounded-full px-3 py-0.5 font-semibold whitespace-nowrap"
      aria-hidden="true"
    >
      {placeWords(pointed, notation)}
    </p>
  {/if}
</div>
