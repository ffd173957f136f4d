<script lang="ts">
  import { goto } from '$app/navigation';
  import { Route } from '@lucide/svelte';
  import { untrack } from 'svelte';
  import type { DispatchPage } from '$core/parcel/dispatchView';
  import { again } from '$ui/net/going';
  import ParcelDialog from '$ui/dispatch/ParcelDialog.svelte';
  import ParcelRow from '$ui/dispatch/ParcelRow.svelte';
  import Choice from '$ui/kit/Choice.svelte';
  import { onNews } from '$ui/net/news';
  import { attempt, send } from '$ui/net/send';
  import TextField from '$ui/kit/TextField.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { afterTyping } from '$ui/typing';

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
        void again('yonder:dispatch');
      }, 300);
    })
  );
  const asked = (more: Record<string, string> = {}) => {
    const { show, find, visit } = data.query;
    const parts = { show, ...(find ? { find } : {}), ...(visit ? { visit } : {}), ...more };
    return new URLSearchParams(Object.entries(parts).filter(([, value]) => value !== '')).toString();
  };
  // svelte-ignore state_referenced_locally
  let find = $state(data.query.find ?? '');
  const stay = { keepFocus: true, noScroll: true, replaceState: true };
  // Who looks for something looks among all of them.
  const typed = afterTyping(
    (words) => void goto(`/dispatch?${asked({ find: words, ...(words ? { show: 'all' } : {}) })}`, stay)
  );
  async function fetchOlder() {
    await attempt(async () => {
      const page = await send<DispatchPage>('GET', `/api/dispatch?${asked({ before: older! })}`);
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
    <div class="ml-auto w-72">
      <TextField
        label="Find parcels"
        bare
        bind:value={() => find, (words) => typed((find = words))}
        most={100}
        example="Patient, number or tracking number"
        testid="find-parcel"
      />
    </div>
    <Choice
      label="Parcels shown"
      value={data.query.show}
      options={shows}
      onchange={(show) => void goto(`/dispatch?${asked({ show })}`, stay)}
      testid="dispatch-show"
    />
  </div>
  {#if parcels.length === 0}
    <div class="panel flex flex-col items-center gap-2 px-6 py-14 text-center">
      <Route size={34} class="text-ink-soft" aria-hidden="true" />
      <p class="text-lead font-bold">
        {data.query.find
          ? 'No parcel is found by that.'
          : data.query.show === 'all'
            ? 'Nothing was sent yet.'
            : 'Nothing is under way.'}
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
