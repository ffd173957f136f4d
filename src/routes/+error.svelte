<script lang="ts">
  import { page } from '$app/state';
</script>

<svelte:head><title>Yonder Tray</title></svelte:head>
<main class="mx-auto max-w-xl px-6 pt-40">
  <h1 class="text-title font-bold">{page.error?.message}</h1>
  {#if page.error?.next}<p class="text-lead text-ink-soft mt-3">{page.error.next}</p>{/if}
  <p class="mt-8"><a class="button" href="/">Today</a></p>
</main>
