<script lang="ts">
  import '../app.css';
  import { onMount } from 'svelte';
  import { Toaster } from 'svelte-sonner';
  import { popupsId } from '$ui/kit/popups';
  import { followNews, onNews } from '$ui/net/news';
  import { outbox } from '$ui/net/outbox.svelte';
  import KeyHelp from '$ui/shell/KeyHelp.svelte';
  import WaitingNote from '$ui/shell/WaitingNote.svelte';

  let { data, children } = $props();

  onMount(() => {
    document.documentElement.dataset.live = 'yes';
    if (data.who?.dim) document.documentElement.dataset.room = 'dim';
  });
  const userId = $derived(data.who?.userId ?? null);
  $effect(() => outbox.start(userId));
  $effect(() => {
    if (userId === null) return;
    const stopRetrying = onNews((heard) => heard.topic === 'all' && outbox.retry());
    const stop = followNews();
    return () => {
      stop();
      stopRetrying();
    };
  });
</script>

<svelte:window
  ononline={() => outbox.retry()}
  onbeforeunload={(event) => {
    if (!outbox.durable && outbox.waiting.length > 0) event.preventDefault();
  }}
/>

<KeyHelp />
{@render children()}
<WaitingNote />
<section id={popupsId} aria-label="Open above the page"></section>
<Toaster
  position="top-center"
  offset="112px"
  toastOptions={{
    unstyled: true,
    classes: {
      toast: 'panel flex w-full gap-3 px-4 py-3 shadow-lg',
      title: 'font-semibold text-ink',
      description: 'text-small text-ink-soft'
    }
  }}
/>
