<script lang="ts">
  import { page } from '$app/state';
  import { Link2, Send } from '@lucide/svelte';
  import { showTeeth } from '$core/anatomy/teeth';
  import DispatchList from '$ui/file/DispatchList.svelte';
  import { attempt, send } from '$ui/net/send';
  import { previewUrl } from '$ui/previewUrl';
  import ToothMap from '$ui/teeth/ToothMap.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const visit = $derived(data.visit);
  const notation = $derived(data.who!.notation);
  const standing = $derived.by(() => {
    const wells = visit.tray.route.map((id) => visit.tray.wells[id]);
    const ids = [...wells.flatMap((well) => (well.keeper ? [well.keeper] : [])), ...visit.tray.bench];
    return ids.flatMap((id) => visit.pictures.find((picture) => picture.pictureId === id) ?? []);
  });
  let chosenIds = $state<string[] | null>(null);
  const chosen = $derived(
    standing.filter((picture) => chosenIds === null || chosenIds.includes(picture.pictureId))
  );
  let identity = $state<'identified' | 'deidentified'>(
    page.url.searchParams.get('identity') === 'deidentified' ? 'deidentified' : 'identified'
  );
  // svelte-ignore state_referenced_locally
  let destinationId = $state(data.destinations[0]?.destinationId ?? '');
  let sending = $state(false);
  let says = $state('');

  const one = $derived(chosen.length === 1 ? chosen[0] : null);
  const linked = $derived(one ? one.teeth : []);
  const offered = $derived(one?.slot?.teeth ?? []);
  const counts = $derived.by(() => {
    const all: Record<number, number> = {};
    for (const picture of standing) for (const tooth of picture.teeth) all[tooth] = (all[tooth] ?? 0) + 1;
    return all;
  });
  const unlinked = $derived(standing.filter((picture) => picture.slot && picture.teeth.length === 0));

  function toggle(pictureId: string) {
    const now = chosenIds ?? standing.map((picture) => picture.pictureId);
    chosenIds = now.includes(pictureId) ? now.filter((id) => id !== pictureId) : [...now, pictureId];
  }
  const link = (pictureIds: string[], teeth: number[]) =>
    attempt(() => send('PUT', '/api/links', { pictureIds, teeth }));

  function chooseTooth(tooth: number) {
    if (!one) return;
    void link(
      [one.pictureId],
      linked.includes(tooth) ? linked.filter((each) => each !== tooth) : [...linked, tooth]
    );
  }
  async function linkOffered() {
    for (const picture of unlinked) if (!(await link([picture.pictureId], picture.slot!.teeth))) return;
  }
  async function sendParcel() {
    sending = true;
    await attempt(async () => {
      const { sent, left } = await send<{ sent: number; left: number }>(
        'POST',
        `/api/visits/${visit.visitId}/parcels`,
        {
          key: crypto.randomUUID(),
          destinationId,
          identity,
          pictureIds: chosen.map((picture) => picture.pictureId)
        }
      );
      says =
        sent === 0
          ? 'All of these are there already, or on their way.'
          : left > 0
            ? `${left} were there already, or on their way, and stay out.`
            : '';
    });
    sending = false;
  }
</script>

