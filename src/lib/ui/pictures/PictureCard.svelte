<script lang="ts">
  import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
  import type { Notation } from '$core/anatomy/teeth';
  import type { ListedPicture } from '$core/picture/pictureSearch';
  import { keptOf } from '$core/picture/keptViews';
  import { findingsOf } from '$core/picture/pictureLayers';
  import { pictureName } from '$core/picture/pictureView';
  import { dayWords } from '../clock';
  import { countWords } from '../words';
  import PickMark from './PickMark.svelte';
  import Small from './Small.svelte';
  import { underName } from './listedWords';
  import type { Picked } from './picked.svelte';

  interface Props {
    picture: ListedPicture;
    notation: Notation;
    picked: Picked;
    /** All that is listed, for picking a stretch. */
    list: readonly ListedPicture[];
    /** Whether only the picture is shown. */
    bare: boolean;
    /** Whether Tab comes here. */
    current: boolean;
    onpoint: (picture: ListedPicture | null) => void;
    picks: boolean;
  }
  let { picture, notation, picked, list, bare, current, onpoint, picks }: Props = $props();
  const name = $derived(pictureName(picture));
  const isPicked = $derived(picked.has(picture.pictureId));
  const kept = $derived(keptOf([picture]).length);
  const findings = $derived(findingsOf(picture.layers).map(({ finding }) => finding.words));

  /** What is dragged is this picture, or, where it is one of those picked, all of them. */
  const carried = (element: HTMLElement) =>
    draggable({
      canDrag: () => picks,
      element,
      getInitialData: () => ({
        pictureIds: picked.has(picture.pictureId) ? picked.ids : [picture.pictureId]
      })
    });
</script>

<div
  class="group relative h-full"
  role="presentation"
  onpointerenter={() => onpoint(picture)}
  onpointerleave={() => onpoint(null)}
  {@attach carried}
>
  <a
    href="/visits/{picture.visitId}/measure?picture={picture.pictureId}"
    class="flex h-full flex-col overflow-hidden rounded-lg border {isPicked
      ? 'border-coral ring-coral bg-coral-wash ring-2'
      : 'border-rule bg-sheet'}"
    tabindex={current ? 0 : -1}
    aria-label="{name}, {dayWords(picture.takenAt)}{isPicked ? ', picked' : ''}"
    draggable="false"
    data-testid="chart-picture"
    data-picture={picture.pictureId}
    onfocus={() => onpoint(picture)}
  >
    <Small {picture} alt="" frame={bare ? 'h-full w-full' : 'h-36 w-full shrink-0'} lazy />
    {#if !bare}
      <span class="block min-h-0 px-2.5 py-1.5 leading-tight">
        <span class="line-clamp-2 font-semibold break-words">{name}</span>
        <span class="text-small text-ink-soft line-clamp-1"
          >{findings.length > 0 ? findings.join('; ') : underName(picture, notation)}</span
        >
      </span>
    {/if}
    {#if kept > 0 && !bare}
      <span
        class="bg-stage/80 text-on-stage text-small absolute top-28 right-1.5 rounded-full px-2 leading-6"
        data-testid="chart-kept">{countWords(kept, 'kept view', 'kept views')}</span
      >
    {/if}
  </a>
  {#if picks}<PickMark
      {picture}
      {picked}
      {list}
      onStage
      where="absolute top-0 left-0 {isPicked
        ? ''
        : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 [@media(hover:none)]:opacity-100'}"
    />{/if}
</div>
