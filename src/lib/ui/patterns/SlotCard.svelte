<script lang="ts">
  import { FlipHorizontal2, RotateCw, Trash2 } from '@lucide/svelte';
  import { placesInWords } from '$core/anatomy/place';
  import { projectionWords } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { type DeviceKind, deviceKindWords, speakingKinds } from '$core/devices/deviceKind';
  import { fitsSlot } from '$core/devices/fits';
  import { mirrored, turned } from '$core/raster/orientation';
  import { projectionsFor } from '$core/tray/propose';
  import { type Slot, type SlotShape, slotShapes } from '$core/tray/slot';
  import Select from '../kit/Select.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import type { PatternDraft } from './draft.svelte';

  let { draft, slot, notation }: { draft: PatternDraft; slot: Slot; notation: Notation } = $props();
  const ways = $derived(projectionsFor(slot));
  const kinds = $derived(speakingKinds.filter((kind) => fitsSlot(kind, { ...slot, device: undefined })));
  const any = 'any';
  const shapeWords: Record<SlotShape, string> = {
    standing: 'Standing',
    lying: 'Lying',
    square: 'Square',
    wide: 'Wide',
    tall: 'Tall'
  };
  const turnWords = $derived(
    `${['as the sensor gives it', 'a quarter turn to the right', 'half round', 'a quarter turn to the left'][slot.orientation.quarterTurns]}${slot.orientation.mirrored ? ', mirrored' : ''}`
  );
</script>

<div class="flex flex-col gap-2" data-testid="slot-card">
  <div class="flex items-end gap-2">
    <label class="min-w-0 flex-1"
      ><span class="text-small font-semibold">Name of the slot</span>
      <input
        value={slot.name}
        maxlength="80"
        oninput={(event) => draft.change({ name: event.currentTarget.value || 'Without a name' })}
        class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
        data-testid="slot-name"
      /></label
    >
    <Tooltip
      words="Take this slot away"
      key="Delete"
      button="button px-2.5"
      testid="slot-remove"
      onclick={() => draft.remove(slot.id)}><Trash2 size={18} aria-hidden="true" /></Tooltip
    >
  </div>
  <p class="text-small text-ink-soft">
    {placesInWords(slot.places, notation)}. Touch the drawing to add a place to this slot, or take one away.
  </p>
  <div class="grid grid-cols-2 gap-2">
    <div>
      <span class="text-small font-semibold" aria-hidden="true">Projection</span>
      <Select
        small
        label="Projection"
        value={slot.projection}
        options={[...new Set([slot.projection, ...ways])].map((way) => ({
          value: way,
          words: projectionWords(way)
        }))}
        onchange={(way) => draft.take(way)}
      />
    </div>
    <div>
      <span class="text-small font-semibold" aria-hidden="true">Taken with</span>
      <Select
        small
        label="Taken with"
        value={slot.device ?? any}
        options={[
          { value: any, words: 'Any that can' },
          ...kinds.map((kind) => ({ value: kind as string, words: deviceKindWords(kind) }))
        ]}
        onchange={(kind) => draft.change({ device: kind === any ? undefined : (kind as DeviceKind) })}
      />
    </div>
    <div>
      <span class="text-small font-semibold" aria-hidden="true">Shape of its well</span>
      <Select
        small
        label="Shape of its well"
        value={slot.shape}
        options={slotShapes.map((shape) => ({ value: shape, words: shapeWords[shape] }))}
        onchange={(shape) => draft.change({ shape })}
      />
    </div>
    <div>
      <span class="text-small font-semibold">Comes in turned</span>
      <div class="flex gap-1.5">
        <Tooltip
          words="Turned further"
          button="button px-2.5"
          onclick={() => draft.change({ orientation: turned(slot.orientation, 1) })}
          ><RotateCw size={18} aria-hidden="true" /></Tooltip
        >
        <Tooltip
          words="Mirrored"
          pressed={slot.orientation.mirrored}
          button="button px-2.5"
          onclick={() => draft.change({ orientation: mirrored(slot.orientation) })}
          ><FlipHorizontal2 size={18} aria-hidden="true" /></Tooltip
        >
      </div>
    </div>
  </div>
  <p class="text-small text-ink-soft">A picture taken here is shown {turnWords}.</p>
</div>
