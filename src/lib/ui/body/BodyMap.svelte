<script lang="ts">
  import { type Place, placeKey, placeWords } from '$core/anatomy/place';
  import { placeOfKey } from '$core/anatomy/placeOfKey';
  import type { BodyMap } from '$core/anatomy/placeKind';
  import { type Notation, deciduousLowerArch, deciduousUpperArch } from '$core/anatomy/teeth';
  import type { Snippet } from 'svelte';
  import Tabs from '../kit/Tabs.svelte';
  import BodyDrawing from './BodyDrawing.svelte';
  import PlacePill from './PlacePill.svelte';
  import { type Sheet, growingSheets, sheetsOf } from '$core/body/drawings';

  interface Props {
    maps: readonly BodyMap[];
    notation: Notation;
    counts?: Record<string, number>;
    chosen?: readonly Place[];
    offered?: readonly Place[];
    label: string;
    /** Milk teeth are offered where they may be: a child's mouth, or one that has pictures of them. */
    child?: boolean;
    /** When the newest picture of each place was taken. */
    newest?: Record<string, string>;
    onchoose?: (place: Place) => void;
    /** Several at once, by a stroke over the drawing or a word on it. */
    onpick?: (places: readonly Place[], on: boolean) => void;
    /** What else lies on the shelf, after the places that are on no drawing. */
    beside?: Snippet;
  }
  let {
    maps,
    notation,
    counts = {},
    chosen = [],
    offered = [],
    label,
    child = false,
    newest = {},
    onchoose,
    onpick,
    beside
  }: Props = $props();

  const keysOn = ({ drawing }: Sheet) => drawing.spots.map(({ place }) => placeKey(place));
  const chosenKeys = $derived(chosen.map(placeKey));
  const offeredKeys = $derived(offered.map(placeKey));
  const milkKeys = [...deciduousUpperArch, ...deciduousLowerArch].map((tooth) =>
    placeKey({ kind: 'tooth', tooth })
  );
  const named = $derived(new Set([...Object.keys(counts), ...chosenKeys, ...offeredKeys]));
  const sheets = $derived(
    sheetsOf(maps).filter(
      (sheet) => !growingSheets.includes(sheet.id) || child || milkKeys.some((key) => named.has(key))
    )
  );
  /** Of several sheets the one with what is chosen or proposed comes up by itself. */
  let turnedTo = $state('');
  const wanted = $derived(
    sheets.find((sheet) => keysOn(sheet).some((key) => offeredKeys.includes(key) || chosenKeys.includes(key)))
      ?.id
  );
  const shown = $derived(sheets.find(({ id }) => id === (turnedTo || wanted)) ?? sheets[0]);
  /** What stands on no drawing: whole views, stretches, photographs. */
  const shelf = $derived.by(() => {
    const drawn = new Set(sheets.flatMap(keysOn));
    return [...named]
      .filter((key) => !drawn.has(key))
      .flatMap((key) => placeOfKey(key) ?? [])
      .sort((a, b) => placeWords(a, notation).localeCompare(placeWords(b, notation)));
  });
</script>

{#snippet drawing(sheet: Sheet)}
  <BodyDrawing
    drawing={sheet.drawing}
    {notation}
    {counts}
    chosen={chosenKeys}
    offered={offeredKeys}
    {label}
    {newest}
    {onchoose}
    {onpick}
  />
{/snippet}

<div class="flex h-full min-h-0 flex-col gap-2">
  {#if sheets.length > 1}
    <Tabs
      bind:value={() => shown.id, (id) => (turnedTo = id)}
      tabs={sheets.map(({ id, words }) => ({ value: id, words }))}
      label="Drawings of the body"
    >
      {#snippet children(id)}
        {@const sheet = sheets.find((each) => each.id === id)}
        {#if sheet}{@render drawing(sheet)}{/if}
      {/snippet}
    </Tabs>
  {:else if shown}
    <div class="min-h-0 flex-1">{@render drawing(shown)}</div>
  {/if}
  {#if shelf.length > 0 || beside}
    <ul class="flex flex-wrap gap-1.5" aria-label="Beside the drawing">
      {#each shelf as place (placeKey(place))}
        {@const key = placeKey(place)}
        <li>
          <PlacePill
            {key}
            words={placeWords(place, notation)}
            count={counts[key] ?? 0}
            chosen={chosenKeys.includes(key)}
            disabled={!onchoose}
            onchoose={() => onchoose?.(place)}
          />
        </li>
      {/each}
      {@render beside?.()}
    </ul>
  {/if}
</div>
