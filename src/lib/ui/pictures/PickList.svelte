<script lang="ts">
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import Tick from '../kit/Tick.svelte';
  import Small from './Small.svelte';

  interface Props {
    pictures: readonly PictureView[];
    chosen: readonly string[];
    /** The one that is looked at. */
    lookedAt?: string | null;
    verb: string;
    testid: string;
    /** A line under a picture's name. */
    under?: (picture: PictureView) => { words: string; done: boolean };
    onchoose: (pictureIds: string[]) => void;
    onlook: (pictureId: string) => void;
  }
  let { pictures, chosen, lookedAt = null, verb, testid, under, onchoose, onlook }: Props = $props();

  const toggled = (pictureId: string) =>
    chosen.includes(pictureId) ? chosen.filter((id) => id !== pictureId) : [...chosen, pictureId];
</script>

<ul class="flex flex-col gap-2">
  {#each pictures as picture (picture.pictureId)}
    {@const { pictureId } = picture}
    {@const is = chosen.includes(pictureId)}
    {@const line = under?.(picture)}
    <li
      class="flex items-start rounded-lg border py-1.5 pr-1.5 {lookedAt === pictureId
        ? 'border-coral ring-coral ring-2'
        : is
          ? 'border-ink'
          : 'border-rule'}"
    >
      <Tick
        checked={is}
        label="{verb} {pictureName(picture)}"
        onchange={() => onchoose(toggled(pictureId))}
      />
      <button class="min-w-0 flex-1 text-left" onclick={() => onlook(pictureId)} data-testid={testid}>
        <Small {picture} frame="h-16 w-full rounded" />
        <span class="text-small mt-0.5 block leading-tight font-semibold break-words"
          >{pictureName(picture)}</span
        >
        {#if line}
          <span class="text-small block leading-tight {line.done ? 'text-lagoon' : 'text-ink-soft'}"
            >{line.words}</span
          >
        {/if}
      </button>
    </li>
  {:else}<li class="text-ink-soft">No picture yet.</li>{/each}
</ul>
