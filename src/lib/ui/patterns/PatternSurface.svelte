<script lang="ts">
  import type { Notation } from '$core/anatomy/teeth';
  import { showPlaces } from '$core/anatomy/place';
  import { layWells } from '$core/tray/layout';
  import { routePath } from '../tray/routePath';
  import type { PatternDraft } from './draft.svelte';

  interface Props {
    draft: PatternDraft;
    notation: Notation;
    /** Wells are moved, or the thread is pulled through them. */
    mode: 'arrange' | 'thread';
    disabled: boolean;
  }
  let { draft, notation, mode, disabled }: Props = $props();
  let width = $state(0);
  let height = $state(0);
  let box = $state<HTMLDivElement>();
  let held = $state<{ id: string; dx: number; dy: number } | null>(null);
  let pulling = $state(false);
  let tip = $state<{ x: number; y: number } | null>(null);
  const frames = $derived(layWells(draft.slots, { width, height }));
  const frameOf = (id: string) => frames[draft.slots.findIndex((slot) => slot.id === id)];
  const path = $derived(routePath(draft.order.flatMap((id) => frameOf(id) ?? [])));
  const end = $derived(draft.order.length > 0 ? frameOf(draft.order.at(-1)!) : null);

  const pointIn = (event: PointerEvent) => {
    const { left, top } = box!.getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  };
  const wellAt = ({ x, y }: { x: number; y: number }) =>
    draft.slots.find((_, i) => {
      const frame = frames[i];
      return (
        x >= frame.left && x <= frame.left + frame.width && y >= frame.top && y <= frame.top + frame.height
      );
    });

  function down(event: PointerEvent) {
    if (disabled || event.button !== 0) return;
    const at = pointIn(event);
    const slot = wellAt(at);
    if (!slot) {
      draft.chosenId = null;
      return;
    }
    box!.setPointerCapture(event.pointerId);
    if (mode === 'thread') {
      // A thread that is whole is pulled out before a new one is begun.
      if (draft.unthreaded.length === 0) draft.pullOut();
      draft.thread(slot.id);
      pulling = true;
      return;
    }
    draft.chosenId = slot.id;
    const frame = frameOf(slot.id);
    held = { id: slot.id, dx: at.x - (frame.left + frame.width / 2), dy: at.y - frame.top };
  }
  function over(event: PointerEvent) {
    const at = pointIn(event);
    if (pulling) {
      tip = at;
      const slot = wellAt(at);
      if (slot) draft.thread(slot.id);
    } else if (held) {
      const frame = frameOf(held.id);
      const room = Math.max(1, height - frame.height - 20);
      draft.move(held.id, { x: (at.x - held.dx) / width, y: (at.y - held.dy - 10) / room });
    }
  }
  function up() {
    held = null;
    pulling = false;
    tip = null;
  }

  const nudges: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -2],
    ArrowDown: [0, 2]
  };
  function onKey(event: KeyboardEvent, id: string) {
    if (disabled) return;
    const nudge = nudges[event.key];
    if (mode === 'arrange' && nudge) draft.nudge(id, ...nudge);
    else if (mode === 'arrange' && event.key === 'Delete') draft.remove(id);
    else if (event.key === 'Enter' || event.key === ' ') {
      if (mode === 'arrange') draft.chosenId = draft.chosenId === id ? null : id;
      else {
        if (draft.unthreaded.length === 0) draft.pullOut();
        draft.thread(id);
      }
    } else return;
    event.preventDefault();
  }
</script>

<div
  class="border-rule bg-tray relative h-full touch-none overflow-hidden rounded-[2.2rem] border"
  bind:this={box}
  bind:clientWidth={width}
  bind:clientHeight={height}
  onpointerdown={down}
  onpointermove={over}
  onpointerup={up}
  onpointercancel={up}
  role="group"
  aria-label="The tray of this pattern"
  data-testid="surface"
>
  {#if draft.slots.length === 0}
    <p class="text-ink-soft flex h-full items-center justify-center px-8 text-center">
      Touch a tooth or a bone on the drawing: it puts a well here.
    </p>
  {/if}
  {#if width > 0}
    <svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
      <path d={path} fill="none" class="stroke-coral" stroke-width="2.5" />
      {#if pulling && tip && end}
        <line
          x1={end.left + end.width / 2}
          y1={end.top + end.height / 2}
          x2={tip.x}
          y2={tip.y}
          class="stroke-coral"
          stroke-width="2.5"
          stroke-dasharray="6 5"
        />
      {/if}
    </svg>
    {#each draft.slots as slot, i (slot.id)}
      {@const frame = frames[i]}
      {@const place = draft.order.indexOf(slot.id)}
      {@const chosen = slot.id === draft.chosenId}
      <button
        class="bg-sheet absolute flex flex-col overflow-hidden rounded-xl border-2 text-center {chosen
          ? 'border-coral ring-coral ring-2'
          : place < 0
            ? 'border-brass border-dashed'
            : 'border-ink-soft/60'} {mode === 'arrange' && !disabled ? 'cursor-grab' : ''}"
        style="left: {frame.left}px; top: {frame.top}px; width: {frame.width}px; height: {frame.height}px"
        onkeydown={(event) => onKey(event, slot.id)}
        onfocus={() => mode === 'arrange' && (draft.chosenId = slot.id)}
        aria-pressed={chosen}
        aria-label="{slot.name}, {place < 0 ? 'not on the route' : `number ${place + 1} on the route`}"
        data-testid="pattern-well"
      >
        <span
          class="text-small flex min-h-0 flex-1 items-center justify-center px-1 leading-tight font-semibold"
          >{frame.width > 96 ? slot.name : showPlaces(slot.places, notation)}</span
        >
        <span class="text-small h-6 font-bold {place < 0 ? 'text-brass' : 'text-ink-soft'}"
          >{place < 0 ? 'unthreaded' : place + 1}</span
        >
      </button>
    {/each}
  {/if}
</div>
