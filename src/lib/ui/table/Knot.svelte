<script lang="ts">
  interface Props {
    /** How many beads of the thread count. */
    knot: number;
    count: number;
    /** The list whose beads it slides along. */
    thread: HTMLElement | undefined;
    onpull: (knot: number, done: boolean) => void;
  }
  let { knot, count, thread, onpull }: Props = $props();
  let held = $state(false);

  /** How many beads lie above a place of the screen. */
  function beadsAbove(y: number): number {
    const beads = [...(thread?.querySelectorAll('[data-testid=bead]') ?? [])];
    return beads.filter((bead) => bead.getBoundingClientRect().top + 22 < y).length;
  }
  function onMove(event: PointerEvent) {
    if (held) onpull(beadsAbove(event.clientY), false);
  }
  function onUp(event: PointerEvent) {
    if (!held) return;
    held = false;
    onpull(beadsAbove(event.clientY), true);
  }
  function onKey(event: KeyboardEvent) {
    const to = { ArrowUp: knot - 1, ArrowDown: knot + 1, Home: 0, End: count }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onpull(Math.max(0, Math.min(count, to)), true);
  }
</script>

<div
  class="text-small flex min-h-11 cursor-ns-resize touch-none items-center gap-3 outline-none select-none focus-visible:outline-3"
  role="slider"
  tabindex="0"
  aria-orientation="vertical"
  aria-label="Knot: how much of the thread counts"
  aria-valuemin={0}
  aria-valuemax={count}
  aria-valuenow={knot}
  aria-valuetext={knot === count ? 'all of it' : knot === 0 ? 'as stored' : `the first ${knot}`}
  onpointerdown={(event) => {
    held = true;
    event.currentTarget.setPointerCapture(event.pointerId);
  }}
  onpointermove={onMove}
  onpointerup={onUp}
  onpointercancel={() => (held = false)}
  onkeydown={onKey}
  data-testid="knot"
>
  <span class="flex w-11 shrink-0 justify-center"
    ><span class="border-coral bg-coral-wash size-7 rotate-45 rounded-md border-[3px]"></span></span
  >
  <span class="text-ink-soft leading-tight"
    >{knot === count ? 'Pull up to go back' : knot === 0 ? 'As it was stored' : 'What is below rests'}</span
  >
</div>
