<script lang="ts">
  import { language } from '../writing';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { toast } from 'svelte-sonner';
  import { dayOf, instantOf } from '$core/time/clinicTime';
  import { mapsOfTrade } from '$core/anatomy/maps';
  import { type Place, samePlace, showPlaces } from '$core/anatomy/place';
  import { placesOf } from '$core/picture/pictureView';
  import { wellsAlong } from '$core/tray/tray';
  import BodyMap from '../body/BodyMap.svelte';
  import { isChild } from '../body/child';
  import { clockWords, momentWords } from '../clock';
  import DateField from '../kit/DateField.svelte';
  import Select from '../kit/Select.svelte';
  import Tabs from '../kit/Tabs.svelte';
  import TextField from '../kit/TextField.svelte';
  import TimeField from '../kit/TimeField.svelte';
  import { ask, attempt } from '../net/send';
  import PickVisit from '../people/PickVisit.svelte';
  import type { PickedPatient } from '../people/pickedPatient';
  import type { LightTable } from './table.svelte';

  let { table, ondone }: { table: LightTable; ondone: () => void } = $props();
  const { store, notation } = $derived(table);
  const picture = $derived(table.picture!);
  const { timeZone } = $derived(page.data.who as { timeZone: string });

  const isoDayOf = (iso: string) => dayOf(new Date(iso), timeZone);
  const bench = 'bench';
  let tab = $state('is');
  // What stands when the card is opened.
  /* svelte-ignore state_referenced_locally */
  let day = $state(isoDayOf(picture.takenAt));
  /* svelte-ignore state_referenced_locally */
  let time = $state(clockWords(picture.takenAt));
  /* svelte-ignore state_referenced_locally */
  let name = $state(picture.layers.about?.name ?? '');
  /* svelte-ignore state_referenced_locally */
  let remark = $state(picture.layers.about?.remark ?? '');
  /* svelte-ignore state_referenced_locally */
  let slot = $state(picture.slot ? `${picture.trayId} ${picture.slot.id}` : bench);
  /* svelte-ignore state_referenced_locally */
  let places = $state.raw<Place[]>(placesOf(picture));
  let whom = $state.raw<PickedPatient | null>(null);
  let visitId = $state('');
  let reason = $state('');

  const instant = $derived.by(() => {
    const [year, month, date] = day.split('-').map(Number);
    const clock = /^(\d{2}):(\d{2})$/.exec(time);
    if (!clock || !date) return null;
    return instantOf({ year, month, day: date, hour: Number(clock[1]), minute: Number(clock[2]) }, timeZone);
  });
  const future = $derived(instant !== null && instant.getTime() > Date.now() + 60_000);
  const slots = $derived([
    ...store.trays.flatMap(({ trayId, tray }) =>
      wellsAlong(tray).map((well) => ({
        value: `${trayId} ${well.slot.id}`,
        words: well.slot.name,
        detail: well.takes.includes(picture.pictureId)
          ? 'Here now'
          : well.takes.length > 0
            ? 'Has a take'
            : 'Empty'
      }))
    ),
    { value: bench, words: 'The bench', detail: '' }
  ]);
  const same = (a: readonly Place[], b: readonly Place[]) =>
    a.length === b.length && a.every((each) => b.some((other) => samePlace(each, other)));
  function choose(place: Place) {
    const has = places.some((each) => samePlace(each, place));
    places = has ? places.filter((each) => !samePlace(each, place)) : [...places, place];
  }

  function keep() {
    const about = { name: name.trim(), remark: remark.trim() };
    const at = instant!.toISOString();
    // Hours and minutes are what is shown: what was not touched stays exact to the second.
    const moved = day !== isoDayOf(picture.takenAt) || time !== clockWords(picture.takenAt);
    table.putRight({
      taken: moved ? at : null,
      about:
        about.name === (picture.layers.about?.name ?? '') &&
        about.remark === (picture.layers.about?.remark ?? '')
          ? null
          : about,
      places: same(places, placesOf(picture)) ? null : places,
      slot: slot === (picture.slot ? `${picture.trayId} ${picture.slot.id}` : bench) ? null : slot
    });
    ondone();
  }

  async function move() {
    await attempt(async () => {
      const { sent } = await ask<{ sent: number }>(`/api/pictures/${picture.pictureId}/move`, {
        visitId,
        reason
      });
      ondone();
      if (sent > 0)
        toast.warning('This picture has left the clinic already, under the name it had.', {
          description: 'Tell those who got it. What is sent from now on carries the right one.',
          duration: 20_000
        });
      await goto(`/visits/${visitId}/check?picture=${picture.pictureId}`);
    });
  }
