<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Send } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { page } from '$app/state';
  import { destinationWords, carriesPapers } from '$core/parcel/destination';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import type { SeenDestination } from '../leaving/parcelDesk.svelte';
  import { ask, attempt } from '../net/send';
  import { theVisit } from '../visit/visitStore.svelte';

  /** A paper of the visit is sent to a mailbox or into a shared folder. */
  interface Props {
    open: boolean;
    /** What is sent, and what has to be heard of it first. */
    title: string;
    /** The paper in the chart; one that does not lie there yet is laid there first. Null where it could not be. */
    paper: () => Promise<string | null>;
    /** The destination that is proposed, where papers can go there. */
    usual?: string;
    children: Snippet;
  }
  let { open = $bindable(), title, paper, usual = '', children }: Props = $props();
  const store = theVisit();

  /** Where papers can go, and whose they are may be known. */
  const places = $derived(
    (page.data.destinations as SeenDestination[]).filter(
      (each) => carriesPapers(each) && each.settings.identity === 'identified'
    )
  );
  let chosen = $state('');
  const destinationId = $derived(
    [chosen, usual].find((id) => places.some((each) => each.destinationId === id)) ??
      places[0]?.destinationId ??
      ''
  );
  let words = $state('');
  let sending = $state(false);

  async function send(event: SubmitEvent) {
    event.preventDefault();
    sending = true;
    const { visitId } = store.head;
    await attempt(async () => {
      const paperId = await paper();
      if (!paperId) return;
      await ask(`/api/visits/${visitId}/papers/send`, {
        destinationId,
        paperIds: [paperId],
        words,
        warned: true
      });
      toast.success('It is on its way. Dispatch tells how far it is.');
      [open, words] = [false, ''];
    });
    sending = false;
  }
</script>

<Dialog bind:open {title}>
  <form class="flex flex-col gap-3" onsubmit={send} data-testid="send-paper-form">
    {@render children()}
    {#if places.length > 0}
      <div>
        <span class="heading mb-1 block">To</span>
        <Select
          label="To"
          value={destinationId}
          options={places.map((each) => ({
            value: each.destinationId,
            words: each.name,
            detail: `${destinationWords[each.kind]}, ${each.where}`
          }))}
          onchange={(value) => (chosen = value)}
          testid="paper-destination"
        />
      </div>
      <TextField label="Words that go along" bind:value={words} long most={4000} testid="paper-words" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" onclick={() => (open = false)}>Not now</button>
        <button class="button main" disabled={sending} data-testid="paper-send"
          ><Send size={18} aria-hidden="true" />I know. Send it</button
        >
      </div>
    {:else}
      <p data-testid="no-destination">
        No destination takes papers: an administrator can add a mail address or a shared folder that may know
        who its pictures are of, in Settings.
      </p>
    {/if}
  </form>
</Dialog>