<main class="flex min-h-0 flex-1 gap-3 px-4 pb-4">
  <section class="panel flex w-56 shrink-0 flex-col gap-2 overflow-y-auto p-3" aria-labelledby="which">
    <div class="flex items-baseline justify-between">
      <h2 id="which" class="heading">{countWords(chosen.length, 'picture', 'pictures')} chosen</h2>
      <button class="text-small font-semibold underline" onclick={() => (chosenIds = null)}>all</button>
    </div>
    {#each standing as picture (picture.pictureId)}
      {@const isChosen = chosen.includes(picture)}
      <div class="flex items-center gap-2 rounded-lg border p-1.5 {isChosen ? 'border-ink' : 'border-rule'}">
        <input
          type="checkbox"
          checked={isChosen}
          onchange={() => toggle(picture.pictureId)}
          class="accent-ink size-6"
          aria-label="Choose {picture.slot?.name ?? picture.fileName}"
        />
        <button
          class="min-w-0 flex-1 text-left"
          onclick={() => (chosenIds = [picture.pictureId])}
          data-testid="file-picture"
        >
          <img src={previewUrl(picture)} alt="" class="bg-stage h-16 w-full rounded object-contain" />
          <span class="text-small block truncate font-semibold"
            >{picture.slot?.name ?? (picture.fileName || 'Bench')}</span
          >
          <span
            class="text-small block truncate {picture.teeth.length > 0 ? 'text-lagoon' : 'text-ink-soft'}"
          >
            {picture.teeth.length > 0
              ? showTeeth(picture.teeth, notation)
              : picture.slot
                ? 'not linked'
                : 'no teeth'}
          </span>
        </button>
      </div>
    {:else}<p class="text-ink-soft">No picture yet.</p>{/each}
  </section>
  <section class="panel flex w-[26rem] shrink-0 flex-col p-4" aria-labelledby="link">
    <h1 id="link" class="text-title font-bold">Into the chart</h1>
    <p class="text-ink-soft">
      {#if one}Press teeth to link {one.slot?.name ?? one.fileName} to them, or take the link off.{:else}Choose
        one picture to link it to teeth.{/if}
    </p>
    <div class="min-h-0 flex-1 py-2">
      <ToothMap
        {notation}
        {counts}
        chosen={linked}
        {offered}
        onchoose={one && data.who!.may.link ? chooseTooth : undefined}
        label="Teeth to link"
      />
    </div>
    <button
      class="button {unlinked.length > 0 ? 'main' : ''}"
      onclick={linkOffered}
      disabled={unlinked.length === 0 || !data.who!.may.link}
      data-testid="link-offered"
    >
      <Link2 size={19} aria-hidden="true" />
      {unlinked.length > 0
        ? `Link ${countWords(unlinked.length, 'picture', 'pictures')} to the teeth of their slots`
        : 'Every picture in a slot is linked'}
    </button>
  </section>
  <section class="panel flex min-w-0 flex-1 flex-col gap-3 p-4" aria-labelledby="parcel">
    <h2 id="parcel" class="text-title font-bold">To the archive</h2>
    <div class="flex flex-wrap items-end gap-3">
      <fieldset class="min-w-0">
        <legend class="heading mb-1">Identity</legend>
        <div class="flex gap-1">
          {#each [['identified', 'Kept'], ['deidentified', 'De-identified']] as const as [value, words] (value)}
            <label
              class="button has-checked:border-coral! has-checked:bg-coral-wash! px-3 has-focus-visible:outline-3"
            >
              <input type="radio" name="identity" {value} bind:group={identity} class="sr-only" />{words}
            </label>
          {/each}
        </div>
      </fieldset>
      <label class="min-w-0 flex-1">
        <span class="heading mb-1 block">Destination</span>
        <select
          bind:value={destinationId}
          class="border-rule bg-paper min-h-11 w-full rounded-lg border px-3"
        >
          {#each data.destinations as each (each.destinationId)}<option value={each.destinationId}
              >{each.name}</option
            >{/each}
        </select>
      </label>
    </div>
    <button
      class="button main text-lead min-h-13"
      onclick={sendParcel}
      disabled={sending || chosen.length === 0 || !destinationId || !data.who!.may.send}
      data-testid="send"
    >
      <Send size={20} aria-hidden="true" />Send {countWords(chosen.length, 'picture', 'pictures')}
    </button>
    {#if data.destinations.length === 0}<p class="text-small text-brass">
        This clinic has no destination yet.
      </p>{/if}
    {#if says}<p role="status" class="text-small text-ink-soft font-semibold">{says}</p>{/if}
    <DispatchList deliveries={visit.deliveries} pictures={visit.pictures} mayTry={data.who!.may.send} />
  </section>
</main>
