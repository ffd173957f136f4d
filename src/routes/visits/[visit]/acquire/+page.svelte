<script lang="ts">
  import { onMount } from 'svelte';
  import { FlipHorizontal2, Presentation, Redo2, RotateCcw, RotateCw, Undo2 } from '@lucide/svelte';
  import { mapsOfTrade } from '$core/anatomy/maps';
  import { projectionWords } from '$core/anatomy/projections';
  import type { AdviceView } from '$core/picture/adviceView';
  import { lookOf, orientationOf, partOf, pictureName } from '$core/picture/pictureView';
  import { upright } from '$core/raster/orientation';
  import { pedalActOf } from '$core/visit/pedal';
  import AdviceNote from '$ui/acquire/AdviceNote.svelte';
  import { Camera } from '$ui/acquire/camera.svelte';
  import CameraView from '$ui/acquire/CameraView.svelte';
  import { Chair } from '$ui/acquire/chair.svelte';
  import { chairKeys } from '$ui/acquire/chairKeys';
  import { followSeries } from '$ui/acquire/followSeries.svelte';
  import FilesComing from '$ui/files/FilesComing.svelte';
  import { bringIn, filesLane } from '$ui/files/bringIn';
  import MoveTo from '$ui/acquire/MoveTo.svelte';
  import NextCard from '$ui/acquire/NextCard.svelte';
  import PlateComing from '$ui/acquire/PlateComing.svelte';
  import Showing from '$ui/acquire/Showing.svelte';
  import TakeStrip from '$ui/acquire/TakeStrip.svelte';
  import WhatToTake from '$ui/acquire/WhatToTake.svelte';
  import { isChild } from '$ui/body/child';
  import { clockWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import Dialog from '$ui/kit/Dialog.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import { asInStory } from '$ui/story/asInStory';
  import { onNews } from '$ui/net/news';
  import { outbox } from '$ui/net/outbox.svelte';
  import { previewUrl } from '$ui/pictures/previewUrl';
  import { describeKeys, isForOthers } from '$ui/shell/keys.svelte';
  import Stage from '$ui/stage/Stage.svelte';
  import TrayBoard from '$ui/tray/TrayBoard.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const { visitId, trade, patient, pedal, reason } = $derived(store.head);
  const notation = $derived(data.who!.notation);
  const may = $derived(data.who!.may);
  const chair = new Chair(store, () => may);
  const { front, tray, shown, shownWell, device } = $derived(chair);
  // svelte-ignore state_referenced_locally
  const camera = new Camera(chair, {
    visitId,
    seed: parseInt(visitId.slice(-6), 16) % 100_000,
    simulated: data.demo
  });

  let what = $state(false);
  let showing = $state(false);
  let moving = $state(false);
  $effect(() => describeKeys(chairKeys(pedal)));

  followSeries(store, chair);

  let stage = $state<Stage>();
  onMount(() =>
    onNews((heard) => {
      if (heard.topic !== 'picture' || heard.visitId !== visitId || !heard.view) return;
      stage?.comes(heard.view, orientationOf(heard.view), partOf(heard.view));
    })
  );

  function deny(kind: AdviceView['kind']) {
    void outbox
      .put({
        url: `/api/pictures/${shown!.pictureId}/not-so`,
        body: { kind, denied: true },
        lane: `picture ${shown!.pictureId}`,
        words: 'Advice answered'
      })
      .then(() => store.look(shown!.pictureId));
  }

  /** What keys do while nothing else wants them. Those that only look are for everybody. */
  const acts: Record<string, () => void> = {
    v: () => (showing = store.standing.length > 0),
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1)
  };
  const handActs: Record<string, () => void> = {
    p: () => (what = true),
    c: () => void (camera.open ? camera.close() : camera.begin()),
    Delete: () => chair.drop(),
    a: () => chair.anchor(),
    n: () => chair.nextSlot(),
    r: () => chair.retake(),
    k: () => chair.keepShown(),
    b: () => shown && chair.move(shown.pictureId, null),
    g: () => (moving = shown !== null && tray.route.length > 0),
    t: () => chair.turn('right'),
    m: () => chair.turn('mirror')
  };
  const pedalActs = {
    still: () => void (camera.open ? camera.still() : camera.begin()),
    ready: () => void chair.ready(),
    anchor: () => chair.anchor(),
    'next slot': () => chair.nextSlot(),
    'retake last': () => chair.retakeLast()
  };
  function step(by: number) {
    const { pictures } = store;
    const at = pictures.findIndex(({ pictureId }) => pictureId === shown?.pictureId);
    const next = pictures[Math.max(0, Math.min(pictures.length - 1, at + by))];
    if (next) chair.show(next.pictureId);
  }

  function onKey(event: KeyboardEvent) {
    if (isForOthers(event) || showing || what) return;
    const pressed = pedalActOf(pedal, event.key);
    const letter = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const back = letter === 'z' && (event.ctrlKey || event.metaKey);
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
    const target = event.target as Element;
    // On the next slot's own well these keys mean the same as everywhere: get ready.
    const onButton = target.closest('button, a') && !target.closest('[data-state="next"]');
    const inPicture = Boolean(target.closest('[data-testid="stage"]'));
    let act: (() => void) | undefined;
    if (pressed) act = may.acquire ? pedalActs[pressed] : undefined;
    else if (back && may.acquire) act = () => void (event.shiftKey ? chair.bringBack() : chair.takeBack());
    else if (plain && camera.open && letter === 'Escape') act = () => camera.close();
    else if (plain && camera.open && (letter === ' ' || letter === 'Enter'))
      act = !onButton && may.acquire ? () => void camera.still() : undefined;
    else if (plain && (letter === ' ' || letter === 'Enter'))
      act =
        !onButton && may.acquire && chair.slot && device?.lamp === 'resting'
          ? () => void chair.ready()
          : undefined;
    else if (plain && !(inPicture && letter.startsWith('Arrow')))
      act = acts[letter] ?? (may.acquire ? handActs[letter] : undefined);
    if (!act) return;
    event.preventDefault();
    act();
  }