</script>

<Tabs
  label="What is wrong"
  bind:value={tab}
  tabs={[
    { value: 'is', words: 'What it is' },
    { value: 'shows', words: 'What it shows' },
    { value: 'whose', words: 'Whose it is' }
  ]}
>
  {#snippet children(tab)}
    {#if tab === 'whose'}
      <form
        class="mt-4 flex flex-col gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void move();
        }}
      >
        <p class="text-ink-soft">
          It goes to the bench of another visit, with all that was made on it. Both charts show that it was
          moved, and why.
        </p>
        <PickVisit bind:whom bind:visitId except={store.head.visitId} />
        <TextField
          label="Why"
          bind:value={reason}
          most={300}
          example="Taken while the wrong visit was open"
          testid="move-reason"
        />
        <button
          class="button main min-h-12"
          disabled={!whom || !visitId || reason.trim().length < 3}
          data-testid="move-picture">{whom ? `Move it to ${whom.name}` : 'Move it'}</button
        >
      </form>
    {:else}
      <form
        class="mt-4 flex flex-col gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        {#if tab === 'is'}
          <div class="grid grid-cols-2 gap-3">
            <div class="flex flex-col gap-1">
              <span class="font-semibold" aria-hidden="true">Day taken</span>
              <DateField
                language={language()}
                value={day}
                label="Day taken"
                testid="taken-day"
                onchange={(picked) => (day = picked)}
              />
            </div>
            <div class="flex flex-col gap-1">
              <span class="font-semibold" aria-hidden="true">Time</span>
              <TimeField value={time} label="Time" testid="taken-time" onchange={(typed) => (time = typed)} />
            </div>
          </div>
          {#if future}<p class="text-brass font-semibold" role="alert">This is still to come.</p>{/if}
          {#if picture.firstTakenAt}
            <p class="text-small text-ink-soft">
              {picture.source === 'device' ? 'The device' : 'The file'} said {momentWords(
                picture.firstTakenAt
              )}.
            </p>
          {/if}
          <div class="grid grid-cols-2 gap-3">
            <TextField
              label="Name of the view"
              bind:value={name}
              most={80}
              example={picture.slot?.name ?? picture.fileName}
              testid="view-name"
            />
            <div class="flex flex-col gap-1">
              <span class="font-semibold" aria-hidden="true">Slot</span>
              <Select label="Slot" bind:value={slot} options={slots} testid="right-slot" />
            </div>
          </div>
          <TextField label="Remark" bind:value={remark} long most={1000} testid="remark" />
        {:else}
          <div class="h-72">
            <BodyMap
              maps={mapsOfTrade(store.head.trade, store.head.patient)}
              {notation}
              counts={{}}
              chosen={places}
              child={isChild(store.head.patient.birthDate)}
              onchoose={choose}
              label="What it shows"
            />
          </div>
          <p class="font-semibold" role="status">
            {places.length > 0 ? showPlaces(places, notation) : 'No place'}
          </p>
        {/if}
        <div class="flex justify-end gap-2">
          <button class="button" type="button" onclick={ondone}>Leave it</button>
          <button class="button main" disabled={instant === null || future} data-testid="put-right"
            >Put it right</button
          >
        </div>
      </form>
    {/if}
  {/snippet}
</Tabs>
