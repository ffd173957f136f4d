<script lang="ts">
  import { LoaderCircle, Reply } from '@lucide/svelte';
  import type { BundleView } from '$core/arrivals/arrivalView';
  import Dialog from '../kit/Dialog.svelte';
  import TextField from '../kit/TextField.svelte';
  import { countWords } from '../words';
  import type { Desk } from './desk.svelte';

  /** What a mail brought goes back to whoever sent it, with a word why. */
  let { desk, bundle }: { desk: Desk; bundle: BundleView } = $props();

  const usual =
    'We can’t tell whose pictures these are. Please send them again with the patient’s name and date of birth.';
  let open = $state(false);
  let words = $state(usual);
  let sending = $state(false);
  const meant = $derived(desk.meant.length);

  function begin() {
    words = usual;
    open = true;
  }
  async function send() {
    sending = true;
    open = !(await desk.sendBack(words));
    sending = false;
  }
</script>

<button class="button text-small px-2" onclick={begin} data-testid="send-back"
  ><Reply size={17} aria-hidden="true" />Send back</button
>

<Dialog
  bind:open
  title="Send it back"
  message="{countWords(
    meant,
    'file goes',
    'files go'
  )} to {bundle.address} unchanged, names and all. What is sent back is put away here."
>
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void send();
    }}
  >
    <TextField label="What you write to them" bind:value={words} long most={4000} testid="send-back-words" />
    <div class="flex justify-end gap-2">
      <button type="button" class="button" onclick={() => (open = false)}>Keep it here</button>
      <button class="button main" disabled={sending || words.trim() === ''} data-testid="send-back-now">
        {#if sending}<LoaderCircle size={18} class="animate-spin" aria-hidden="true" />{:else}<Reply
            size={18}
            aria-hidden="true"
          />{/if}Send it back
      </button>
    </div>
  </form>
</Dialog>
