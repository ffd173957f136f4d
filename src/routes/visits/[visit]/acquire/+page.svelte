<script lang="ts">
  import { untrack } from 'svelte';
  import { invalidate } from '$app/navigation';
  import { RotateCcw, X } from '@lucide/svelte';
  import { cue } from '$ui/acquire/cue';
  import { BringIn } from '$ui/acquire/bringIn.svelte';
  import NextCard from '$ui/acquire/NextCard.svelte';
  import TakeStrip from '$ui/acquire/TakeStrip.svelte';
  import { attempt, send } from '$ui/net/send';
  import Stage from '$ui/stage/Stage.svelte';
  import TrayBoard from '$ui/tray/TrayBoard.svelte';
  import { clockWords } from '$ui/words';

  let { data } = $props();
  const visit = $derived(data.visit);
  const tray = $derived(visit.tray);
  const notation = $derived(data.who!.notation);
  const device = $derived(visit.devices[0] ?? null);
  // svelte-ignore state_referenced_locally
  const files = new BringIn(data.visit.visitId);

  /** What the person picked to look at; a new take puts itself in front. */
  let picked = $state<string | null>(null);
  const newest = $derived(visit.pictures.toSorted((a, b) => a.number - b.number).at(-1)?.pictureId ?? null);
  const shown = $derived(visit.pictures.find((picture) => picture.pictureId === (picked ?? newest)) ?? null);
  const shownWell = $derived(shown?.slot ? tray.wells[shown.slot.id] : null);

  let lastCount = $state(-1);
  let lastLamp = $state('');
  $effect(() => {
    const count = visit.pictures.length;
    untrack(() => {
      if (lastCount >= 0 && count > lastCount) {
        picked = null;
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

  /** A device that falls silent tells nobody so: the page looks for itself whether each was heard of lately. */
  const lookEveryMs = 4000;
  $effect(() => {
    const timer = setInterval(() => {
      if (!document.hidden) void invalidate('yonder:devices');
    }, lookEveryMs);
    return () => clearInterval(timer);
  });

  const wish = (body: object) => attempt(() => send('POST', `/api/visits/${visit.visitId}/tray`, body));
  const tell = (body: object) => attempt(() => send('POST', `/api/devices/${device!.deviceId}`, body));
  const ready = () => tell({ kind: 'ready', visitId: visit.visitId });

  function pickSlot(slotId: string) {
    const well = tray.wells[slotId];
    picked = well.keeper;
    if (well.keeper === null && tray.present !== slotId) void wish({ kind: 'slot-chosen', slotId });
  }

  function move(takeId: string, slotId: string | null) {
    const from = Object.values(tray.wells).find((well) => well.takes.includes(takeId));
    const swaps = from && slotId !== null && tray.wells[slotId].takes.length > 0 && from.takes.length === 1;
    if (swaps && from.slot.id !== slotId)
      void wish({ kind: 'slots-swapped', slotId: from.slot.id, otherSlotId: slotId });
    else void wish({ kind: 'take-moved', takeId, slotId });
  }

  function onKey(event: KeyboardEvent) {
    const target = event.target as Element;
    // On the next slot's own well these keys mean the same as everywhere: get ready.
    const busy =
      target.closest('button, a, input, select, textarea, [role="dialog"], [data-end]') &&
      !target.closest('[data-state="next"]');
    if (busy || (event.key !== ' ' && event.key !== 'Enter') || event.ctrlKey) return;
    if (device && tray.present && device.lamp === 'resting') {
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
        <Stage picture={shown} tool="pan" label="Picture: {shown.slot?.name ?? shown.fileName}" />
        <div
          class="from-stage text-on-stage pointer-events-none absolute inset-x-0 top-0 flex items-start gap-3 bg-linear-to-b to-transparent p-3 pb-8"
        >
          <div>
            <h1 class="text-title font-bold" data-testid="shown-name">
              {shown.slot?.name ?? (shown.fileName || 'On the bench')}
            </h1>
            <p class="text-small">
              {shown.slot?.projection ?? 'in no slot'} · {clockWords(shown.takenAt)} · {shown.from}
            </p>
          </div>
          {#if shownWell}
            <div class="pointer-events-auto ml-auto flex items-center gap-2">
              <TakeStrip
                well={shownWell}
                pictures={visit.pictures}
                shown={shown.pictureId}
                onshow={(id) => (picked = id)}
                onkeep={(takeId) => wish({ kind: 'keeper-chosen', slotId: shownWell.slot.id, takeId })}
              />
              <button
                class="button border-stage-edge bg-stage text-on-stage hover:bg-stage-edge!"
                onclick={() => wish({ kind: 'retake-asked', slotId: shownWell.slot.id })}
                disabled={tray.retakes.includes(shownWell.slot.id)}
                data-testid="retake"
              >
                <RotateCcw size={18} aria-hidden="true" />Retake
              </button>
            </div>
          {/if}
        </div>
        {#if shown.remarks.length > 0}
          <p
            class="bg-brass-wash text-small text-brass absolute inset-x-3 bottom-8 rounded-lg px-3 py-2 font-semibold"
          >
            {shown.remarks.join(' ')}
          </p>
        {/if}
      {:else}
        <div class="text-on-stage flex h-full flex-col items-center justify-center gap-2">
          <h1 class="text-title font-bold">No take yet</h1>
          <p>The first exposure shows here, large, as soon as it is stored.</p>
        </div>
      {/if}
      {#if files.coming.length > 0}
        <ul
          class="absolute bottom-3 left-3 flex w-96 max-w-[90%] flex-col gap-1.5"
          aria-label="Files coming in"
        >
          {#each files.coming as each (each.key)}
            <li class="panel text-small flex items-start gap-2 px-3 py-2" data-testid="coming-{each.state}">
              <span class="min-w-0 flex-1">
                <span class="block truncate font-semibold">{each.name}</span>
                {#if each.state === 'going'}
                  <progress value={each.sent} class="h-1.5 w-full" aria-label="Sent of {each.name}"
                  ></progress>
                  <span class="text-ink-soft"
                    >{each.sent < 1 ? `${Math.round(each.sent * 100)} % sent` : 'being opened'}</span
                  >
                {:else}<span class="text-brass">{each.says} {each.next}</span>{/if}
              </span>
              {#if each.state !== 'going'}
                <button
                  class="flex size-8 items-center justify-center"
                  onclick={() => files.dismiss(each.key)}
                  aria-label="Put {each.name} away"><X size={16} /></button
                >
              {/if}
            </li>
          {/each}
        </ul>
      {/if}
    </section>
    <NextCard
      {tray}
      {device}
      {notation}
      demo={data.demo}
      onready={ready}
      onrest={() => tell({ kind: 'rest' })}
      onanchor={() =>
        wish(tray.anchored ? { kind: 'anchor-lifted' } : { kind: 'anchored', slotId: tray.present })}
      ondemo={(command) => void tell(command)}
      onlay={(pattern) => wish({ kind: 'lay-pattern', pattern })}
    />
  </div>
  <div class="{tray.route.length > 8 ? 'h-64' : 'h-52'} shrink-0">
    <TrayBoard
      {tray}
      pictures={visit.pictures}
      {notation}
      shown={shown?.pictureId ?? null}
      onpick={pickSlot}
      onpicktake={(takeId) => (picked = takeId)}
      onmove={move}
      onfiles={(list, slotId) => files.add(list, slotId)}
    />
  </div>
</main>
