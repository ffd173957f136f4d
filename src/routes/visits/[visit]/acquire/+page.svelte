<script lang="ts">
  import { untrack } from 'svelte';
  import { RotateCcw } from '@lucide/svelte';
  import { projectionWords } from '$core/anatomy/projections';
  import { lookOf, orientationOf, pictureName } from '$core/picture/pictureView';
  import { wellOf } from '$core/tray/tray';
  import { bringIn } from '$ui/acquire/bringIn';
  import { cue } from '$ui/acquire/cue';
  import FilesComing from '$ui/acquire/FilesComing.svelte';
  import NextCard, { type PatternChoice } from '$ui/acquire/NextCard.svelte';
  import TakeStrip from '$ui/acquire/TakeStrip.svelte';
  import { clockWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import { ask, attempt, send } from '$ui/net/send';
  import { previewUrl } from '$ui/pictures/previewUrl';
  import Stage from '$ui/stage/Stage.svelte';
  import TrayBoard from '$ui/tray/TrayBoard.svelte';
  import type { TrayWish } from '$ui/visit/pending';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const { visitId } = $derived(store.head);
  const notation = $derived(data.who!.notation);
  const may = $derived(data.who!.may);

  /** The tray in front: the one that was picked, else the one that the device waits for, else the newest. */
  let pickedTray = $state<string | null>(null);
  const device = $derived(store.devices[0] ?? null);
  const front = $derived(
    store.trays.find(({ trayId }) => trayId === (pickedTray ?? device?.armed?.trayId)) ?? store.trays.at(-1)!
  );
  const tray = $derived(front.tray);

  /** What the person picked to look at; a new take puts itself in front. */
  let picked = $state<string | null>(null);
  const newest = $derived(store.pictures.at(-1)?.pictureId ?? null);
  const shown = $derived(store.picture(picked ?? newest ?? '') ?? null);
  const shownWell = $derived(shown ? store.wellOf(shown) : null);

  let lastCount = -1;
  let lastLamp = '';
  $effect(() => {
    const count = store.pictures.length;
    untrack(() => {
      if (lastCount >= 0 && count > lastCount) {
        picked = null;
        pickedTray = store.pictures.at(-1)?.trayId ?? pickedTray;
        cue('stored');
      }
      lastCount = count;
    });
  });
  $effect(() => {
    const lamp = device?.lamp ?? '';
    untrack(() => {
      if (lastLamp !== '' && lamp !== lastLamp) {
        if (lamp === 'ready') cue('ready');
        if (lamp === 'faulted' || lamp === 'absent') cue('trouble');
      }
      lastLamp = lamp;
    });
  });

  const wish = (body: TrayWish, words: string, trayId = front.trayId) => store.wish(trayId, body, words);
  const tell = (body: object) => attempt(() => send('POST', `/api/devices/${device!.deviceId}`, body));
  const ready = () => tell({ kind: 'ready', trayId: front.trayId });

  async function lay({ pattern, route, name }: PatternChoice, another: boolean) {
    if (!another) return void wish({ kind: 'tray-laid', pattern, route }, `Laying ${name}`);
    await attempt(async () => {
      const made = await ask<{ trayId: string }>(`/api/visits/${visitId}/trays`, { pattern, route });
      pickedTray = made.trayId;
    });
  }

  function pickSlot(slotId: string) {
    const well = tray.wells[slotId];
    picked = well.keeper;
    if (well.keeper === null && tray.present !== slotId && may.acquire)
      void wish({ kind: 'slot-chosen', slotId }, `Next: ${well.slot.name}`);
  }

  function move(takeId: string, slotId: string | null) {
    if (!may.acquire) return;
    const from = wellOf(tray, takeId);
    const swaps = from && slotId !== null && tray.wells[slotId].takes.length > 0 && from.takes.length === 1;
    if (swaps && from.slot.id !== slotId)
      void wish({ kind: 'slots-swapped', slotId: from.slot.id, otherSlotId: slotId }, 'Swapping two slots');
    else void wish({ kind: 'take-moved', takeId, slotId }, 'Moving a take');
  }

  function anchor() {
    if (tray.anchored) void wish({ kind: 'anchor-lifted' }, 'Lifting the anchor');
    else if (tray.present) void wish({ kind: 'anchored', slotId: tray.present }, 'Anchoring');
  }

  function onKey(event: KeyboardEvent) {
    const target = event.target as Element;
    // On the next slot's own well these keys mean the same as everywhere: get ready.
    const busy =
      target.closest('button, a, input, textarea, [role="dialog"], [role="menu"], [role="listbox"]') &&
      !target.closest('[data-state="next"]');
    if (event.defaultPrevented || busy || (event.key !== ' ' && event.key !== 'Enter') || event.ctrlKey)
      return;
    if (device && tray.present && device.lamp === 'resting' && may.acquire) {
      event.preventDefault();
      void ready();
    }
  }
</script>

<svelte:window onkeydown={onKey} />

<main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
  <div class="flex min-h-0 flex-1 gap-3">
    <section class="bg-stage relative min-w-0 flex-1 overflow-hidden rounded-xl" aria-label="Last take">
      {#if shown}
        <Stage
          picture={shown}
          look={lookOf(shown)}
          orientation={orientationOf(shown)}
          preview={previewUrl(shown)}
          label="Picture: {pictureName(shown)}"
        />
        <div
          class="from-stage text-on-stage pointer-events-none absolute inset-x-0 top-0 flex items-start gap-3 bg-linear-to-b to-transparent p-3 pb-8"
        >
          <div>
            <h1 class="text-title font-bold" data-testid="shown-name">{pictureName(shown)}</h1>
            <p class="text-small">
              {shown.slot ? projectionWords(shown.slot.projection) : 'in no slot'} · {clockWords(
                shown.takenAt
              )} · {shown.from}
            </p>
          </div>
          {#if shownWell && shown.trayId}
            {@const { slot } = shownWell}
            {@const shownTray = store.trayOf(shown)}
            <div class="pointer-events-auto ml-auto flex items-center gap-2">
              <TakeStrip
                well={shownWell}
                pictures={store.pictures}
                shown={shown.pictureId}
                mayKeep={may.acquire}
                onshow={(id) => (picked = id)}
                onkeep={(takeId) =>
                  wish(
                    { kind: 'keeper-chosen', slotId: slot.id, takeId },
                    `Keeper of ${slot.name}`,
                    shown.trayId!
                  )}
              />
              {#if may.acquire}
                <button
                  class="button border-stage-edge bg-stage text-on-stage hover:bg-stage-edge!"
                  onclick={() =>
                    wish({ kind: 'retake-asked', slotId: slot.id }, `Retake of ${slot.name}`, shown.trayId!)}
                  disabled={shownTray?.tray.retakes.includes(slot.id)}
                  data-testid="retake"
                >
                  <RotateCcw size={18} aria-hidden="true" />Retake
                </button>
              {/if}
            </div>
          {/if}
        </div>
      {:else}
        <div class="text-on-stage flex h-full flex-col items-center justify-center gap-2">
          <h1 class="text-title font-bold">No take yet</h1>
          <p>The first exposure shows here, large, as soon as it is stored.</p>
        </div>
      {/if}
      <div class="pointer-events-none absolute inset-x-3 bottom-8 flex flex-col items-start gap-2">
        <FilesComing {visitId} />
        {#if shown && shown.remarks.length > 0}
          <p class="bg-brass-wash text-small text-brass w-full rounded-lg px-3 py-2 font-semibold">
            {shown.remarks.join(' ')}
          </p>
        {/if}
      </div>
    </section>
    <NextCard
      {visitId}
      {tray}
      {device}
      patterns={data.patterns}
      {notation}
      demo={data.demo}
      mayAcquire={may.acquire}
      onready={ready}
      onrest={() => tell({ kind: 'rest' })}
      onanchor={anchor}
      ondemo={(command) => void tell(command)}
      onlay={lay}
    />
  </div>
  {#if store.trays.length > 1}
    <div class="-mb-1.5">
      <Choice
        label="Trays of the visit"
        testid="tray"
        bind:value={() => front.trayId, (id) => (pickedTray = id)}
        options={store.trays.map((each) => ({
          value: each.trayId,
          words: `${each.number}. ${each.tray.laid?.name ?? 'No pattern'}`
        }))}
      />
    </div>
  {/if}
  {#if front.unread}
    <p class="panel bg-brass-wash! text-brass px-4 py-2 font-semibold" role="status">
      {front.unread === 1 ? 'Something' : `${front.unread} things`} done to this tray can’t be read by this program
      and is not shown. It is kept; begin another tray to go on.
    </p>
  {/if}
  <div class="{tray.route.length > 8 ? 'h-72' : 'h-52'} shrink-0">
    <TrayBoard
      {tray}
      pictures={store.pictures}
      {notation}
      shown={shown?.pictureId ?? null}
      mayBringIn={may.bringIn}
      onpick={pickSlot}
      onpicktake={(takeId) => (picked = takeId)}
      onmove={move}
      onfiles={(files, slotId) => bringIn(files, visitId, front.trayId, slotId)}
    />
  </div>
</main>
