<script lang="ts">
  import { ArrowDown, ArrowUp, Plus, X } from '@lucide/svelte';
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import { shifted } from '$core/tray/route';
  import type { StoryPicture } from '$core/visit/story';
  import Switch from '../kit/Switch.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import Small from '../pictures/Small.svelte';
  import { theVisit } from '../visit/visitStore.svelte';
  import { asInStory, seenNow } from './asInStory';

  let { mayWrite }: { mayWrite: boolean } = $props();
  const store = theVisit();
  const listed = $derived(store.storyPictures);
  const entries = $derived(listed.map(({ entry }) => entry));
  const keep = (body: StoryPicture[]) =>
    void store.writeStory({ part: 'pictures', body }, 'The story: its pictures');

  const add = (picture: PictureView) =>
    keep([...entries, { id: crypto.randomUUID(), pictureId: picture.pictureId, as: null, words: '' }]);
  const change = (id: string, by: Partial<StoryPicture>) =>
    keep(entries.map((entry) => (entry.id === id ? { ...entry, ...by } : entry)));
  const small = 'flex size-11 items-center justify-center rounded-lg disabled:opacity-40';
</script>

<ol class="flex flex-col gap-2" data-testid="story-pictures">
  {#each listed as { entry, picture }, i (entry.id)}
    {@const name = pictureName(picture)}
    <li class="border-rule bg-sheet flex gap-3 rounded-lg border p-2">
      <Small picture={asInStory(picture, entry)} alt={name} frame="h-24 w-32 shrink-0 rounded-md" />
      <div class="flex min-w-0 flex-1 flex-col gap-1">
        <div class="flex items-center">
          <span class="min-w-0 flex-1 font-semibold"><span class="text-ink-soft">{i + 1}</span> {name}</span>
          {#if mayWrite}
            <Tooltip
              words="{name} earlier"
              button={small}
              disabled={i === 0}
              onclick={() => keep(shifted(entries, i, -1))}><ArrowUp size={18} aria-hidden="true" /></Tooltip
            >
            <Tooltip
              words="{name} later"
              button={small}
              disabled={i === listed.length - 1}
              onclick={() => keep(shifted(entries, i, 1))}><ArrowDown size={18} aria-hidden="true" /></Tooltip
            >
            <Tooltip
              words="{name} out of the story"
              button={small}
              onclick={() => keep(entries.filter(({ id }) => id !== entry.id))}
              ><X size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
        </div>
        {#if mayWrite}
          <input
            class="border-rule bg-paper min-h-11 rounded-lg border px-3"
            value={entry.words}
            maxlength={300}
            placeholder="What it shows"
            aria-label="What {name} shows"
            onchange={({ currentTarget }) => change(entry.id, { words: currentTarget.value })}
          />
          <Switch
            bind:checked={
              () => entry.as !== null, (on) => change(entry.id, { as: on ? seenNow(picture) : null })
            }
            words="Stays as it is seen now"
            testid="story-stays"
          />
        {:else if entry.words}<p>{entry.words}</p>{/if}
      </div>
    </li>
  {:else}
    <li class="text-ink-soft">
      {mayWrite
        ? 'The pictures are shown in the tray’s order. Touch them below to tell them in another.'
        : 'The pictures are shown in the tray’s order.'}
    </li>
  {/each}
</ol>
{#if mayWrite && store.pictures.length > 0}
  <h3 class="heading mt-4 mb-1.5">Put into the story</h3>
  <ul class="flex flex-wrap gap-2" aria-label="Pictures of the visit">
    {#each store.standing as picture (picture.pictureId)}
      <li>
        <button
          class="border-rule relative block w-28 overflow-hidden rounded-lg border text-left"
          onclick={() => add(picture)}
          aria-label="Put {pictureName(picture)} into the story"
          data-testid="tell-picture"
        >
          <Small {picture} frame="h-18 w-full" />
          <span class="text-small flex items-start gap-1 px-1.5 py-1 leading-tight font-semibold"
            ><Plus size={14} class="mt-px shrink-0" aria-hidden="true" />{pictureName(picture)}</span
          >
        </button>
      </li>
    {/each}
  </ul>
{/if}
