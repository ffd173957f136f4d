<script lang="ts">
  import { FileText, LayoutGrid, Notebook } from '@lucide/svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { goto } from '$app/navigation';
  import { type Place, placeKey, placeWords, showPlaces } from '$core/anatomy/place';
  import { placeOfKey } from '$core/anatomy/placeOfKey';
  import { photographViews } from '$core/anatomy/places/photograph';
  import { wideViews } from '$core/anatomy/places/wideView';
  import { type PictureView, pictureName, placesOf } from '$core/picture/pictureView';
  import BodyDrawing from '$ui/body/BodyDrawing.svelte';
  import { isChild } from '$ui/body/child';
  import { sheetsOf } from '$core/body/drawings';
  import { dayWords } from '$ui/clock';
  import Tick from '$ui/kit/Tick.svelte';
  import { attempt, send } from '$ui/net/send';
  import Shelf from '$ui/overview/Shelf.svelte';
  import Small from '$ui/pictures/Small.svelte';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const { patient, maps, counts, loops, noPlace, papers } = $derived(data.overview);
  const notation = $derived(data.who!.notation);
  const most = 6;

  const person = $derived(patient.kind === 'person');
  const sheets = $derived(
    sheetsOf(maps).filter(
      ({ id, drawing }) =>
        id !== 'mixed teeth' &&
        (!['milk teeth', 'hands and feet'].includes(id) ||
          (id === 'milk teeth' && isChild(patient.birthDate)) ||
          drawing.spots.some(({ place }) => counts[placeKey(place)]))
    )
  );
  const drawn = $derived(
    new Set(sheets.flatMap(({ drawing }) => drawing.spots.map(({ place }) => placeKey(place))))
  );
  /** On a sheet: how many of its places have a picture. */
  const filled = (keys: readonly string[]) => keys.filter((key) => counts[key]).length;
  const shelfOf = (places: readonly Place[], always: boolean) =>
    places
      .map((place) => ({
        key: placeKey(place),
        words: showPlaces([place], notation),
        count: counts[placeKey(place)] ?? 0
      }))
      .filter(({ count }) => always || count > 0);
  const wide = $derived(
    shelfOf(
      wideViews.map((view) => ({ kind: 'wide view' as const, view })),
      person
    )
  );
  const photographs = $derived(
    shelfOf(
      photographViews.map((view) => ({ kind: 'photograph' as const, view })),
      person
    )
  );
  const others = $derived(
    Object.entries(counts)
      .filter(([key]) => !drawn.has(key) && !/^(wide view|photograph):/.test(key))
      .flatMap(([key, count]) => {
        const place = placeOfKey(key);
        return place ? [{ key, words: placeWords(place, notation), count }] : [];
      })
  );

  const chosen = new SvelteSet<string>();
  const keys = $derived([...chosen]);
  let pictures = $state.raw<PictureView[]>([]);
  const picked = new SvelteSet<string>();
  const toOpen = $derived(pictures.filter(({ pictureId }) => picked.has(pictureId)));

  function choose(key: string) {
    if (chosen.has(key)) chosen.delete(key);
    else chosen.add(key);
    void look();
  }
  /** Looks up the pictures of what is chosen; the newest of each place are picked, as many as lie side by side. */
  function look() {
    const asked = [...chosen];
    if (asked.length === 0) {
      pictures = [];
      picked.clear();
      return;
    }
    return attempt(async () => {
      const query = asked.map((key) => `place=${encodeURIComponent(key)}`).join('&');
      const found = await send<PictureView[]>('GET', `/api/patients/${patient.patientId}/showing?${query}`);
      if (asked.join() !== [...chosen].join()) return;
      pictures = found;
      const kept = found.filter(({ pictureId }) => picked.has(pictureId));
      const newest = asked.flatMap(
        (key) => found.find((each) => placesOf(each).some((place) => placeKey(place) === key)) ?? []
      );
      picked.clear();
      for (const { pictureId } of [...kept, ...newest].slice(0, most)) picked.add(pictureId);
      if (picked.size === 0 && found[0]) picked.add(found[0].pictureId);
    });
  }
  function open() {
    const [first] = toOpen;
    if (!first) return;
    const on = toOpen.length > 1 ? `&on=${toOpen.map(({ pictureId }) => pictureId).join('.')}` : '';
    void goto(`/visits/${first.visitId}/measure?picture=${first.pictureId}${on}`);
  }
</script>

