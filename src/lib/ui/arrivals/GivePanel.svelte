<script lang="ts">
  import { page } from '$app/state';
  import { cameWhenTaken } from '$core/arrivals/arrivalView';
  import { mapOfKey } from '$core/anatomy/maps';
  import { placeKey } from '$core/anatomy/place';
  import { dayOf } from '$core/time/clinicTime';
  import type { Trade } from '$core/tray/pattern';
  import { wellsAlong } from '$core/tray/tray';
  import type { TrayView } from '$core/visit/visitView';
  import { dayWords, momentWords } from '../clock';
  import Select from '../kit/Select.svelte';
  import { sendOr } from '../net/send';
  import type { Desk } from './desk.svelte';

  interface Props {
    desk: Desk;
    rooms: readonly { roomId: string; name: string; trade: Trade }[];
  }
  let { desk, rooms }: Props = $props();
  const { timeZone } = $derived(page.data.who as { timeZone: string });
  interface Visit {
    visitId: string;
    openedAt: string;
    room: string;
    trade: Trade;
  }
  let visits = $state.raw<Visit[]>([]);
  let trays = $state.raw<TrayView[]>([]);
  let place = $state('bench');
  let choice = $state('');

  /** What says when: a picture that is dated by itself, before one that is not, before a paper. */
  const first = $derived(
    desk.meant.find(({ dated }) => dated) ?? desk.meant.find(({ kind }) => kind !== 'paper') ?? desk.shown
  );
  const takenAt = $derived(first ? desk.takenOf(first) : new Date().toISOString());
  const dayTaken = $derived(dayOf(new Date(takenAt), timeZone));
  /** The room of the trade that what it shows belongs to. */
  const tradeShown = $derived.by((): Trade | null => {
    const keys = desk.meant.flatMap((arrival) => desk.placesOf(arrival)).map(placeKey);
    const map = keys.map(mapOfKey).find(Boolean);
    if (map === undefined || map === null)
      return keys.some((key) => key.startsWith('wide view')) ? 'teeth' : null;
    if (map === 'teeth') return 'teeth';
    return map === 'eyes' ? 'eyes' : map === 'bones' ? 'bones' : 'animals';
  });

  $effect(() => {
    const whom = desk.whom;
    visits = [];
    if (whom)
      void sendOr<{ visits: Visit[] }>(`/api/patients/${whom.patientId}/visits`, { visits: [] }).then(
        (answer) => {
          if (desk.whom === whom) visits = answer.visits;
        }
      );
  });
  $effect(() => {
    const sameDay = visits.find(
      ({ openedAt, trade }) =>
        dayOf(new Date(openedAt), timeZone) === dayTaken && (tradeShown === null || trade === tradeShown)
    );
    const came = first && cameWhenTaken(first.source);
    choice = desk.visitId || sameDay?.visitId || (came ? (visits[0]?.visitId ?? 'new') : 'new');
  });
  let roomId = $derived((rooms.find(({ trade }) => trade === tradeShown) ?? rooms[0])?.roomId ?? '');
  $effect(() => {
    const id = choice;
    place = 'bench';
    trays = [];
    if (id && id !== 'new')
      void sendOr<{ trays: TrayView[] }>(`/api/visits/${id}/trays`, { trays: [] }).then((answer) => {
        if (choice === id) trays = answer.trays;
      });
  });
  const options = $derived([
    { value: 'new', words: `A visit of its own, ${dayWords(takenAt)}`, detail: 'Under the day it was taken' },
    ...visits.map((each) => ({
      value: each.visitId,
      words: momentWords(each.openedAt),
      detail: each.room
    }))
  ]);
  /** Slots that can take it: the empty ones first. */
  const places = $derived([
    { value: 'bench', words: 'The bench', detail: 'To be put in its place later' },
    ...trays.flatMap(({ trayId, tray }) =>
      wellsAlong(tray)
        .toSorted((a, b) => a.takes.length - b.takes.length)
        .map(({ slot, takes }) => ({
          value: `${trayId} ${slot.id}`,
          words: slot.name,
          detail: takes.length > 0 ? 'Has a take' : 'Empty'
        }))
    )
  ]);
  const count = $derived(desk.meant.length);

  /** Gives what is meant as it is said here. */
  export async function give() {
    const { whom } = desk;
    if (!whom || !choice) return;
    const [trayId, slotId] = place.split(' ');
    const to = choice === 'new' ? { patientId: whom.patientId, roomId, at: takenAt } : { visitId: choice };
    await desk.give(to, whom.name, place === 'bench' || count !== 1 ? null : { trayId, slotId });
  }
</script>

{#if desk.whom}
  <section class="flex flex-col gap-2" aria-label="Where it goes">
    <Select label="Visit" bind:value={choice} {options} testid="visit" />
    {#if choice === 'new'}
      <Select
        label="Room"
        bind:value={roomId}
        options={rooms.map(({ roomId: value, name }) => ({ value, words: name }))}
        testid="room"
      />
    {:else if count === 1 && places.length > 1}
      <Select label="Place" bind:value={place} options={places} testid="place" />
    {/if}
    <button class="button main min-h-12" onclick={() => void give()} data-testid="give"
      >{count === 1 ? `Give it to ${desk.whom.name}` : `Give ${count} to ${desk.whom.name}`}</button
    >
  </section>
{/if}