</script>

<svelte:window onkeydown={onKey} />

<main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
  <div class="flex min-h-0 flex-1 gap-3">
    <section class="bg-stage relative min-w-0 flex-1 overflow-hidden rounded-xl" aria-label="Last take">
      {#if shown}
        <Stage
          bind:this={stage}
          picture={shown}
          look={lookOf(shown)}
          orientation={orientationOf(shown)}
          part={partOf(shown)}
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
          <div class="pointer-events-auto ml-auto flex items-center gap-2">
            {#if shownWell}
              <TakeStrip
                well={shownWell}
                pictures={store.pictures}
                shown={shown.pictureId}
                mayKeep={may.acquire}
                onshow={(id) => chair.show(id)}
                onkeep={(takeId) => chair.keepShown(takeId)}
              />
            {/if}
            {#if may.acquire}
              <Tooltip words="Turn to the right" key="T" button="on-stage" onclick={() => chair.turn('right')}
                ><RotateCw size={18} aria-hidden="true" /></Tooltip
              >
              <Tooltip words="Mirror" key="M" button="on-stage" onclick={() => chair.turn('mirror')}
                ><FlipHorizontal2 size={18} aria-hidden="true" /></Tooltip
              >
            {/if}
            {#if shownWell && may.acquire}
              <button
                class="on-stage px-4"
                onclick={() => chair.retake()}
                disabled={store.trayOf(shown)?.tray.retakes.includes(shownWell.slot.id)}
                title="Retake (R)"
                data-testid="retake"
              >
                <RotateCcw size={18} aria-hidden="true" />Retake
              </button>
            {/if}
          </div>
        </div>
      {:else}
        <div class="text-on-stage flex h-full flex-col items-center justify-center gap-2">
          <h1 class="text-title font-bold">No take yet</h1>
          <p>The first exposure shows here, large, as soon as it is stored.</p>
        </div>
      {/if}
      <PlateComing {visitId} count={store.pictures.length} orientation={chair.slot?.orientation ?? upright} />
      {#if camera.open}<CameraView {camera} pictures={store.pictures} />{/if}
      <div class="pointer-events-none absolute inset-x-3 bottom-8 flex flex-col items-start gap-2">
        <FilesComing lane={filesLane(visitId)} />
        {#if shown && shown.remarks.length > 0}
          <p class="bg-brass-wash text-small text-brass w-full rounded-lg px-3 py-2 font-semibold">
            {shown.remarks.join(' ')}
          </p>
        {/if}
        {#if shown}
          <AdviceNote
            advice={shown.advice}
            mayAnswer={may.acquire}
            onretake={shownWell ? () => chair.retake() : undefined}
            ondeny={deny}
          />
        {/if}
      </div>
    </section>
    <NextCard
      {chair}
      {visitId}
      {reason}
      {notation}
      demo={data.demo}
      mayAcquire={may.acquire}
      onwhat={() => (what = true)}
      live={camera.open}
      oncamera={() => void camera.begin()}
    />
  </div>
  {#if store.trays.length > 1}
    <div class="-mb-1.5">
      <Choice
        label="Trays of the visit"
        testid="tray"
        bind:value={() => front.trayId, (id) => chair.bringFront(id)}
        options={store.trays.map((each) => ({
          value: each.trayId,
          words: `${each.number}. ${each.tray.laid?.name ?? 'For this once'}`
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
      onpick={(slotId) => chair.pickSlot(slotId)}
      onpicktake={(takeId) => chair.show(takeId)}
      onmove={(takeId, slotId) => chair.move(takeId, slotId)}
      onfill={may.acquire ? () => chair.fill() : undefined}
      onbring={may.acquire ? (takeId) => chair.move(takeId, null) : undefined}
      onfiles={(files, slotId) => bringIn(files, visitId, front.trayId, slotId)}
    >
      {#snippet beside()}
        {#if may.acquire}
          <Tooltip
            words="Take back"
            key="Ctrl+Z"
            button="button quiet px-2"
            testid="take-back"
            onclick={() => void chair.takeBack()}><Undo2 size={19} aria-hidden="true" /></Tooltip
          >
          <Tooltip
            words="Bring back"
            key="Ctrl+Shift+Z"
            button="button quiet px-2"
            testid="bring-back"
            onclick={() => void chair.bringBack()}><Redo2 size={19} aria-hidden="true" /></Tooltip
          >
        {/if}
        <Tooltip
          words="Show the series"
          key="V"
          button="button quiet px-2"
          testid="show-series"
          disabled={store.standing.length === 0}
          onclick={() => (showing = true)}><Presentation size={19} aria-hidden="true" /></Tooltip
        >
      {/snippet}
    </TrayBoard>
  </div>
</main>

<WhatToTake
  bind:open={what}
  choices={data.patterns}
  maps={mapsOfTrade(trade, patient)}
  {notation}
  child={isChild(patient.birthDate)}
  another={!chair.untouched}
  {tray}
  trayId={front.trayId}
  onorder={(order) => chair.layRoute(order)}
  ondrop={(slotId) => chair.dropSlot(slotId)}
  onlay={(choice) => {
    what = false;
    void chair.lay(choice);
  }}
  onlayonce={(slots) => {
    what = false;
    void chair.layOnce(slots);
  }}
  onadd={(slots) => {
    what = false;
    chair.addSlots(slots);
  }}
/>
<Dialog
  bind:open={() => chair.takeOver !== null, (open) => open || (chair.takeOver = null)}
  title="Take it over?"
  message={chair.takeOver?.sentence}
>
  <p class="mb-4">The other page is told. What was exposed there stays there.</p>
  <div class="flex justify-end gap-2">
    <button class="button" onclick={() => (chair.takeOver = null)}>Leave it</button>
    <button class="button main" onclick={() => void chair.ready(true)} data-testid="take-over"
      >Take it over</button
    >
  </div>
</Dialog>
<MoveTo
  bind:open={moving}
  picture={shown}
  {tray}
  onmove={(slotId) => shown && chair.move(shown.pictureId, slotId)}
/>
{#if showing && store.standing.length > 0}
  <Showing
    pictures={store.storyPictures.length > 0
      ? store.storyPictures.map(({ entry, picture }) => asInStory(picture, entry))
      : store.standing}
    words={store.storyPictures.map(({ entry }) => entry.words)}
    onclose={() => (showing = false)}
  />
{/if}
