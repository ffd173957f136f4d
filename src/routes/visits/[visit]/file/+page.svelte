<script lang="ts">
  import { page } from '$app/state';
  import { DoorClosed, DoorOpen, Link2, TableProperties } from '@lucide/svelte';
  import type { LeavingPicture, LeavingView } from '$core/deidentify/leavingView';
  import { mapsOfTrade, ownMap } from '$core/anatomy/maps';
  import { type Place, placeKey, placeMap, samePlace, showPlaces } from '$core/anatomy/place';
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import BodyMap from '$ui/body/BodyMap.svelte';
  import { isChild } from '$ui/body/child';
  import DispatchList from '$ui/file/DispatchList.svelte';
  import { clockWords } from '$ui/clock';
  import AttributesDialog from '$ui/leaving/AttributesDialog.svelte';
  import { ParcelDesk, type SentParcel, leftWords } from '$ui/leaving/parcelDesk.svelte';
  import Seal from '$ui/leaving/Seal.svelte';
  import { leavingOf } from '$ui/leaving/veilDesk.svelte';
  import { outbox } from '$ui/net/outbox.svelte';
  import PickList from '$ui/pictures/PickList.svelte';
  import CloseVisits from '$ui/today/CloseVisits.svelte';
  import { ask, attempt } from '$ui/net/send';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const store = theVisit();
  const visit = $derived(store.head);
  const notation = $derived(data.who!.notation);
  const may = $derived(data.who!.may);
  const { standing } = $derived(store);

  let chosenIds = $state<string[] | null>(null);
  const chosen = $derived(
    standing.filter((picture) => chosenIds === null || chosenIds.includes(picture.pictureId))
  );
  // svelte-ignore state_referenced_locally
  const desk = new ParcelDesk(data.destinations, data.rules[0]?.ruleId ?? '');
  if (page.url.searchParams.get('identity') === 'deidentified') {
    desk.identity = 'deidentified';
    desk.ruleId = page.url.searchParams.get('rule') ?? desk.ruleId;
  }
  const example = $derived(desk.example(chosen, visit.patient, notation));
  let sending = $state(false);
  let message = $state('');

  const one = $derived(chosen.length === 1 ? chosen[0] : null);
  const offered = $derived(one?.slot?.places ?? []);
  const counts = $derived.by(() => {
    const all: Record<string, number> = {};
    for (const { links } of standing)
      for (const place of links) all[placeKey(place)] = (all[placeKey(place)] ?? 0) + 1;
    return all;
  });
  const unlinked = $derived(
    standing.filter((picture) => picture.slot && picture.slot.places.length > 0 && !picture.placed)
  );
  let closing = $state(false);
  const notSent = $derived(
    standing.filter(
      ({ pictureId }) =>
        !store.deliveries.some(
          (each) => each.pictureId === pictureId && each.state !== 'failed' && each.state !== 'withdrawn'
        )
    ).length
  );
  const left = $derived([
    ...(unlinked.length > 0 ? [`${unlinked.length} not linked`] : []),
    ...(notSent > 0 ? [`${notSent} not sent`] : [])
  ]);
  const openAgain = () =>
    attempt(() => ask('/api/visits/close', { visitIds: [visit.visitId], how: 'open again' }));
  /** The drawings of the room's trade, and those that something here stands on already. */
  const usual = $derived(mapsOfTrade(visit.trade, visit.patient));
  const maps = $derived([
    ...new Set([
      ...usual,
      ...standing.flatMap(({ links, slot }) =>
        [...links, ...(slot?.places ?? [])].flatMap((place) => {
          const map = placeMap(place);
          return map ? [ownMap(map, usual)] : [];
        })
      )
    ])
  ]);

  const linkedWords = (picture: PictureView) => ({
    words:
      picture.links.length > 0
        ? showPlaces(picture.links, notation)
        : picture.slot?.places.length && !picture.placed
          ? 'not linked'
          : 'linked to no place',
    done: picture.placed
  });

  function choosePlace(place: Place) {
    if (!one) return;
    const has = one.links.some((each) => samePlace(each, place));
    const places = has ? one.links.filter((each) => !samePlace(each, place)) : [...one.links, place];
    void store.link([{ pictureId: one.pictureId, places }]);
  }
  const linkOffered = () =>
    void store.link(unlinked.map(({ pictureId, slot }) => ({ pictureId, places: slot!.places })));

  let attributes = $state.raw<{ of: LeavingPicture; name: string } | null>(null);
  let attributesOpen = $state(false);
  async function showAttributes() {
    const [picture] = chosen;
    if (!picture) return;
    const found = await leavingOf<LeavingView>(visit.visitId, [picture.pictureId], desk.ruleId || null);
    if (typeof found === 'string') message = found;
    else [attributes, attributesOpen] = [{ of: found.pictures[0], name: pictureName(picture) }, true];
  }

  async function sendParcel() {
    sending = true;
    const answer = await outbox.put({
      url: `/api/visits/${visit.visitId}/parcels`,
      body: desk.wish(chosen),
      lane: `parcels ${visit.visitId}`,
      words: `Sending ${countWords(chosen.length, 'picture', 'pictures')}`
    });
    sending = false;
    if (!answer) return;
    message = leftWords(answer as unknown as SentParcel);
  }
