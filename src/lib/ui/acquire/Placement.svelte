<script lang="ts">
  import { placeKey, placeMap } from '$core/anatomy/place';
  import { isInMouth } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { type Slot, slotTeeth } from '$core/tray/slot';
  import BodyDrawing from '../body/BodyDrawing.svelte';
  import { sheetsOf } from '$core/body/drawings';
  import PlacementDrawing from './PlacementDrawing.svelte';

  /** Where the next picture is taken: the sensor in the mouth, else the place on the body. */
  let { slot, notation }: { slot: Slot; notation: Notation } = $props();
  const keys = $derived(slot.places.map(placeKey));
  const sheet = $derived.by(() => {
    const maps = [...new Set(slot.places.flatMap((place) => placeMap(place) ?? []))];
    return sheetsOf(maps).find(({ drawing }) =>
      drawing.spots.some(({ place }) => keys.includes(placeKey(place)))
    );
  });
</script>

{#if isInMouth(slot.projection) && slotTeeth(slot).length > 0}
  <PlacementDrawing {slot} />
{:else if sheet}
  <BodyDrawing
    drawing={sheet.drawing}
    {notation}
    counts={{}}
    chosen={keys}
    offered={[]}
    label="{slot.name}: where the picture is taken"
  />
{/if}
