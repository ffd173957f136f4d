<script lang="ts">
  import { goto } from '$app/navigation';
  import type { Notation } from '$core/anatomy/teeth';
  import type { PictureView } from '$core/picture/pictureView';
  import Dialog from '../kit/Dialog.svelte';
  import { ask, attempt, send } from '../net/send';
  import { countWords } from '../words';
  import { ParcelDesk, type SeenDestination, type SentParcel, leftWords } from './parcelDesk.svelte';
  import Seal from './Seal.svelte';

  interface Props {
    open: boolean;
    pictures: readonly PictureView[];
    patient: { name: string; recordNumber: string };
    notation: Notation;
  }
  let { open = $bindable(), pictures, patient, notation }: Props = $props();
  let desk = $state.raw<ParcelDesk | null>(null);
  let destinations = $state.raw<SeenDestination[]>([]);
  let rules = $state.raw<{ ruleId: string; name: string }[]>([]);
  let sending = $state(false);
  let message = $state('');

  $effect(() => {
    if (!open) return;
    void attempt(async () => {
      [destinations, rules] = await Promise.all([
        send<SeenDestination[]>('GET', '/api/destinations'),
        send<{ ruleId: string; name: string }[]>('GET', '/api/rules')
      ]);
      desk = new ParcelDesk(destinations, rules[0]?.ruleId ?? '');
      message = '';
    });
  });
  async function go() {
    sending = true;
    await attempt(async () => {
      const sent = await ask<SentParcel>('/api/parcels', desk!.wish(pictures));
      message = leftWords(sent);
      if (message === '') await goto('/dispatch');
    });
    sending = false;
  }
</script>

<Dialog bind:open title="Send {countWords(pictures.length, 'picture', 'pictures')}">
  <div class="max-h-[70vh] overflow-y-auto pr-1" data-testid="send-picked-dialog">
    {#if desk}
      <Seal
        {desk}
        {destinations}
        {rules}
        {pictures}
        example={desk.example(pictures, patient, notation)}
        may
        {sending}
        {message}
        onsend={() => void go()}
      />
    {/if}
  </div>
</Dialog>
