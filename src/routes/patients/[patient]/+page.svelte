<script lang="ts">
  import { FileText, LayoutGrid, ScrollText } from '@lucide/svelte';
  import { goto } from '$app/navigation';
  import { mapsOfTrade } from '$core/anatomy/maps';
  import { type Place, placeWords, samePlace, showPlaces } from '$core/anatomy/place';
  import { projectionWords } from '$core/anatomy/projections';
  import { keptOf } from '$core/picture/keptViews';
  import { findingsOf } from '$core/picture/pictureLayers';
  import { type PictureView, pictureName, placesOf } from '$core/picture/pictureView';
  import BodyMap from '$ui/body/BodyMap.svelte';
  import { isChild } from '$ui/body/child';
  import JoinedCharts from '$ui/chart/JoinedCharts.svelte';
  import { dayWords } from '$ui/clock';
  import { ask, attempt, send } from '$ui/net/send';
  import Small from '$ui/pictures/Small.svelte';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const chart = $derived(data.chart);
  const notation = $derived(data.who!.notation);

  /** Pages of older pictures that were asked for, of the chart that is open. */
  let more = $state.raw<{ patientId: string; pictures: PictureView[]; older: string | null } | null>(null);
  let asking = $state(false);
  const fetched = $derived(more?.patientId === chart.patient.patientId ? more : null);
  const pictures = $derived([...chart.pictures, ...(fetched?.pictures ?? [])]);
  const older = $derived(fetched ? fetched.older : chart.older);
  const total = $derived(chart.visits.reduce((sum, visit) => sum + visit.pictureCount, 0));

  let chosen = $state.raw<Place[]>([]);
  const shown = $derived(
    chosen.length === 0
      ? pictures
      : pictures.filter((picture) =>
          placesOf(picture).some((place) => chosen.some((each) => samePlace(each, place)))
        )
  );
  const days = $derived([...new Set(shown.map((picture) => dayWords(picture.takenAt)))]);
  /** What a chart without any visit begins with. */
  const maps = $derived(
    chart.maps.length > 0
      ? chart.maps
      : mapsOfTrade(chart.patient.kind === 'animal' ? 'animals' : 'teeth', chart.patient).slice(0, 1)
  );

  /** What a picture is and shows, without what its name says already. */
  function under(picture: PictureView): string {
    const places = placesOf(picture);
    const projection = picture.slot ? projectionWords(picture.slot.projection) : '';
    const said = pictureName(picture).toLowerCase();
    return [
      said.includes(projection) ? '' : projection,
      places.length > 0 ? showPlaces(places, notation) : 'linked to no place'
    ]
      .filter(Boolean)
      .join(', ');
  }

  function choose(place: Place) {
    const has = chosen.some((each) => samePlace(each, place));
    chosen = has ? chosen.filter((each) => !samePlace(each, place)) : [...chosen, place];
  }

  async function showOlder() {
    asking = true;
    const { patientId } = chart.patient;
    await attempt(async () => {
      const url = `/api/patients/${patientId}/pictures?after=${encodeURIComponent(older!)}`;
      const page = await send<{ pictures: PictureView[]; older: string | null }>('GET', url);
      more = { patientId, pictures: [...(fetched?.pictures ?? []), ...page.pictures], older: page.older };
    });
    asking = false;
  }

  function openVisit(roomId: string) {
    return attempt(async () => {
      const { patientId } = chart.patient;
      const { visitId } = await ask<{ visitId: string }>('/api/visits', { patientId, roomId });
      await goto(`/visits/${visitId}/acquire`);
    });
  }
</script>

