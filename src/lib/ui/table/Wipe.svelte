<script lang="ts">
  import { ChevronsLeftRight } from '@lucide/svelte';

  /** How much of the width lies left of the line. */
  let { share = $bindable() }: { share: number } = $props();
  let box = $state<HTMLDivElement>();
  const keyStep = 0.02;

  function lead(event: PointerEvent) {
    const { left, width } = box!.getBoundingClientRect();
    share = Math.max(0, Math.min(1, (event.clientX - left) / width));
  }
  function onKey(event: KeyboardEvent) {
    const to = {
      ArrowLeft: share - keyStep,
      ArrowRight: share + keyStep,
      Home: 0,
      End: 1
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    share = Math.max(0, Math.min(1, to));
  }
</script>

<div bind:this={box} class="pointer-events-none absolute inset-0">
  <div
    class="pointer-events-auto absolute inset-y-0 flex w-11 -translate-x-1/2 cursor-ew-resize touch-none items-center justify-center outline-none"
    style="left: {share * 100}%"
    role="slider"
    tabindex="0"
    aria-label="How much of the earlier picture is seen"
    aria-valuemin={0}
    aria-valuemax={100}
    aria-valuenow={Math.round(share * 100)}
    onpointerdown={(event) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      lead(event);
    }}
    onpointermove={(event) => event.buttons > 0 && lead(event)}
    onkeydown={onKey}
    data-testid="wipe"
  >
    <span class="bg-coral absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2" aria-hidden="true"></span>
    <span class="bg-coral text-on-fill relative rounded-full p-2" aria-hidden="true"
      ><ChevronsLeftRight size={18} /></span
    >
  </div>
</div>
