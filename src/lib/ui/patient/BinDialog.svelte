<script lang="ts">
  import { pictureName } from '$core/picture/pictureView';
  import type { PictureView } from '$core/picture/pictureView';
  import { dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import { ask, attempt, send } from '../net/send';
  import Small from '../pictures/Small.svelte';

  interface Binned {
    picture: PictureView;
    at: string;
    by: string;
    reason: string;
    until: string;
  }
  interface Props {
    open: boolean;
    patientId: string;
    mayBringBack: boolean;
    onback: () => Promise<void>;
  }
  let { open = $bindable(), patientId, mayBringBack, onback }: Props = $props();
  let lying = $state.raw<Binned[] | null>(null);

  async function look() {
    lying = null;
    await attempt(async () => {
      lying = (await send<{ pictures: Binned[] }>('GET', `/api/patients/${patientId}/bin`)).pictures;
    });
  }
  $effect(() => {
    if (open) void look();
  });
  async function bringBack(pictureIds: string[]) {
    await attempt(() => ask('/api/pictures/bring-back', { pictureIds }));
    await look();
    await onback();
  }
</script>

<Dialog
  bind:open
  wide
  title="Bin of this chart"
  message="What was deleted here. Each is kept until its day, then removed for good."
>
  {#if lying === null}<p class="text-ink-soft">Fetching.</p>
  {:else if lying.length === 0}<p class="text-ink-soft">Nothing lies in it.</p>
  {:else}
    {#if mayBringBack && lying.length > 1}
      <button
        class="button mb-3"
        onclick={() => bringBack(lying!.map(({ picture }) => picture.pictureId))}
        data-testid="all-back">Bring all {lying.length} back</button
      >
    {/if}
    <ul class="flex flex-col gap-2" data-testid="bin">
      {#each lying as { picture, at, by, reason, until } (picture.pictureId)}
        <li class="border-rule flex items-center gap-3 rounded-lg border p-2">
          <Small {picture} alt="" frame="h-16 w-20 shrink-0 rounded" lazy />
          <span class="min-w-0 flex-1 leading-tight">
            <span class="block font-semibold break-words"
              >{pictureName(picture)}
              <span class="text-ink-soft font-normal">of {dayWords(picture.takenAt)}</span></span
            >
            <span class="text-small block">Deleted {dayWords(at)} by {by}: {reason}</span>
            <span class="text-small text-brass block">Removed for good on {dayWords(until)}</span>
          </span>
          {#if mayBringBack}<button
              class="button shrink-0"
              onclick={() => bringBack([picture.pictureId])}
              data-testid="bring-back">Bring back</button
            >{/if}
        </li>
      {/each}
    </ul>
  {/if}
</Dialog>
