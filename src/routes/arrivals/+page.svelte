<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { Archive, ArchiveRestore, Images, Scissors, StickyNote, Undo2 } from '@lucide/svelte';
  import { arrivalName, isExposure } from '$core/arrivals/arrivalView';
  import BringIn from '$ui/arrivals/BringIn.svelte';
  import BundleList from '$ui/arrivals/BundleList.svelte';
  import DeskStage from '$ui/arrivals/DeskStage.svelte';
  import GivePanel from '$ui/arrivals/GivePanel.svelte';
  import IntakeStrip from '$ui/arrivals/IntakeStrip.svelte';
  import PairPhone from '$ui/arrivals/PairPhone.svelte';
  import SendBack from '$ui/arrivals/SendBack.svelte';
  import ShowsPanel from '$ui/arrivals/ShowsPanel.svelte';
  import WhosePanel from '$ui/arrivals/WhosePanel.svelte';
  import { Desk } from '$ui/arrivals/desk.svelte';
  import Dialog from '$ui/kit/Dialog.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import TextField from '$ui/kit/TextField.svelte';
  import { ask, attempt } from '$ui/net/send';
  import { onNews } from '$ui/net/news';
  import { describeKeys, isForOthers } from '$ui/shell/keys.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const desk = untrack(() => new Desk(data.bundles, data.intakes));
  let giving = $state<GivePanel>();
  const { bringIn: mayGive, enterPatients: mayEnter } = $derived(data.who!.may);
  const waiting = $derived(
    desk.bundles.filter(({ putAway }) => !putAway).reduce((sum, { count }) => sum + count, 0)
  );
  const { shown, bundle } = $derived(desk);

  const bundleId = $derived(bundle?.bundleId ?? '');
  $effect(() => {
    const id = bundleId;
    untrack(() => {
      if (id) void desk.load(id);
      else desk.arrivals = [];
    });
  });

  // News come with every file of a disc: what is shown is fetched at once, then at most so often.
  const restMs = 700;
  let waits: ReturnType<typeof setTimeout> | null = null;
  let renewedAt = -restMs;
  function renewSoon() {
    waits ??= setTimeout(
      () => {
        waits = null;
        renewedAt = performance.now();
        void desk.renew();
      },
      Math.max(0, renewedAt + restMs - performance.now())
    );
  }
  onMount(() => {
    const stop = onNews(({ topic }) => {
      if (topic === 'arrivals' || topic === 'all') renewSoon();
    });
    return () => {
      stop();
      if (waits) clearTimeout(waits);
    };
  });
  $effect(() =>
    describeKeys([
      { key: '↑ ↓', does: 'The bundle before, or after' },
      { key: '← →', does: 'Through the bundle, and through a series' },
      { key: 'Enter', does: 'Take the first proposal, then give it' },
      { key: '1 to 5', does: 'Take this proposal' },
      { key: 'X', does: 'Pick what is shown' },
      { key: 'S', does: 'Split off what is picked' },
      { key: 'Delete', does: 'Put away, or bring back' }
    ])
  );

  function whom(patient: { patientId: string; name: string; detail: string }, visitId: string) {
    desk.whom = patient;
    desk.visitId = visitId;
  }
  function propose(i: number) {
    const each = desk.whose.proposed[i];
    const near = desk.whose.near[i - desk.whose.proposed.length];
    if (each) {
      const { patientId, name, recordNumber } = each.patient;
      whom({ patientId, name, detail: recordNumber }, '');
    } else if (near)
      whom({ patientId: near.patientId, name: near.patient, detail: near.recordNumber }, near.visitId);
  }

  const know = (intakeId: string) =>
    attempt(async () => {
      await ask(`/api/intakes/${intakeId}/known`, {});
      await desk.renew();
    });

  let noting = $state(false);
  let note = $state('');
  function writeNote() {
    note = shown?.remark ?? '';
    noting = true;
  }

  function onKey(event: KeyboardEvent) {
    if (isForOthers(event)) return;
    const onButton = event.target instanceof HTMLButtonElement || event.target instanceof HTMLAnchorElement;
    const inStrip =
      event.target instanceof Element && event.target.closest('[data-testid=arrivals], [data-testid=strip]');
    if (event.key === 'ArrowDown') desk.step(1);
    else if (event.key === 'ArrowUp') desk.step(-1);
    else if (event.key === 'ArrowRight') desk.turn(1);
    else if (event.key === 'ArrowLeft') desk.turn(-1);
    else if (!mayGive || !bundle) return;
    else if (event.key === 'Delete') void desk.sort(bundle.putAway ? 'bring-back' : 'put-away');
    else if (bundle.putAway) return;
    else if (/^[1-5]$/.test(event.key)) propose(Number(event.key) - 1);
    else if (event.key.toLowerCase() === 'x' && shown) desk.tick(shown.arrivalId);
    else if (event.key.toLowerCase() === 's' && desk.picked.size > 0) void desk.sort('split');
    else if (event.key === 'Enter' && (!onButton || inStrip)) {
      if (desk.whom) void giving?.give();
      else propose(0);
    } else return;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={onKey} />
<svelte:head><title>Arrivals · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <section class="panel flex w-76 shrink-0 flex-col" aria-labelledby="came">
      <div class="px-4 pt-3 pb-2">
        <h1 id="came" class="text-title font-bold">Arrivals</h1>
        <p class="text-small text-ink-soft" data-testid="arrivals-waiting">
          {waiting === 0
            ? 'Nothing waits for an owner.'
            : `${countWords(waiting, 'picture or paper waits', 'pictures and papers wait')} for an owner.`}
        </p>
      </div>
      <IntakeStrip intakes={desk.intakes} />
      <BundleList {desk} {mayGive} />
      <div class="border-rule flex flex-wrap items-center gap-2 border-t px-3 py-1.5">
        {#if mayGive}<BringIn onbegun={renewSoon} /><PairPhone />{/if}
        <Switch bind:checked={desk.away} words="Put away" />
      </div>
    </section>
    <DeskStage {desk} />
    <aside class="panel flex w-84 shrink-0 flex-col gap-4 overflow-y-auto p-4" aria-label="About it">
      {#if shown && bundle}
        <section>
          <p class="text-title leading-tight font-bold break-words">
            {bundle.subject || arrivalName(shown)}
          </p>
          {#if bundle.note}<p
              class="text-small mt-1 max-h-24 overflow-y-auto whitespace-pre-line"
              data-testid="arrival-note"
            >
              {bundle.note}
            </p>{/if}
          {#if shown.remark}<p class="mt-1">{shown.remark}</p>{/if}
          <p class="text-small text-ink-soft mt-1">
            {shown.reason}{shown.series ? ` ${shown.series}.` : ''}{shown.room
              ? ` It stands in ${shown.room}.`
              : ''}
          </p>
          {#each shown.remarks as remark (remark)}
            <p class="bg-brass-wash text-brass text-small mt-2 rounded-lg px-3 py-2 font-semibold">
              {remark}
            </p>
          {/each}
        </section>
        {#if mayGive}
          {#if bundle.unknownSender && bundle.intakeId}
            <p class="bg-brass-wash text-brass text-small rounded-lg px-3 py-2 font-semibold">
              Nobody here knows {bundle.from}.
              <button
                class="button text-small mt-1.5 px-3"
                onclick={() => void know(bundle.intakeId!)}
                data-testid="know-sender">We know them</button
              >
            </p>
          {/if}
          {#if !bundle.putAway}
            <WhosePanel {desk} {mayEnter} onwhom={whom} />
            <ShowsPanel {desk} />
            <GivePanel {desk} rooms={data.rooms} bind:this={giving} />
          {/if}
          {#if bundle.putAway}
            <p class="text-small text-ink-soft">
              {isExposure(bundle.source)
                ? 'An exposure is never removed.'
                : `What was put away is kept for ${data.putAwayDays} days, then removed for good.`}
            </p>
          {/if}
          <div class="border-rule mt-auto flex flex-wrap gap-2 border-t pt-3">
            <button
              class="button text-small px-2"
              onclick={() => void desk.sort(bundle.putAway ? 'bring-back' : 'put-away')}
              data-testid="put-away"
            >
              {#if bundle.putAway}<ArchiveRestore size={17} aria-hidden="true" />Bring it back{:else}<Archive
                  size={17}
                  aria-hidden="true"
                />Put it away{/if}
            </button>
            <button class="button text-small px-2" onclick={writeNote} data-testid="write-note"
              ><StickyNote size={17} aria-hidden="true" />Note</button
            >
            {#if bundle.address && !bundle.putAway && data.who!.may.send}<SendBack {desk} {bundle} />{/if}
            {#if bundle.source === 'chart' && !bundle.putAway}
              <button
                class="button text-small px-2"
                onclick={() => void desk.sort('to-chart')}
                data-testid="to-chart"><Undo2 size={17} aria-hidden="true" />Back to its chart</button
              >
            {/if}
            {#if shown.parts > 0}
              <button
                class="button text-small px-2"
                onclick={() => void desk.singly(shown.arrivalId)}
                data-testid="singly"><Images size={17} aria-hidden="true" />As {shown.parts} pictures</button
              >
            {/if}
            {#if desk.picked.size > 0 && desk.picked.size < desk.arrivals.length}
              <button
                class="button text-small px-2"
                onclick={() => void desk.sort('split')}
                data-testid="split"
                ><Scissors size={17} aria-hidden="true" />Split off {desk.picked.size}</button
              >
            {/if}
          </div>
        {/if}
      {:else}
        <p class="text-ink-soft">
          {desk.loading ? 'Fetching.' : 'Pick something at the left to say whose it is.'}
        </p>
      {/if}
    </aside>
  </main>
</div>

<Dialog bind:open={noting} title="A note on it" message="It stays with the picture when it is given.">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      noting = false;
      void desk.note(note);
    }}
  >
    <TextField label="Note" bind:value={note} />
    <button class="button main min-h-12" data-testid="keep-note">Keep it</button>
  </form>
</Dialog>
