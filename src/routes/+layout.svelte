<script lang="ts">
  import '../app.css';
  import { onMount } from 'svelte';
  import { Toaster } from 'svelte-sonner';
  import { followNews } from '$ui/net/news';
  import { outbox } from '$ui/net/outbox.svelte';

  let { data, children } = $props();

  onMount(() => {
    document.documentElement.dataset.live = 'yes';
    if (data.who?.dim) document.documentElement.dataset.room = 'dim';
  });
  $effect(() => {
    if (data.who) return followNews();
  });
</script>

<svelte:window
  onbeforeunload={(event) => {
    if (outbox.waiting.length > 0) event.preventDefault();
  }}
/>

{#if outbox.held}
  <p
    role="status"
    class="bg-brass-wash text-brass fixed inset-x-0 bottom-0 z-50 px-4 py-2 text-center font-semibold"
  >
    {outbox.waiting.length}
    {outbox.waiting.length === 1 ? 'change waits' : 'changes wait'} until the records can be reached. Keep this
    page open.
  </p>
{/if}
{@render children()}
<Toaster
  position="top-center"
  toastOptions={{
    unstyled: true,
    classes: {
      toast: 'panel flex w-full gap-3 px-4 py-3 shadow-lg',
      title: 'font-semibold text-ink',
      description: 'text-small text-ink-soft'
    }
  }}
/>
