<script lang="ts">
  import Dialog from '../kit/Dialog.svelte';
  import TextField from '../kit/TextField.svelte';
  import { countWords } from '../words';

  interface Props {
    open: boolean;
    to: 'bin' | 'arrivals';
    count: number;
    /** For how many days the bin keeps them. */
    days: number;
    onaway: (reason: string) => Promise<void>;
  }
  let { open = $bindable(), to, count, days, onaway }: Props = $props();
  let reason = $state('');
  let going = $state(false);
  const pictures = $derived(countWords(count, 'picture', 'pictures'));
  const usual = {
    bin: ['Taken twice', 'Nothing to be seen', 'Only a trial'],
    arrivals: ['Of somebody else', 'Nobody knows whose it is']
  };

  async function go() {
    going = true;
    await onaway(reason.trim());
    going = false;
    reason = '';
  }
</script>

<Dialog
  bind:open
  title={to === 'bin' ? `Delete ${pictures} everywhere?` : `Take ${pictures} back to Arrivals?`}
  message={to === 'bin'
    ? `Gone from every place, tray and list of this chart. Kept in its bin for ${days} days with all that was made on ${count === 1 ? 'it' : 'them'}: one press brings ${count === 1 ? 'it' : 'them'} back.`
    : `${count === 1 ? 'It leaves' : 'They leave'} this chart and ${count === 1 ? 'lies' : 'lie'} on the sorting desk, with all that was made on ${count === 1 ? 'it' : 'them'}, until somebody says whose ${count === 1 ? 'it is' : 'they are'}. The chart shows that it happened.`}
>
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void go();
    }}
  >
    <div class="flex flex-wrap gap-2">
      {#each usual[to] as words (words)}
        <button type="button" class="button text-small px-3" onclick={() => (reason = words)}>{words}</button>
      {/each}
    </div>
    <TextField label="Why" bind:value={reason} most={300} first testid="away-reason" />
    <div class="flex gap-2">
      <button class="button main" disabled={reason.trim().length < 3 || going} data-testid="away-go"
        >{to === 'bin' ? 'Delete everywhere' : 'Take back to Arrivals'}</button
      >
      <button type="button" class="button" onclick={() => (open = false)}>Leave as it is</button>
    </div>
  </form>
</Dialog>
