<script lang="ts">
  import { Star } from '@lucide/svelte';
  import type { PictureView } from '$core/picture/pictureView';
  import type { Well } from '$core/tray/tray';
  import { clockWords } from '../clock';
  import Small from '../pictures/Small.svelte';

  interface Props {
    well: Well;
    pictures: PictureView[];
    shown: string | null;
    mayKeep: boolean;
    onshow: (takeId: string) => void;
    onkeep: (takeId: string) => void;
  }
  let { well, pictures, shown, mayKeep, onshow, onkeep }: Props = $props();
  const takes = $derived(
    well.takes.flatMap((id) => pictures.find((picture) => picture.pictureId === id) ?? [])
  );
</script>

{#if takes.length > 1}
  <div class="flex items-center gap-1.5" role="group" aria-label="Takes of {well.slot.name}">
    {#each takes as take, i (take.pictureId)}
      {@const keeper = take.pictureId === well.keeper}
      <button
        class="relative h-11 w-15 overflow-hidden rounded-md {shown === take.pictureId
          ? 'ring-coral ring-[3px]'
          : 'ring-on-stage/40 ring-1'}"
        onclick={() => onshow(take.pictureId)}
        aria-pressed={shown === take.pictureId}
        aria-label="Take {i + 1}, {clockWords(take.takenAt)}{keeper ? ', the keeper' : ''}"
      >
        <Small picture={take} />
        {#if keeper}<Star
            size={15}
            class="text-on-stage absolute right-0.5 bottom-0.5 fill-current"
            aria-hidden="true"
          />{/if}
      </button>
    {/each}
    {#if mayKeep && shown !== well.keeper && shown && well.takes.includes(shown)}
      <button
        class="button border-stage-edge bg-stage text-on-stage hover:bg-stage-edge! px-3"
        onclick={() => onkeep(shown)}
        data-testid="keep"
      >
        <Star size={17} aria-hidden="true" />Keep this one
      </button>
    {/if}
  </div>
{/if}
