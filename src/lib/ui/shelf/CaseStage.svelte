<script lang="ts">
  import { Minus, Pause, Play, Plus } from '@lucide/svelte';
  import type { CaseEntry } from '$core/shelf/teachingCase';
  import Slider from '../kit/Slider.svelte';
  import Tooltip from '../kit/Tooltip.svelte';

  interface Props {
    caseId: string;
    entry: CaseEntry;
    /** Whether what was drawn on it is seen. */
    drawn: boolean;
  }
  let { caseId, entry, drawn }: Props = $props();

  let frame = $state(0);
  let zoom = $state(1);
  let shift = $state({ x: 0, y: 0 });
  let bright = $state(100);
  let contrast = $state(100);
  let playing = $state(false);
  let box = $state<HTMLElement>();
  const frames = $derived(entry.plain.length);
  const file = $derived((drawn && entry.drawn[frame]) || entry.plain[frame]);
  const mostZoom = 12;

  $effect(() => {
    void entry.entryId;
    frame = 0;
    whole();
    playing = false;
  });
  $effect(() => {
    if (!playing || frames < 2) return;
    const timer = setInterval(() => (frame = (frame + 1) % frames), entry.frameMs ?? 100);
    return () => clearInterval(timer);
  });

  export function whole(): void {
    zoom = 1;
    shift = { x: 0, y: 0 };
  }
  /** Nearer or farther about a point of the stage, measured from its middle. */
  export function zoomBy(by: number, at = { x: 0, y: 0 }): void {
    const next = Math.min(mostZoom, Math.max(1, zoom * by));
    const ratio = next / zoom;
    shift =
      next === 1
        ? { x: 0, y: 0 }
        : { x: at.x - (at.x - shift.x) * ratio, y: at.y - (at.y - shift.y) * ratio };
    zoom = next;
  }
  export function step(by: number): void {
    if (frames > 1) frame = (frame + by + frames) % frames;
  }
  const middle = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const { left, top, width, height } = box!.getBoundingClientRect();
    return { x: clientX - left - width / 2, y: clientY - top - height / 2 };
  };

  const held = new Map<number, { x: number; y: number }>();
  function press(event: PointerEvent) {
    box!.setPointerCapture(event.pointerId);
    held.set(event.pointerId, middle(event));
  }
  function move(event: PointerEvent) {
    const before = held.get(event.pointerId);
    if (!before) return;
    const now = middle(event);
    const [other] = [...held].filter(([id]) => id !== event.pointerId).map(([, at]) => at);
    if (other) {
      const apart = (at: { x: number; y: number }) => Math.hypot(at.x - other.x, at.y - other.y);
      if (apart(before) > 0) zoomBy(apart(now) / apart(before), other);
    } else if (zoom > 1) shift = { x: shift.x + now.x - before.x, y: shift.y + now.y - before.y };
    held.set(event.pointerId, now);
  }
  const release = (event: PointerEvent) => held.delete(event.pointerId);
  function wheel(node: HTMLElement) {
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      zoomBy(event.deltaY < 0 ? 1.15 : 1 / 1.15, middle(event));
    };
    node.addEventListener('wheel', turn, { passive: false });
    return () => node.removeEventListener('wheel', turn);
  }
</script>

<div class="bg-stage flex min-h-0 flex-1 flex-col overflow-hidden rounded-lg">
  <div
    bind:this={box}
    class="relative min-h-0 flex-1 touch-none overflow-hidden {zoom > 1 ? 'cursor-grab' : ''}"
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
        style="transform:translate({shift.x}px,{shift.y}px) scale({zoom});filter:brightness({bright}%) contrast({contrast}%)"
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
      <span class="w-12 text-center">{Math.round(zoom * 100)} %</span>
      <Tooltip
        words="Nearer"
        key="+"
        button="flex size-11 items-center justify-center"
        onclick={() => zoomBy(1.4)}><Plus size={18} aria-hidden="true" /></Tooltip
      >
    </span>
  </div>
</div>
