<script lang="ts">
  import { goto, invalidate } from '$app/navigation';
  import { Route } from '@lucide/svelte';
  import { untrack } from 'svelte';
  import type { DispatchPage } from '$core/parcel/dispatchView';
  import ParcelDialog from '$ui/dispatch/ParcelDialog.svelte';
  import ParcelRow from '$ui/dispatch/ParcelRow.svelte';
  import Choice from '$ui/kit/Choice.svelte';
  import { onNews } from '$ui/net/news';
  import { attempt, send } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  let opened = $state<string | null>(null);
  let turn = $state(0);
  let more = $state.raw<Pick<DispatchPage, 'parcels' | 'older'> | null>(null);
  const parcels = $derived([...data.page.parcels, ...(more?.parcels ?? [])]);
  const older = $derived(more ? more.older : data.page.older);

  $effect(() => {
    void data.page;
    untrack(() => (more = null));
  });
  let soon: ReturnType<typeof setTimeout> | null = null;
  $effect(() =>
    onNews((heard) => {
      if (heard.topic !== 'dispatch' && heard.topic !== 'all') return;
      // Much may happen at once: it is looked at together.
      soon ??= setTimeout(() => {
        soon = null;
        turn += 1;
        void invalidate('yonder:dispatch');
      }, 300);
    })
  );
  async function fetchOlder() {
    await attempt(async () => {
      const page = await send<DispatchPage>('GET', `/api/dispatch?show=${data.query.show}&before=${older}`);
      more = { parcels: [...(more?.parcels ?? []), ...page.parcels], older: page.older };
    });
  }
  const shows = $derived([
    { value: 'open' as const, words: 'Under way' },
    {
      value: 'trouble' as const,
      words: data.page.trouble > 0 ? `Wants a person (${data.page.trouble})` : 'Wants a person'
    },
    { value: 'all' as const, words: 'All' }
  ]);
</script>

<svelte:head><title>Dispatch · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto flex max-w-6xl flex-col gap-4 px-6 pt-4 pb-8">
  <div class="flex flex-wrap items-center justify-between gap-3">
    <h1 class="text-title font-bold">Dispatch</h1>
    <Choice
      label="Parcels shown"
      value={data.query.show}
      options={shows}
      onchange={(show) => void goto(`/dispatch?show=${show}`, { keepFocus: true, noScroll: true })}
      testid="dispatch-show"
    />
  </div>
  {#if parcels.length === 0}
    <div class="panel flex flex-col items-center gap-2 px-6 py-14 text-center">
      <Route size={34} class="text-ink-soft" aria-hidden="true" />
      <p class="text-lead font-bold">
        {data.query.show === 'all' ? 'Nothing was sent yet.' : 'Nothing is under way.'}
      </p>
      <p class="text-ink-soft">
        {data.query.show === 'trouble'
          ? 'Nothing wants a person.'
          : 'A parcel is packed in a visit, at File, or from pictures that were picked.'}
      </p>
    </div>
  {:else}
    <ul class="flex flex-col gap-2.5" aria-live="polite">
      {#each parcels as parcel (parcel.parcelId)}
        <ParcelRow {parcel} onopen={() => (opened = parcel.parcelId)} />
      {/each}
    </ul>
    {#if older}<button class="button self-center" onclick={fetchOlder}>Earlier parcels</button>{/if}
  {/if}
</main>

<ParcelDialog
  parcelId={opened}
  {turn}
  destinations={data.destinations}
  may={data.who!.may.send}
  onclose={() => (opened = null)}
/>
