<script lang="ts">
  import { type Place, placeKey, samePlace } from '$core/anatomy/place';
  import type { BodyMap } from '$core/anatomy/placeKind';
  import { type Projection, projectionWords } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { type ProposedSlot, projectionsFor, proposedSlots, takenAs } from '$core/tray/propose';
  import { shifted } from '$core/tray/route';
  import BodyMapView from '../body/BodyMap.svelte';
  import Choice from '../kit/Choice.svelte';
  import Select from '../kit/Select.svelte';
  import { countWords } from '../words';
  import SlotRow from './SlotRow.svelte';

  interface Props {
    maps: readonly BodyMap[];
    notation: Notation;
    child: boolean;
    /** Whether this tray has slots already, to which these can be added. */
    addable: boolean;
    onlay: (slots: ProposedSlot[]) => void;
    onadd: (slots: ProposedSlot[]) => void;
  }
  let { maps, notation, child, addable, onlay, onadd }: Props = $props();

  let chosen = $state.raw<Place[]>([]);
  let wanted = $state.raw<{ key: string; slot: ProposedSlot }[]>([]);
  let counter = 0;
  const keyOf = ({ places, projection, name }: ProposedSlot) =>
    `${name} ${projection} ${places.map(placeKey).join()}`;
  /** A bone is asked for by side; what stands on the drawing in the middle of a pair is both. */
  const beside = $derived<Place[]>(
    maps.includes('teeth')
      ? [
          { kind: 'wide view', view: 'panoramic' },
          { kind: 'photograph', view: 'bite from the front' }
        ]
      : [{ kind: 'photograph', view: 'wound' }]
  );

  /** What stays wanted keeps its place in the line and how it is to be taken. */
  function choose(place: Place) {
    const has = chosen.some((each) => samePlace(each, place));
    chosen = has ? chosen.filter((each) => !samePlace(each, place)) : [...chosen, place];
    const proposed = proposedSlots(chosen);
    const same = (a: ProposedSlot, b: ProposedSlot) =>
      a.name === b.name && a.places.map(placeKey).join() === b.places.map(placeKey).join();
    const kept = wanted.filter(({ key }) => proposed.some((slot) => key.endsWith(` ${keyOf(slot)}`)));
    const fresh = proposed.filter((slot) => !kept.some(({ key }) => key.endsWith(` ${keyOf(slot)}`)));
    wanted = [
      ...kept,
      ...fresh.filter((slot, i) => fresh.findIndex((each) => same(each, slot)) === i).map(made)
    ];
  }
  const made = (slot: ProposedSlot) => ({ key: `${++counter} ${keyOf(slot)}`, slot });

  const takeAs = (i: number, projection: Projection) =>
    (wanted = wanted.map((each, at) =>
      at === i ? { ...each, slot: takenAs(each.slot, projection) } : each
    ));
</script>

<div class="mt-3 grid min-h-0 grid-cols-2 gap-4">
  <div class="flex min-h-0 flex-col">
    <p class="text-ink-soft mb-1">Touch every tooth or place that is wanted.</p>
    <div class="h-80">
      <BodyMapView {maps} {notation} {child} {chosen} label="What is wanted" onchoose={choose} />
    </div>
    <div class="mt-2 flex flex-wrap gap-1.5">
      {#each beside as place (placeKey(place))}
        {@const on = chosen.some((each) => samePlace(each, place))}
        <button
          class="button text-small px-3 {on ? 'border-coral! bg-coral-wash!' : ''}"
          aria-pressed={on}
          onclick={() => choose(place)}>{place.kind === 'wide view' ? 'Panoramic' : 'Photograph'}</button
        >
      {/each}
    </div>
  </div>
  <div class="flex min-h-0 flex-col">
    <h3 class="heading mb-1.5">In this order</h3>
    <ol class="flex max-h-80 min-h-40 flex-col gap-1.5 overflow-y-auto" data-testid="wanted">
      {#each wanted as { key, slot }, i (key)}
        {@const ways = projectionsFor(slot)}
        <SlotRow
          {slot}
          {notation}
          at={i}
          of={wanted.length}
          drop="Not {slot.name}"
          onmove={(by) => (wanted = shifted(wanted, i, by))}
          ondrop={() => (wanted = wanted.filter((each) => each.key !== key))}
        >
          {#if ways.length > 3}
            <Select
              small
              label="How {slot.name} is taken"
              value={slot.projection}
              options={ways.map((way) => ({ value: way, words: projectionWords(way) }))}
              onchange={(way) => takeAs(i, way)}
            />
          {:else if ways.length > 1}
            <Choice
              label="How {slot.name} is taken"
              value={slot.projection}
              options={ways.map((way) => ({ value: way, words: projectionWords(way) }))}
              onchange={(way) => takeAs(i, way)}
            />
          {/if}
        </SlotRow>
      {:else}
        <li class="text-ink-soft">
          Nothing yet. Neighbouring teeth share one view; a bone brings its usual ones.
        </li>
      {/each}
    </ol>
    <div class="mt-3 flex gap-2">
      <button
        class="button main flex-1"
        disabled={wanted.length === 0}
        onclick={() => onlay(wanted.map(({ slot }) => slot))}
        data-testid="lay-wanted"
        >{wanted.length === 0 ? 'Lay them' : `Lay ${countWords(wanted.length, 'slot', 'slots')}`}</button
      >
      {#if addable}
        <button
          class="button"
          disabled={wanted.length === 0}
          onclick={() => onadd(wanted.map(({ slot }) => slot))}
          data-testid="add-wanted">Add to this tray</button
        >
      {/if}
    </div>
  </div>
</div>
