<script lang="ts">
  import { X } from '@lucide/svelte';
  import { Dialog } from 'bits-ui';
  import type { Snippet } from 'svelte';

  interface Props {
    open: boolean;
    title: string;
    says?: string;
    wide?: boolean;
    children: Snippet;
  }
  let { open = $bindable(), title, says, wide = false, children }: Props = $props();
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="bg-stage/60 fixed inset-0 z-40" />
    <Dialog.Content
      class="panel fixed top-24 left-1/2 z-50 flex max-h-[calc(100vh-8rem)] max-w-[92vw] -translate-x-1/2 flex-col p-5 shadow-lg {wide
        ? 'w-[44rem]'
        : 'w-[36rem]'}"
    >
      <div class="mb-3 flex items-start gap-3">
        <div class="min-w-0 flex-1">
          <Dialog.Title class="text-title font-bold">{title}</Dialog.Title>
          {#if says}<Dialog.Description class="text-ink-soft">{says}</Dialog.Description>{/if}
        </div>
        <Dialog.Close class="button quiet -mt-1.5 -mr-2 px-2.5" aria-label="Close"
          ><X size={20} aria-hidden="true" /></Dialog.Close
        >
      </div>
      <div class="min-h-0 overflow-y-auto">{@render children()}</div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
