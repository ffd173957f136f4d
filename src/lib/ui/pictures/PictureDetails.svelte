<script lang="ts">
  import { placesInWords } from '$core/anatomy/place';
  import type { Notation } from '$core/anatomy/teeth';
  import type { ListedPicture } from '$core/picture/pictureSearch';
  import { findingsOf } from '$core/picture/pictureLayers';
  import { type Category, pictureName, placesOf } from '$core/picture/pictureView';
  import { momentWords } from '../clock';
  import { kindWords, madeOn } from './listedWords';

  interface Props {
    /** What is pointed at, or has the focus. */
    picture: ListedPicture | null;
    notation: Notation;
    categories: readonly Category[];
    /** What keys do here. */
    keys: string;
  }
  let { picture, notation, categories, keys }: Props = $props();
  const filed = $derived(
    picture?.categories.flatMap((id) => categories.find(({ categoryId }) => categoryId === id)?.name ?? []) ??
      []
  );
  const first = $derived(
    picture
      ? [
          momentWords(picture.takenAt),
          placesInWords(placesOf(picture), notation),
          kindWords[picture.kind].toLowerCase(),
          picture.from,
          picture.who && `by ${picture.who}`,
          picture.layers.grade?.grade
        ]
          .filter(Boolean)
          .join(' · ')
      : ''
  );
  const second = $derived(
    picture
      ? [
          picture.layers.about?.remark,
          ...findingsOf(picture.layers).map(({ finding }) => finding.words),
          madeOn(picture) && `On it: ${madeOn(picture)}`
        ]
          .filter(Boolean)
          .join(' · ')
      : ''
  );
</script>

<div class="border-rule text-small h-13 overflow-hidden border-t pt-1.5 leading-snug" data-testid="details">
  {#if picture}
    <p class="line-clamp-1">
      <strong>{pictureName(picture)}</strong> <span class="text-ink-soft">{first}</span>
      {#each filed as name (name)}<span class="bg-lagoon-wash text-lagoon chip ml-1.5 px-2 py-0">{name}</span
        >{/each}
    </p>
    <p class="line-clamp-1">{second}</p>
  {:else}
    <p class="text-ink-soft line-clamp-2">
      Point at a picture to read about it. {keys}
    </p>
  {/if}
</div>