<svelte:head><title>Overview of {patient.name} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip
    ><Patient {patient} />
    <a class="button quiet ml-2 shrink-0 px-2.5" href="/patients/{patient.patientId}"
      ><Notebook size={20} aria-hidden="true" />Chart</a
    ></TopStrip
  >
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <div class="panel flex min-w-0 flex-1 flex-col gap-3 overflow-y-auto p-4">
      <h1 class="text-title font-bold">What there is, and what there is not</h1>
      <div class="grid min-h-80 flex-1 auto-cols-fr grid-flow-col gap-4">
        {#each sheets as { id, words, drawing } (id)}
          {@const onIt = drawing.spots.map(({ place }) => placeKey(place))}
          <section
            class="flex min-w-0 flex-col"
            aria-label={words}
            data-testid="sheet-{id.replaceAll(' ', '-')}"
          >
            <h2 class="heading">
              {words}
              <span class="font-normal"
                >{filled(onIt) === 0 ? 'none yet' : `${filled(onIt)} of ${onIt.length}`}</span
              >
            </h2>
            <div class="min-h-0 flex-1 pb-7">
              <BodyDrawing
                {drawing}
                {notation}
                {counts}
                chosen={keys}
                offered={[]}
                label={words}
                onchoose={(place) => choose(placeKey(place))}
              />
            </div>
          </section>
        {/each}
      </div>
      <div class="border-rule grid grid-cols-3 gap-x-6 gap-y-3 border-t pt-3">
        {#if photographs.length > 0}<div class="col-span-2 row-span-3">
            <Shelf title="Photographs" items={photographs} chosen={keys} onchoose={choose} />
          </div>{/if}
        {#if wide.length > 0}<Shelf title="Wide views" items={wide} chosen={keys} onchoose={choose} />{/if}
        <Shelf
          title="The rest"
          items={[
            { key: 'loops', words: 'loops', count: loops },
            ...others,
            { key: 'no place', words: 'of no place', count: noPlace }
          ]}
          chosen={keys}
          onchoose={choose}
        />
        <section aria-labelledby="papers">
          <h2 id="papers" class="heading mb-1.5">Papers</h2>
          {#if papers.length === 0}<p class="text-ink-soft">None.</p>{:else}
            <ul class="flex flex-wrap gap-1.5">
              {#each papers as { paperId, title } (paperId)}
                <li>
                  <a class="button px-3" href="/api/papers/{paperId}" target="_blank" rel="noopener"
                    ><FileText size={18} aria-hidden="true" />{title}</a
                  >
                </li>
              {/each}
            </ul>
          {/if}
        </section>
      </div>
    </div>
    <aside class="panel flex w-80 shrink-0 flex-col gap-3 p-4" aria-label="Picked">
      {#if chosen.size === 0}
        <div class="m-auto text-center">
          <p class="text-lead font-bold">Pick places</p>
          <p class="text-ink-soft mt-1">
            Filled ones have pictures, hollow ones have none. What is picked is listed here, and opens
            together.
          </p>
        </div>
      {:else}
        <h2 class="text-lead font-bold">
          {countWords(pictures.length, 'picture', 'pictures')}
        </h2>
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <div
          class="-mx-2 min-h-0 flex-1 overflow-y-auto px-2"
          tabindex="0"
          role="region"
          aria-label="Pictures"
        >
          <ul class="flex flex-col gap-1.5">
            {#each pictures as picture (picture.pictureId)}
              {@const is = picked.has(picture.pictureId)}
              <li
                class="flex items-center gap-1 rounded-lg border {is
                  ? 'border-coral bg-coral-wash'
                  : 'border-rule'}"
                data-testid="overview-picture"
              >
                <Tick
                  checked={is}
                  label="Open {pictureName(picture)} of {dayWords(picture.takenAt)}"
                  onchange={(on) => {
                    if (!on) picked.delete(picture.pictureId);
                    else if (picked.size < most) picked.add(picture.pictureId);
                  }}
                />
                <Small {picture} frame="h-16 w-20 shrink-0 rounded-md" lazy />
                <span class="min-w-0 flex-1 p-1.5 leading-tight">
                  <span class="block font-semibold break-words">{pictureName(picture)}</span>
                  <span class="text-small text-ink-soft block">{dayWords(picture.takenAt)}</span>
                </span>
              </li>
            {:else}
              <li class="text-ink-soft">No picture shows what is picked.</li>
            {/each}
          </ul>
        </div>
        {#if picked.size === most}<p class="text-small text-ink-soft">Six lie side by side; no more.</p>{/if}
        <div class="flex gap-2">
          <button
            class="button px-3"
            onclick={() => {
              chosen.clear();
              void look();
            }}>Pick none</button
          >
          <button
            class="button main flex-1"
            disabled={toOpen.length === 0}
            onclick={open}
            data-testid="open-together"
            ><LayoutGrid size={18} aria-hidden="true" />{toOpen.length > 1
              ? `Open ${toOpen.length} together`
              : 'Open it'}</button
          >
        </div>
      {/if}
    </aside>
  </main>
</div>
