<script lang="ts">
  import type { NodeViewProps } from '@tiptap/core';
  import { NodeViewWrapper } from 'svelte-tiptap';
  import { type PicturePlace, captionMm, rowHeightMm, wantWords } from '$core/letter/letterPlace';
  import { insideMm } from '$core/print/paper';
  import {
    type Snapped,
    type SnapLine,
    keptInside,
    snapMoved,
    snapSized,
    stepMm
  } from '$core/letter/snapping';
  import { capital } from '../words';
  import type { LetterDesk } from './letterDesk.svelte';

  let { node, extension, selected }: NodeViewProps = $props();
  const desk = $derived((extension.options as { desk: LetterDesk }).desk);
  const kept = $derived(node.attrs.places as PicturePlace[]);
  /** While a place is moved it lies here, and in the letter once it is let go. */
  let moving = $state.raw<PicturePlace | null>(null);
  let lines = $state.raw<SnapLine[]>([]);
  const places = $derived(kept.map((place) => (place.id === moving?.id ? moving : place)));
  const heightMm = $derived(rowHeightMm(places));

  let row = $state<HTMLElement>();
  let pull: { place: PicturePlace; x: number; y: number; mmPx: number; sizing: boolean } | null = null;
  const othersOf = ({ id }: PicturePlace) => kept.filter((each) => each.id !== id);
  const put = (place: PicturePlace) => desk.changePlace(place.id, place);

  /** A row that is chosen could be carried off as a whole by the browser; its place is what is taken hold of. */
  function grab(event: MouseEvent & { currentTarget: HTMLElement }) {
    event.preventDefault();
    event.currentTarget.focus();
  }
  function begin(event: PointerEvent, place: PicturePlace, sizing: boolean) {
    if (!desk.mayWrite || event.button !== 0 || !row) return;
    event.stopPropagation();
    desk.selected = place.id;
    const mmPx = row.getBoundingClientRect().width / insideMm;
    pull = { place, x: event.clientX, y: event.clientY, mmPx, sizing };
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }
  function go(event: PointerEvent) {
    if (!pull) return;
    const { place, x, y, mmPx, sizing } = pull;
    const [dx, dy] = [(event.clientX - x) / mmPx, (event.clientY - y) / mmPx];
    const snapped: Snapped<PicturePlace> = sizing
      ? snapSized({ ...place, widthMm: place.widthMm + dx, heightMm: place.heightMm + dy }, othersOf(place))
      : snapMoved({ ...place, xMm: place.xMm + dx, yMm: place.yMm + dy }, othersOf(place));
    moving = snapped.place;
    lines = snapped.lines;
  }
  function end() {
    if (pull && moving) put(moving);
    stop();
  }
  function stop() {
    pull = moving = null;
    lines = [];
  }

  const ways: Record<string, [dx: number, dy: number]> = {
    ArrowLeft: [-stepMm, 0],
    ArrowRight: [stepMm, 0],
    ArrowUp: [0, -stepMm],
    ArrowDown: [0, stepMm]
  };
  /** Arrows move by a millimetre, with Shift by five; with Alt they size. */
  function onKey(event: KeyboardEvent, place: PicturePlace) {
    if (!desk.mayWrite) return;
    if (event.key === 'Escape' && pull) return stop();
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      desk.selected = place.id;
      return;
    }
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      return desk.changePlace(place.id, null);
    }
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    const [dx, dy] = way.map((each) => each * (event.shiftKey ? 5 : 1));
    desk.selected = place.id;
    // Keys say exactly how far: nothing pulls it aside.
    put(
      keptInside(
        event.altKey
          ? { ...place, widthMm: place.widthMm + dx, heightMm: place.heightMm + dy }
          : { ...place, xMm: place.xMm + dx, yMm: place.yMm + dy }
      )
    );
  }
  const mm = (value: number) => `calc(var(--mm) * ${value})`;
</script>

<NodeViewWrapper
  class="relative my-[calc(var(--mm)*2)] {selected ? 'outline-coral rounded-sm outline-2' : ''}"
  data-testid="picture-row"
>
  <div bind:this={row} class="relative w-full" style:height={mm(heightMm)}>
    {#each places as place (place.id)}
      {@const filled = desk.filling?.places[place.id] ?? null}
      {@const said = capital(wantWords(place.want, desk.placeWords))}
      {@const number = desk.numberOf(place.id)}
      {@const isSelected = desk.selected === place.id}
      <div
        class="absolute touch-none select-none {desk.mayWrite ? 'cursor-move' : ''}"
        style:left={mm(place.xMm)}
        style:top={mm(place.yMm)}
        style:width={mm(place.widthMm)}
        style:height={mm(place.heightMm)}
        data-place={place.id}
        data-filled={filled ? 'yes' : 'no'}
        role="button"
        tabindex="0"
        aria-pressed={isSelected}
        aria-label="Picture {number}, {said}, {Math.round(place.widthMm)} by {Math.round(
          place.heightMm
        )} mm{desk.filling ? (filled ? `: ${filled.name}` : ': empty') : ''}"
        onmousedown={grab}
        onpointerdown={(event) => begin(event, place, false)}
        onpointermove={go}
        onpointerup={end}
        onpointercancel={stop}
        onclick={() => (desk.selected = place.id)}
        onkeydown={(event) => onKey(event, place)}
      >
        <div
          class="flex h-full w-full items-center justify-center overflow-hidden rounded-sm border-2 {filled
            ? ''
            : desk.filling
              ? 'bg-brass-wash text-brass border-dashed'
              : 'bg-tray border-dashed'} {isSelected
            ? 'border-coral'
            : filled
              ? 'border-transparent'
              : desk.filling
                ? 'border-brass'
                : 'border-ink-soft'}"
        >
          {#if filled}
            <img src={filled.preview} alt="" class="h-full w-full object-contain" draggable="false" />
          {:else}
            <span class="text-small p-1 text-center leading-tight"
              ><strong>{number}</strong><br />{desk.filling ? 'Empty' : said}</span
            >
          {/if}
        </div>
        {#if isSelected && desk.mayWrite}
          <span
            class="bg-coral text-on-fill text-small pointer-events-none absolute top-1 left-1 rounded-sm px-1 font-semibold tabular-nums"
            >{Math.round(place.widthMm)} × {Math.round(place.heightMm)} mm</span
          >
          <span
            class="border-sheet bg-coral absolute -right-2.5 -bottom-2.5 size-5 cursor-nwse-resize touch-none rounded-full border-2 after:absolute after:-inset-3"
            data-testid="place-size"
            role="presentation"
            onpointerdown={(event) => begin(event, place, true)}
            onpointermove={go}
            onpointerup={end}
            onpointercancel={stop}
          ></span>
        {/if}
      </div>
      <p
        class="text-ink-soft pointer-events-none absolute overflow-hidden leading-tight"
        style:left={mm(place.xMm)}
        style:top={mm(place.yMm + place.heightMm + 1)}
        style:width={mm(place.widthMm)}
        style:height={mm(captionMm - 1)}
        style:font-size={mm(3)}
      >
        {place.caption || filled?.caption || (desk.filling ? '' : 'Its name and its day')}
      </p>
    {/each}
    {#each lines as { way, atMm }, i (i)}
      <span
        class="bg-coral pointer-events-none absolute {way === 'upright'
          ? 'top-0 h-full w-px'
          : 'left-0 h-px w-full'}"
        style:left={way === 'upright' ? mm(atMm) : undefined}
        style:top={way === 'across' ? mm(atMm) : undefined}
        data-testid="snap-line"
      ></span>
    {/each}
  </div>
</NodeViewWrapper>
