<script lang="ts">
  import { goto } from '$app/navigation';
  import { showTeeth } from '$core/anatomy/teeth';
  import { attempt, send } from '$ui/net/send';
  import { previewUrl } from '$ui/previewUrl';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import ToothMap from '$ui/teeth/ToothMap.svelte';
  import { countWords, dayWords } from '$ui/words';

  let { data } = $props();
  const notation = $derived(data.who!.notation);
  let chosen = $state<number[]>([]);
  const teethOf = (picture: (typeof data.chart.pictures)[number]) =>
    picture.teeth.length > 0 ? picture.teeth : (picture.slot?.teeth ?? []);
  const shown = $derived(
    chosen.length === 0
      ? data.chart.pictures
      : data.chart.pictures.filter((picture) => teethOf(picture).some((tooth) => chosen.includes(tooth)))
  );
  const days = $derived([...new Set(shown.map((picture) => dayWords(picture.takenAt)))]);
  const mayOpen = $derived(data.who!.may.acquire);

  function choose(tooth: number) {
    chosen = chosen.includes(tooth) ? chosen.filter((each) => each !== tooth) : [...chosen, tooth];
  }

  function openVisit(roomId: string) {
    return attempt(async () => {
      const { visitId } = await send<{ visitId: string }>('POST', '/api/visits', {
        patientId: data.chart.patient.patientId,
        roomId
      });
      await goto(`/visits/${visitId}/acquire`);
    });
  }
</script>

<svelte:head><title>{data.chart.patient.name} · Yonder Tray</title></svelte:head>
<div class="flex h-screen flex-col">
  <TopStrip><Patient patient={data.chart.patient} /></TopStrip>
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <div class="flex w-96 shrink-0 flex-col gap-4">
      <section class="panel flex min-h-0 flex-1 flex-col p-4" aria-labelledby="teeth">
        <div class="flex items-baseline justify-between">
          <h1 id="teeth" class="text-lead font-bold">Teeth with pictures</h1>
          {#if chosen.length > 0}<button
              class="text-small font-semibold underline"
              onclick={() => (chosen = [])}>show all</button
            >{/if}
        </div>
        <div class="min-h-0 flex-1">
          <ToothMap {notation} counts={data.chart.teeth} {chosen} onchoose={choose} />
        </div>
      </section>
      <section class="panel flex max-h-72 flex-col p-4" aria-labelledby="visits">
        <h2 id="visits" class="text-lead mb-1 font-bold">Visits</h2>
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <div class="min-h-0 overflow-y-auto" tabindex="0" role="region" aria-label="All visits">
          {#each data.chart.visits as visit (visit.visitId)}
            <a
              href="/visits/{visit.visitId}/acquire"
              class="hover:bg-tray flex min-h-11 items-center gap-3 rounded-lg px-2"
            >
              <span class="font-semibold">{dayWords(visit.openedAt)}</span>
              <span class="text-ink-soft">{visit.room}</span>
              <span class="text-small text-ink-soft ml-auto"
                >{countWords(visit.pictureCount, 'picture', 'pictures')}</span
              >
            </a>
          {:else}<p class="text-ink-soft">No visit yet.</p>{/each}
        </div>
        {#if mayOpen}
          <h3 class="heading mt-3 mb-1.5">Open a visit now in</h3>
          <div class="flex flex-wrap gap-2">
            {#each data.chart.rooms as room (room.roomId)}<button
                class="button px-3"
                onclick={() => openVisit(room.roomId)}>{room.name}</button
              >{/each}
          </div>
        {/if}
      </section>
    </div>
    <section class="panel min-w-0 flex-1 overflow-y-auto p-4" aria-labelledby="pictures">
      <h2 id="pictures" class="text-lead mb-3 font-bold">
        Pictures, newest first{chosen.length > 0 ? `, of ${showTeeth(chosen, notation)}` : ''}
      </h2>
      {#each days as day (day)}
        <h3 class="heading mt-2 mb-2">{day}</h3>
        <ul class="mb-4 grid grid-cols-[repeat(auto-fill,minmax(12.5rem,1fr))] gap-3">
          {#each shown.filter((picture) => dayWords(picture.takenAt) === day) as picture (picture.pictureId)}
            <li>
              <a
                href="/visits/{picture.visitId}/measure?picture={picture.pictureId}"
                class="border-rule block overflow-hidden rounded-lg border"
                data-testid="chart-picture"
              >
                <img
                  src={previewUrl(picture)}
                  alt="{picture.slot?.name ?? picture.fileName}, {day}"
                  class="bg-stage h-36 w-full object-contain"
                  loading="lazy"
                />
                <span class="block px-2.5 py-1.5">
                  <span class="block truncate font-semibold"
                    >{picture.slot
                      ? `${picture.slot.name}, ${picture.slot.projection}`
                      : picture.fileName || 'On the bench'}</span
                  >
                  <span class="text-small text-ink-soft block truncate"
                    >{teethOf(picture).length > 0
                      ? showTeeth(teethOf(picture), notation)
                      : 'no teeth linked'}</span
                  >
                </span>
              </a>
            </li>
          {/each}
        </ul>
      {:else}
        <p class="text-ink-soft">
          {chosen.length > 0
            ? 'No picture shows these teeth.'
            : 'No picture yet. Open a visit to take the first.'}
        </p>
      {/each}
      {#if data.chart.more}<p class="text-small text-ink-soft">
          The newest {data.chart.pictures.length} are shown.
        </p>{/if}
    </section>
  </main>
</div>
