<script lang="ts">
  import { X } from '@lucide/svelte';
  import { Dialog } from 'bits-ui';
  import type { Snippet } from 'svelte';
  import { popups } from './popups';

  interface Props {
    open: boolean;
    title: string;
    message?: string;
    wide?: boolean;
    /** Nearly all of the window, for what is worked on in it. */
    large?: boolean;
    children: Snippet;
  }
  let { open = $bindable(), title, message, wide = false, large = false, children }: Props = $props();
</script>

<Dialog.Root bind:open>
  <Dialog.Portal to={popups}>
    <Dialog.Overlay class="bg-stage/60 fixed inset-0 z-40" />
    <Dialog.Content
      class="panel fixed left-1/2 z-50 flex max-w-[92vw] -translate-x-1/2 flex-col p-5 shadow-lg {large
        ? 'top-6 max-h-[calc(100vh-3rem)] w-[72rem]'
        : `top-24 max-h-[calc(100vh-8rem)] ${wide ? 'w-[44rem]' : 'w-[36rem]'}`}"
    >
      <div class="mb-3 pr-12">
        <Dialog.Title class="text-title font-bold">{title}</Dialog.Title>
        {#if message}<Dialog.Description class="text-ink-soft">{message}</Dialog.Description>{/if}
      </div>
      <div class="-m-1 min-h-0 overflow-y-auto p-1">{@render children()}</div>
      <!-- Last, so that the dialog opens on what it is about. -->
      <Dialog.Close class="button quiet absolute top-3.5 right-3 px-2.5" aria-label="Close"
        ><X size={20} aria-hidden="true" /></Dialog.Close
      >
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