</script>

<main class="flex min-h-0 flex-1 gap-3 px-4 pb-4">
  <section class="panel flex w-56 shrink-0 flex-col gap-2 overflow-y-auto p-3" aria-labelledby="which">
    <div class="flex items-baseline justify-between">
      <h2 id="which" class="heading">{countWords(chosen.length, 'picture', 'pictures')} chosen</h2>
      <button class="text-small font-semibold underline" onclick={() => (chosenIds = null)}>all</button>
    </div>
    <PickList
      pictures={standing}
      chosen={chosen.map((picture) => picture.pictureId)}
      verb="Choose"
      testid="file-picture"
      under={linkedWords}
      onchoose={(ids) => (chosenIds = ids)}
      onlook={(id) => (chosenIds = [id])}
    />
    {#if may.send && standing.length > 0}
      <button
        class="button text-small mt-auto"
        disabled={chosen.length === 0}
        onclick={showAttributes}
        data-testid="file-attributes"><TableProperties size={18} aria-hidden="true" />All attributes</button
      >
    {/if}
  </section>
  <section class="panel flex w-80 shrink-0 flex-col p-4 xl:w-[26rem]" aria-labelledby="link">
    <h1 id="link" class="text-title font-bold">Into the chart</h1>
    <p class="text-ink-soft">
      {#if one}Press what {pictureName(one)} shows to link it there, or to take the link off.{:else}Choose one
        picture to link it to what it shows.{/if}
    </p>
    <div class="min-h-0 flex-1 py-2">
      <BodyMap
        {maps}
        {notation}
        {counts}
        chosen={one?.links ?? []}
        {offered}
        child={isChild(visit.patient.birthDate)}
        onchoose={one && may.link ? choosePlace : undefined}
        label="Places to link"
      />
    </div>
    <button
      class="button {unlinked.length > 0 ? 'main' : ''}"
      onclick={linkOffered}
      disabled={unlinked.length === 0 || !may.link}
      data-testid="link-offered"
    >
      <Link2 size={19} aria-hidden="true" class="shrink-0" />
      {unlinked.length > 0
        ? `Link ${countWords(unlinked.length, 'picture', 'pictures')} to the places of their slots`
        : 'Every picture in a slot is linked'}
    </button>
  </section>
  <section class="panel flex min-w-0 flex-1 flex-col gap-3 overflow-y-auto p-4" aria-labelledby="parcel">
    <div class="flex items-baseline justify-between gap-3">
      <h2 id="parcel" class="text-title font-bold">Parcel</h2>
      {#if visit.closedAt}
        <span class="text-small text-lagoon flex items-center gap-2 font-semibold" data-testid="visit-closed">
          <DoorClosed size={17} aria-hidden="true" />Closed {clockWords(visit.closedAt)}
          {#if may.send}<button class="button px-3" onclick={openAgain}
              ><DoorOpen size={17} aria-hidden="true" />Open again</button
            >{/if}
        </span>
      {:else if may.send && standing.length > 0}
        <button class="button px-3" onclick={() => (closing = true)} data-testid="close-visit"
          ><DoorClosed size={17} aria-hidden="true" />Close the visit</button
        >
      {/if}
    </div>
    <Seal
      {desk}
      destinations={data.destinations}
      rules={data.rules}
      pictures={chosen}
      {example}
      may={may.send}
      {sending}
      {message}
      onsend={sendParcel}
    />
    {#if visit.told}
      {@const { name, due, toldAt, instances, problem } = visit.told}
      <p
        class="text-small {problem ? 'text-brass font-semibold' : 'text-ink-soft'}"
        data-testid="practice-told"
      >
        {#if problem}{name} could not be told of these pictures: {problem}{due
            ? ' It is tried again by itself.'
            : ''}
        {:else if toldAt && !due}{name} knows of {countWords(instances, 'picture', 'pictures')} in the archive,
          told at
          {clockWords(toldAt)}.
        {:else}{name} is being told of these pictures.{/if}
      </p>
    {/if}
    <DispatchList
      deliveries={store.deliveries}
      pictures={store.pictures}
      visitId={visit.visitId}
      mayTry={may.send}
    />
  </section>
</main>

{#if attributes}
  <AttributesDialog
    bind:open={attributesOpen}
    picture={attributes.of}
    name={attributes.name}
    identified={desk.identity === 'identified'}
    onsaid={showAttributes}
  />
{/if}
<CloseVisits
  bind:open={closing}
  visits={[{ visitId: visit.visitId, name: visit.patient.name, left }]}
  ondone={() => {}}
/>