<svelte:head><title>{chart.patient.name} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip
    ><Patient patient={chart.patient} />
    <a
      class="button quiet ml-2 shrink-0 px-2.5"
      href="/patients/{chart.patient.patientId}/overview"
      data-testid="overview"><LayoutGrid size={20} aria-hidden="true" />Overview</a
    >{#if data.who!.may.readRecord}<a
        class="button quiet shrink-0 px-2.5"
        href="/patients/{chart.patient.patientId}/record"
        data-testid="record"><ScrollText size={20} aria-hidden="true" />Record</a
      >{/if}</TopStrip
  >
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <div class="flex w-80 shrink-0 flex-col gap-4 xl:w-96">
      <section class="panel flex min-h-0 flex-1 flex-col p-4" aria-labelledby="places">
        <div class="flex items-baseline justify-between">
          <h1 id="places" class="text-lead font-bold">Places with pictures</h1>
          {#if chosen.length > 0}<button
              class="text-small font-semibold underline"
              onclick={() => (chosen = [])}>show all</button
            >{/if}
        </div>
        <div class="min-h-0 flex-1">
          <BodyMap
            {maps}
            {notation}
            counts={chart.counts}
            {chosen}
            child={isChild(chart.patient.birthDate)}
            onchoose={choose}
            label="Places with pictures"
          />
        </div>
      </section>
      <section class="panel flex max-h-72 flex-col p-4" aria-labelledby="visits">
        <h2 id="visits" class="text-lead mb-1 font-bold">Visits</h2>
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <div class="min-h-0 overflow-y-auto" tabindex="0" role="region" aria-label="All visits">
          {#each chart.visits as visit (visit.visitId)}
            <a
              href="/visits/{visit.visitId}/acquire"
              class="hover:bg-tray flex min-h-11 items-center gap-3 rounded-lg px-2"
            >
              <span class="min-w-0 py-1 leading-tight">
                <span class="block font-semibold whitespace-nowrap"
                  >{dayWords(visit.openedAt)}
                  <span class="text-ink-soft font-normal">{visit.room}</span></span
                >
                {#if visit.reason}<span class="text-small text-ink-soft line-clamp-2">{visit.reason}</span
                  >{/if}
              </span>
              <span class="text-small text-ink-soft ml-auto whitespace-nowrap"
                >{countWords(visit.pictureCount, 'picture', 'pictures')}</span
              >
            </a>
          {:else}<p class="text-ink-soft">No visit yet.</p>{/each}
        </div>
        {#if data.who!.may.acquire}
          <h3 class="heading mt-3 mb-1.5">Open a visit now in</h3>
          <div class="flex flex-wrap gap-2">
            {#each chart.rooms as room (room.roomId)}<button
                class="button px-3"
                onclick={() => openVisit(room.roomId)}>{room.name}</button
              >{/each}
          </div>
        {/if}
      </section>
    </div>
    <section class="panel relative min-w-0 flex-1 overflow-y-auto p-4" aria-labelledby="pictures">
      {#if chart.papers.length > 0}
        <div class="mb-4 flex items-baseline gap-3 pr-56">
          <h2 class="text-lead font-bold">Papers</h2>
          <ul class="flex flex-wrap gap-2" data-testid="chart-papers">
            {#each chart.papers as { paperId, title, pages, addedAt } (paperId)}
              <li>
                <a class="button px-3" href="/api/papers/{paperId}" target="_blank" rel="noopener"
                  ><FileText size={18} class="shrink-0" aria-hidden="true" /><span
                    >{title}
                    <span class="text-small text-ink-soft font-normal"
                      >{countWords(pages, 'page', 'pages')}, {dayWords(addedAt)}</span
                    ></span
                  ></a
                >
              </li>
            {/each}
          </ul>
        </div>
      {/if}
      <h2 id="pictures" class="text-lead mb-3 font-bold">
        Pictures, newest first{chosen.length > 0
          ? `, of ${chosen.length === 1 && chosen[0].kind !== 'tooth' ? placeWords(chosen[0], notation) : showPlaces(chosen, notation)}`
          : ''}
      </h2>
      <JoinedCharts patient={chart.patient} joins={chart.joins} mayJoin={data.who!.may.joinCharts} />
      {#each chart.moves as move (move.at)}
        <p class="bg-brass-wash text-small mb-2 rounded-lg px-3 py-2" data-testid="moved">
          {#if move.what === 'within'}A picture was moved to another visit of this chart
          {:else}
            A picture {move.what === 'left' ? 'was moved from here to' : 'came here from'}
            <a class="font-semibold underline" href="/patients/{move.patientId}"
              >{move.patient} ({move.recordNumber})</a
            >
          {/if} on {dayWords(move.at)}, by {move.by}: {move.reason}
        </p>
      {/each}
      {#each days as day (day)}
        {@const ofDay = shown.filter((picture) => dayWords(picture.takenAt) === day)}
        {@const keptThere = keptOf(ofDay)}
        <h3 class="heading mt-2 mb-2">
          {day}
          {#if keptThere.length > 0}
            <a
              class="ml-3 font-semibold underline"
              href="/visits/{keptThere[0].picture.visitId}/kept"
              data-testid="kept-of-day">{countWords(keptThere.length, 'kept view', 'kept views')}</a
            >
          {/if}
        </h3>
        <ul class="mb-4 grid grid-cols-[repeat(auto-fill,minmax(12.5rem,1fr))] gap-3">
          {#each ofDay as picture (picture.pictureId)}
            <li>
              <a
                href="/visits/{picture.visitId}/measure?picture={picture.pictureId}"
                class="border-rule block h-full overflow-hidden rounded-lg border"
                data-testid="chart-picture"
              >
                <Small {picture} alt="{pictureName(picture)}, {day}" frame="h-36 w-full" lazy />
                <span class="block px-2.5 py-1.5 leading-tight">
                  <span class="block font-semibold break-words">{pictureName(picture)}</span>
                  <span class="text-small text-ink-soft block">{under(picture)}</span>
                  {#if keptOf([picture]).length > 0}
                    <span class="text-small text-lagoon block font-semibold" data-testid="chart-kept"
                      >{countWords(keptOf([picture]).length, 'kept view', 'kept views')}</span
                    >
                  {/if}
                  {#each findingsOf(picture.layers) as { id, finding } (id)}
                    <span class="text-small block"
                      >{finding.place ? `${placeWords(finding.place, notation)}: ` : ''}{finding.words}</span
                    >
                  {/each}
                </span>
              </a>
            </li>
          {/each}
        </ul>
      {:else}
        <p class="text-ink-soft">
          {chosen.length > 0
            ? older
              ? 'None of the newest pictures shows this place.'
              : 'No picture shows this place.'
            : 'No picture yet. Open a visit to take the first.'}
        </p>
      {/each}
      {#if older}
        <button class="button mt-2" onclick={showOlder} disabled={asking} data-testid="older">
          Show older pictures ({pictures.length} of {total} are here)
        </button>
      {/if}
    </section>
  </main>
</div>
