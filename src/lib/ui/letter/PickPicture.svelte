<script lang="ts">
  import { type ListedPicture, everyPicture, searchQuery } from '$core/picture/pictureSearch';
  import { pictureName } from '$core/picture/pictureView';
  import { dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import { attempt, send } from '../net/send';
  import Small from '../pictures/Small.svelte';

  /** One picture of a chart, the newest first. */
  interface Props {
    open: boolean;
    patientId: string;
    onpick: (pictureId: string) => void;
  }
  let { open = $bindable(), patientId, onpick }: Props = $props();

  interface Page {
    pictures: ListedPicture[];
    older: string | null;
  }
  let page = $state.raw<Page>({ pictures: [], older: null });
  async function load(after: string | null) {
    const query = searchQuery(everyPicture);
    if (after) query.set('after', after);
    await attempt(async () => {
      const next = await send<Page>('GET', `/api/patients/${patientId}/pictures?${query}`);
      page = after ? { ...next, pictures: [...page.pictures, ...next.pictures] } : next;
    });
  }
  $effect(() => {
    if (open) void load(null);
  });
</script>

<Dialog bind:open title="Which picture" wide>
  <ul class="grid max-h-[60vh] grid-cols-4 gap-3 overflow-y-auto p-1" data-testid="pick-list">
    {#each page.pictures as picture (picture.pictureId)}
      <li>
        <button
          class="hover:bg-tray block w-full rounded-lg p-1 text-left"
          onclick={() => {
            onpick(picture.pictureId);
            open = false;
          }}
          data-testid="pick"
        >
          <Small {picture} frame="h-28 w-full rounded-md" lazy />
          <span class="text-small block truncate font-semibold">{pictureName(picture)}</span>
          <span class="text-small text-ink-soft block">{dayWords(picture.takenAt)}</span>
        </button>
      </li>
    {:else}
      <li class="text-ink-soft col-span-4">There is no picture in this chart yet.</li>
    {/each}
  </ul>
  {#if page.older}<button class="button mt-3" onclick={() => void load(page.older)}>Older ones</button>{/if}
</Dialog>
