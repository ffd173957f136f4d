<script lang="ts">
  import { Minus, Pause, Play, Plus } from '@lucide/svelte';
  import { type Point, upright } from '$core/raster/orientation';
  import { type Stage, type View, panned, zoomedAbout } from '$core/raster/view';
  import type { CaseEntry } from '$core/shelf/teachingCase';
  import Slider from '../kit/Slider.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { pinched } from '../stage/tools/pinch';

  interface Props {
    caseId: string;
    entry: CaseEntry;
    /** Whether what was drawn on it is seen. */
    drawn: boolean;
  }
  let { caseId, entry, drawn }: Props = $props();

  let frame = $state(0);
  /** Its pixels are those of the stage: at 1 the picture fits into it. */
  let view = $state.raw<View>({ center: { x: 0, y: 0 }, zoom: 1 });
  let screen = $state.raw({ width: 1, height: 1 });
  let bright = $state(100);
  let contrast = $state(100);
  let playing = $state(false);
  let box = $state<HTMLElement>();
  const frames = $derived(entry.plain.length);
  const file = $derived((drawn && entry.drawn[frame]) || entry.plain[frame]);
  const mostZoom = 12;
  const stage = $derived<Stage>({ picture: screen, orientation: upright, screen });
  const middle = (): Point => ({ x: screen.width / 2, y: screen.height / 2 });
  /** Never farther than all of it, and then in the middle. */
  function look(next: View) {
    const zoom = Math.min(mostZoom, Math.max(1, next.zoom));
    view = zoom === 1 ? { center: middle(), zoom } : { ...next, zoom };
  }

  $effect(() => {
    void entry.entryId;
    frame = 0;
    whole();
    playing = false;
  });
  /** Frames that come next are fetched before they are seen. */
  const ahead = 8;
  $effect(() => {
    for (let i = 1; i <= Math.min(ahead, frames - 1); i++)
      new Image().src = `/api/cases/${caseId}/files/${entry.plain[(frame + i) % frames]}`;
  });
  $effect(() => {
    if (!playing || frames < 2) return;
    const timer = setInterval(() => (frame = (frame + 1) % frames), entry.frameMs ?? 100);
    return () => clearInterval(timer);
  });

  export function whole(): void {
    look({ center: middle(), zoom: 1 });
  }
  /** Nearer or farther about a point of the stage; about its middle where none is named. */
  export function zoomBy(by: number, at = middle()): void {
    look(zoomedAbout(view, at, by, screen));
  }
  export function step(by: number): void {
    if (frames > 1) frame = (frame + by + frames) % frames;
  }
  function sized(size: { width: number; height: number }) {
    screen = size;
    whole();
  }
  const at = ({ clientX, clientY }: { clientX: number; clientY: number }): Point => {
    const { left, top } = box!.getBoundingClientRect();
    return { x: clientX - left, y: clientY - top };
  };

  const fingers = new Map<number, Point>();
  function press(event: PointerEvent) {
    box!.setPointerCapture(event.pointerId);
    fingers.set(event.pointerId, at(event));
  }
  function move(event: PointerEvent) {
    const before = fingers.get(event.pointerId);
    if (!before) return;
    const now = at(event);
    look(
      fingers.size > 1
        ? pinched(fingers, event.pointerId, now, { view, stage })
        : panned(view, now.x - before.x, now.y - before.y)
    );
    fingers.set(event.pointerId, now);
  }
  const release = (event: PointerEvent) => fingers.delete(event.pointerId);
  function wheel(node: HTMLElement) {
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      zoomBy(event.deltaY < 0 ? 1.15 : 1 / 1.15, at(event));
    };
    node.addEventListener('wheel', turn, { passive: false });
    return () => node.removeEventListener('wheel', turn);
  }
</script>

<div class="bg-stage flex min-h-0 flex-1 flex-col overflow-hidden rounded-lg">
  <div
    bind:this={box}
    bind:clientWidth={() => screen.width, (width) => sized({ ...screen, width: width ?? 1 })}
    bind:clientHeight={() => screen.height, (height) => sized({ ...screen, height: height ?? 1 })}
    class="relative min-h-0 flex-1 touch-none overflow-hidden {view.zoom > 1 ? 'cursor-grab' : ''}"
    role="img"
    aria-label="{entry.title}{entry.place ? `, ${entry.place}` : ''}{drawn && entry.drawn.length > 0
      ? ', with what was drawn on it'
      : ''}"
    onpointerdown={press}
    onpointermove={move}
    onpointerup={release}
    onpointercancel={release}
    {@attach wheel}
    data-testid="case-picture"
    data-file={file}
  >
    {#if file}
      <img
        src="/api/cases/{caseId}/files/{file}"
        alt=""
        draggable="false"
        class="pointer-events-none absolute inset-0 h-full w-full object-contain"
        style="transform:translate({(screen.width / 2 - view.center.x) * view.zoom}px,{(screen.height / 2 -
          view.center.y) *
          view.zoom}px) scale({view.zoom});filter:brightness({bright}%) contrast({contrast}%)"
      />
    {/if}
  </div>
  <div
    class="border-stage-edge text-on-stage text-small flex flex-wrap items-center gap-x-4 gap-y-1 border-t px-3 py-1"
  >
    {#if frames > 1}
      <Tooltip
        words={playing ? 'Stop' : 'Play'}
        button="flex size-11 items-center justify-center rounded-lg"
        onclick={() => (playing = !playing)}
        >{#if playing}<Pause size={18} aria-hidden="true" />{:else}<Play
            size={18}
            aria-hidden="true"
          />{/if}</Tooltip
      >
      <span class="w-40"><Slider bind:value={frame} label="Frame" least={0} most={frames - 1} /></span>
      <span>{frame + 1} of {frames}</span>
    {/if}
    <span class="flex items-center gap-2"
      >Brightness <span class="w-24"
        ><Slider bind:value={bright} label="Brightness" least={40} most={220} step={5} /></span
      ></span
    >
    <span class="flex items-center gap-2"
      >Contrast <span class="w-24"
        ><Slider bind:value={contrast} label="Contrast" least={40} most={260} step={5} /></span
      ></span
    >
    <span class="ml-auto flex items-center">
      <Tooltip
        words="Farther"
        key="-"
        button="flex size-11 items-center justify-center"
        onclick={() => zoomBy(1 / 1.4)}><Minus size={18} aria-hidden="true" /></Tooltip
      >
      <span class="w-12 text-center">{Math.round(view.zoom * 100)} %</span>
      <Tooltip
        words="Nearer"
        key="+"
        button="flex size-11 items-center justify-center"
        onclick={() => zoomBy(1.4)}><Plus size={18} aria-hidden="true" /></Tooltip
      >
    </span>
  </div>
</div>
