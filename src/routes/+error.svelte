<script lang="ts">
  import { page } from '$app/state';

  /** Long enough not to press a server that is busy, short enough that nobody reaches for the keyboard. */
  const againMs = 3_000;
  /** The records are away or busy: the page says that it goes on by itself, and does. */
  const waits = $derived(page.status === 503);
  $effect(() => {
    if (!waits) return;
    const timer = setTimeout(() => location.reload(), againMs);
    return () => clearTimeout(timer);
  });
</script>

<svelte:head><title>Yonder Tray</title></svelte:head>
<main class="mx-auto max-w-xl px-6 pt-40">
  <h1 class="text-title font-bold" role={waits ? 'status' : undefined}>{page.error?.message}</h1>
  {#if page.error?.next}<p class="text-lead text-ink-soft mt-3">{page.error.next}</p>{/if}
  <p class="mt-8"><a class="button" href="/">Today</a></p>
</main>
