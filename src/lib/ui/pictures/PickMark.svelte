<script lang="ts">
  import { Check } from '@lucide/svelte';
  import type { ListedPicture } from '$core/picture/pictureSearch';
  import { pictureName } from '$core/picture/pictureView';
  import type { Picked } from './picked.svelte';

  interface Props {
    picture: ListedPicture;
    picked: Picked;
    /** All that is listed, for picking a stretch. */
    list: readonly ListedPicture[];
    /** Whether it lies on a picture, and not on paper. */
    onStage?: boolean;
    /** Classes that say where it stands. */
    where?: string;
  }
  let { picture, picked, list, onStage = false, where = '' }: Props = $props();
  const is = $derived(picked.has(picture.pictureId));
</script>

<button
  class="flex size-11 items-center justify-center {where}"
  tabindex="-1"
  aria-pressed={is}
  aria-label="Pick {pictureName(picture)}"
  onclick={(event) => (event.shiftKey ? picked.stretch(list, picture) : picked.toggle(picture))}
  data-testid="pick"
>
  <span
    class="flex size-6 items-center justify-center rounded-full border-2 {is
      ? `bg-coral text-on-fill ${onStage ? 'border-on-fill' : 'border-coral'}`
      : onStage
        ? 'border-ice bg-stage/70'
        : 'border-ink-soft'}"
    >{#if is}<Check size={16} aria-hidden="true" />{/if}</span
  >
</button>
