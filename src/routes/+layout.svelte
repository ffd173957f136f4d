<script lang="ts">
  import '../app.css';
  import { onMount } from 'svelte';
  import { Toaster, toast } from 'svelte-sonner';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { again } from '$ui/net/going';
  import { popupsId } from '$ui/kit/popups';
  import { droppedFiles, uploads } from '$ui/arrivals/uploads.svelte';
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
    const stopRetrying = onNews((heard) => {
      if (heard.topic === 'all') outbox.retry();
      else if (heard.topic === 'arrivals') countSoon();
      else if (heard.topic === 'sent-to' && heard.userId === userId) tellSent(heard);
    });
    const stop = followNews();
    return () => {
      stop();
      stopRetrying();
    };
  });

  // A disc tells of every file; the mark follows every few seconds.
  const countRestMs = 3_000;
  let counting: ReturnType<typeof setTimeout> | null = null;
  function countSoon() {
    counting ??= setTimeout(() => {
      counting = null;
      void again('yonder:waiting');
    }, countRestMs);
  }

  /** Somebody sent something to whoever sits here. */
  function tellSent({ from, subject, count }: { from: string; subject: string; count: number }) {
    toast.info(`${from} sent you ${count === 1 ? 'a file' : `${count} files`}.`, {
      description: subject || 'It waits in Arrivals.',
      action: { label: 'To Arrivals', onClick: () => void goto('/arrivals') },
      duration: 15_000
    });
  }

  /** Files that are dropped where nothing else takes them go to Arrivals. */
  // A visit takes files in itself.
  const mayBringIn = $derived((data.who?.may.bringIn ?? false) && !page.url.pathname.startsWith('/visits/'));
  const hasFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') === true;
  function offered(event: DragEvent) {
    if (mayBringIn && hasFiles(event)) event.preventDefault();
  }
  function dropped(event: DragEvent) {
    if (!mayBringIn || event.defaultPrevented || !hasFiles(event)) return;
    event.preventDefault();
    void uploads.bring(droppedFiles(event.dataTransfer!));
    toast.info('Going to Arrivals.', { description: 'Whose it is, is said there.' });
  }
</script>

<svelte:window
  ondragover={offered}
  ondrop={dropped}
  ononline={() => outbox.retry()}
  onbeforeunload={(event) => {
    if ((!outbox.durable && outbox.waiting.length > 0) || uploads.intakeId !== null) event.preventDefault();
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
