<script lang="ts">
  import { onMount } from 'svelte';
  import { invalidate } from '$app/navigation';
  import { FolderOpen, ScanLine, Smartphone } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { type ArrivalView, arrivalName } from '$core/arrivals/arrivalView';
  import PairPhone from '$ui/arrivals/PairPhone.svelte';
  import WhoseIsIt from '$ui/arrivals/WhoseIsIt.svelte';
  import { clockWords, dayWords, todayAtClinic } from '$ui/clock';
  import Switch from '$ui/kit/Switch.svelte';
  import { onNews } from '$ui/net/news';
  import { ask, attempt } from '$ui/net/send';
  import { describeKeys, isForOthers } from '$ui/shell/keys.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const icons = { device: ScanLine, folder: FolderOpen, phone: Smartphone } as const;
  let away = $state(false);
  let picked = $state('');
  const waiting = $derived(data.arrivals.filter(({ putAway }) => !putAway));
  const listed = $derived(data.arrivals.filter(({ putAway }) => putAway === away));
  const shown = $derived(listed.find(({ arrivalId }) => arrivalId === picked) ?? listed[0] ?? null);
  const mayGive = $derived(data.who!.may.bringIn);

  const renew = () => invalidate('yonder:arrivals');
  onMount(() =>
    onNews(({ topic }) => {
      if (topic === 'arrivals' || topic === 'all') void renew();
    })
  );
  $effect(() =>
    describeKeys([
      { key: '↑ ↓', does: 'The one before, or after' },
      { key: 'Delete', does: 'Put the shown one away, or bring it back' }
    ])
  );

  /** When it was taken; of today only the hour. */
  const whenWords = (iso: string) =>
    todayAtClinic(new Date(iso)) === todayAtClinic()
      ? `today, ${clockWords(iso)}`
      : `${dayWords(iso)}, ${clockWords(iso)}`;

  /** After one is done with, the next is looked at. */
  function leave(done: ArrivalView) {
    const at = listed.findIndex(({ arrivalId }) => arrivalId === done.arrivalId);
    picked = (listed[at + 1] ?? listed[at - 1])?.arrivalId ?? '';
  }
  async function give(arrival: ArrivalView, target: object, whom: string) {
    const done = await attempt(() => ask(`/api/arrivals/${arrival.arrivalId}`, { kind: 'give', ...target }));
    if (!done) return;
    leave(arrival);
    toast.info(`Given to ${whom}.`);
    await renew();
  }
  async function putAway(arrival: ArrivalView) {
    const kind = arrival.putAway ? 'bring-back' : 'put-away';
    if (!(await attempt(() => ask(`/api/arrivals/${arrival.arrivalId}`, { kind })))) return;
    leave(arrival);
    await renew();
  }

  function onKey(event: KeyboardEvent) {
    if (isForOthers(event) || !shown) return;
    const at = listed.indexOf(shown);
    const to = { ArrowDown: at + 1, ArrowUp: at - 1 }[event.key];
    if (to !== undefined) picked = listed[Math.max(0, Math.min(listed.length - 1, to))].arrivalId;
    else if (event.key === 'Delete' && mayGive) void putAway(shown);
    else return;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={onKey} />
<svelte:head><title>Arrivals · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <section class="panel flex w-72 shrink-0 flex-col" aria-labelledby="came">
      <div class="px-4 pt-3 pb-2">
        <h1 id="came" class="text-title font-bold">Arrivals</h1>
        <p class="text-small text-ink-soft">
          {waiting.length === 0
            ? 'Nothing waits for an owner.'
            : `${countWords(waiting.length, 'picture waits', 'pictures wait')} for an owner.`}
        </p>
      </div>
      <ul class="flex min-h-0 flex-1 flex-col gap-1 overflow-y-auto px-2 pb-2" data-testid="arrivals">
        {#each listed as each (each.arrivalId)}
          {@const Icon = icons[each.source]}
          {@const is = each === shown}
          <li>
            <button
              class="flex w-full items-center gap-3 rounded-lg border p-2 text-left {is
                ? 'border-coral bg-coral-wash'
                : 'hover:bg-tray border-transparent'}"
              aria-current={is}
              onclick={() => (picked = each.arrivalId)}
              data-testid="arrival"
            >
              <img
                src="/api/arrivals/{each.arrivalId}/shown"
                alt=""
                loading="lazy"
                class="bg-stage h-14 w-18 shrink-0 rounded-md object-contain"
              />
              <span class="min-w-0 leading-tight">
                <span class="block truncate font-semibold">{arrivalName(each)}</span>
                <span class="text-small text-ink-soft flex items-center gap-1.5"
                  ><Icon size={14} class="shrink-0" aria-hidden="true" /><span class="truncate"
                    >{whenWords(each.arrivedAt)}{each.room ? `, ${each.room}` : ''}</span
                  ></span
                >
              </span>
            </button>
          </li>
        {:else}
          <li class="text-ink-soft px-2 py-3">
            {away
              ? 'Nothing was put away.'
              : 'Exposures that nobody was ready for, and pictures from phones and folders, come here.'}
          </li>
        {/each}
      </ul>
      <div class="border-rule flex items-center justify-between gap-2 border-t px-3 py-1.5">
        <Switch bind:checked={away} words="Put away" />
        <PairPhone />
      </div>
    </section>
    <section class="bg-stage relative min-w-0 flex-1 rounded-2xl" aria-label="The picture">
      {#if shown}
        <img
          src="/api/arrivals/{shown.arrivalId}/shown"
          alt={arrivalName(shown)}
          class="absolute inset-0 h-full w-full rounded-2xl object-contain p-3"
          data-testid="arrival-shown"
        />
      {:else}
        <p class="text-on-stage flex h-full items-center justify-center">Nothing to look at.</p>
      {/if}
    </section>
    <aside class="panel flex w-84 shrink-0 flex-col gap-4 overflow-y-auto p-4" aria-label="About it">
      {#if shown}
        <section>
          <p class="text-title leading-tight font-bold break-words">{arrivalName(shown)}</p>
          {#if shown.remark}<p class="mt-1">{shown.remark}</p>{/if}
          <dl class="text-small mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
            <dt class="text-ink-soft">Taken</dt>
            <dd>{whenWords(shown.takenAt)}</dd>
            {#if shown.source !== 'phone'}
              <dt class="text-ink-soft">From</dt>
              <dd>{shown.from}{shown.room ? `, ${shown.room}` : ''}</dd>
            {/if}
            {#if shown.fileName && shown.title}
              <dt class="text-ink-soft">File</dt>
              <dd class="break-words">{shown.fileName}</dd>
            {/if}
          </dl>
          <p class="text-small mt-2">{shown.reason}</p>
          {#each shown.remarks as remark (remark)}
            <p class="bg-brass-wash text-brass text-small mt-2 rounded-lg px-3 py-2 font-semibold">
              {remark}
            </p>
          {/each}
        </section>
        {#if mayGive}
          {#if !shown.putAway}
            <WhoseIsIt arrival={shown} ongive={(target, whom) => void give(shown, target, whom)} />
          {/if}
          <button class="button mt-auto" onclick={() => void putAway(shown)} data-testid="put-away"
            >{shown.putAway ? 'Bring it back' : 'Put it away'}</button
          >
        {/if}
      {:else}
        <p class="text-ink-soft">Pick something at the left to say whose it is.</p>
      {/if}
    </aside>
  </main>
</div>
