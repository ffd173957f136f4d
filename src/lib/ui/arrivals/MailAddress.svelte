<script lang="ts">
  import { Copy } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import Dialog from '../kit/Dialog.svelte';
  import { sendOr } from '../net/send';

  let { open = $bindable() }: { open: boolean } = $props();
  let address = $state('');
  $effect(() => {
    if (open && address === '')
      void sendOr<{ address: string }>('/api/mail-address', { address: '' }).then((answer) => {
        address = answer.address;
      });
  });
  async function copy() {
    await navigator.clipboard?.writeText(address);
    toast.info('Copied.');
  }
</script>

<Dialog
  bind:open
  title="By mail"
  message="Pictures and papers that are sent to your own address come to Arrivals."
>
  <div class="border-rule bg-paper flex items-center gap-2 rounded-lg border px-3 py-2">
    <span class="text-lead min-w-0 flex-1 font-bold break-all select-all" data-testid="mail-address"
      >{address}</span
    >
    <button class="button text-small px-3" onclick={() => void copy()}
      ><Copy size={17} aria-hidden="true" />Copy</button
    >
  </div>
  <p class="text-ink-soft mt-3">
    Up to 50 MB, several pictures, a ZIP package too. Its text stays beside the pictures. Mail from people
    nobody here knows waits apart until somebody says that they are known. Nothing is ever answered.
  </p>
</Dialog>
