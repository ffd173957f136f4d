<script lang="ts">
  import type { GuideDraft } from './guideDraft.svelte';
  import SchematicLines from './SchematicLines.svelte';
  import { blank, schematicOf } from './schematics';

  let { draft, disabled = false }: { draft: GuideDraft; disabled?: boolean } = $props();
  const drawing = $derived((draft.view.drawing && schematicOf(draft.view.drawing)) || blank);
  const { view } = $derived(draft);
  let sheet = $state<HTMLDivElement>();
  let held = $state<string | null>(null);

  const shares = (event: PointerEvent) => {
    const { left, top, width, height } = sheet!.getBoundingClientRect();
    return [(event.clientX - left) / width, (event.clientY - top) / height] as const;
  };
  function down(event: PointerEvent) {
    if (disabled || event.button !== 0) return;
    draft.addLandmark(...shares(event));
  }
  function take(event: PointerEvent, key: string) {
    event.stopPropagation();
    if (disabled || event.button !== 0) return;
    draft.landmarkKey = key;
    held = key;
    sheet!.setPointerCapture(event.pointerId);
  }
  function over(event: PointerEvent) {
    const landmark = view.landmarks.find(({ key }) => key === held);
    if (landmark) draft.move(landmark, ...shares(event));
  }
  const step = 0.01;
  const nudges: Record<string, [number, number]> = {
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, -step],
    ArrowDown: [0, step]
  };
  function onKey(event: KeyboardEvent, landmark: (typeof view.landmarks)[number]) {
    const nudge = nudges[event.key];
    if (disabled || (!nudge && event.key !== 'Delete')) return;
    event.preventDefault();
    if (nudge) draft.move(landmark, landmark.x + nudge[0], landmark.y + nudge[1]);
    else draft.removeLandmark(landmark);
  }
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div
  class="border-rule bg-paper relative max-h-full touch-none rounded-lg border {disabled
    ? ''
    : 'cursor-crosshair'}"
  style="aspect-ratio: 100 / {drawing.height}; height: 100%; max-width: 100%"
  bind:this={sheet}
  onpointerdown={down}
  onpointermove={over}
  onpointerup={() => (held = null)}
  onpointercancel={() => (held = null)}
  data-testid="guide-sheet"
>
  <svg
    viewBox="0 0 100 {drawing.height}"
    class="pointer-events-none absolute inset-0 h-full w-full"
    aria-hidden="true"
  >
    <SchematicLines {drawing} mirrored={false} soft />
    {#each view.lines as [from, to] (`${from} ${to}`)}
      {@const [a, b] = [from, to].map((end) => view.landmarks.find(({ key }) => key === end))}
      {#if a && b}<line
          x1={100 * a.x}
          y1={drawing.height * a.y}
          x2={100 * b.x}
          y2={drawing.height * b.y}
          class="stroke-lagoon"
          stroke-width="0.6"
        />{/if}
    {/each}
  </svg>
  {#if view.landmarks.length === 0}
    <p
      class="text-ink-soft pointer-events-none absolute inset-0 flex items-center justify-center p-8 text-center"
    >
      Press where a landmark lies.
    </p>
  {/if}
  {#each view.landmarks as landmark, i (landmark.key)}
    {@const chosen = landmark.key === draft.landmarkKey}
    <button
      class="absolute flex size-11 -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full"
      style="left: {100 * landmark.x}%; top: {100 * landmark.y}%"
      onpointerdown={(event) => take(event, landmark.key)}
      onfocus={() => (draft.landmarkKey = landmark.key)}
      onkeydown={(event) => onKey(event, landmark)}
      aria-pressed={chosen}
      aria-label="{i + 1}, {landmark.name || 'without a name'}"
      data-testid="guide-dot"
    >
      <span
        class="text-small flex size-6 items-center justify-center rounded-full border-2 font-bold {chosen
          ? 'border-coral bg-coral text-paper'
          : 'border-ink bg-paper'}">{i + 1}</span
      >
    </button>
  {/each}
</div>
