<script lang="ts">
  import type { ArrivalView } from '$core/arrivals/arrivalView';
  import { wellsAlong } from '$core/tray/tray';
  import type { TrayView } from '$core/visit/visitView';
  import { clockWords } from '../clock';
  import Select from '../kit/Select.svelte';
  import { sendOr } from '../net/send';
  import PickVisit from '../people/PickVisit.svelte';
  import type { PickedPatient } from '../people/pickedPatient';

  interface Near {
    visitId: string;
    openedAt: string;
    patientId: string;
    patient: string;
    recordNumber: string;
  }
  interface Target {
    visitId: string;
    trayId: string | null;
    slotId: string | null;
  }
  interface Props {
    arrival: ArrivalView;
    ongive: (target: Target, whom: string) => void;
  }
  let { arrival, ongive }: Props = $props();

  let near = $state.raw<Near[]>([]);
  let typed = $state('');
  let whom = $state.raw<PickedPatient | null>(null);
  let visitId = $state('');
  let trays = $state.raw<TrayView[]>([]);
  let place = $state('bench');

  $effect(() => {
    const { arrivalId, inFile } = arrival;
    whom = null;
    visitId = '';
    typed = inFile?.name.replaceAll('^', ' ').trim() ?? '';
    near = [];
    void sendOr<{ near: Near[] }>(`/api/arrivals/${arrivalId}`, { near: [] }).then((answer) => {
      if (arrival.arrivalId === arrivalId) near = answer.near;
    });
  });
  $effect(() => {
    const id = visitId;
    place = 'bench';
    trays = [];
    if (id)
      void sendOr<{ trays: TrayView[] }>(`/api/visits/${id}/trays`, { trays: [] }).then((answer) => {
        if (visitId === id) trays = answer.trays;
      });
  });

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
  function give() {
    const [trayId, slotId] = place === 'bench' ? [null, null] : place.split(' ');
    ongive({ visitId, trayId, slotId }, whom!.name);
  }
</script>

<section class="flex flex-col gap-3" aria-labelledby="whose">
  <h2 id="whose" class="text-lead font-bold">Whose is it?</h2>
  {#if !whom && arrival.inFile?.name}
    <p class="text-small text-ink-soft">
      The file says: <span class="text-ink font-semibold"
        >{[arrival.inFile.name.replaceAll('^', ' '), arrival.inFile.id, arrival.inFile.birthDate]
          .filter(Boolean)
          .join(', ')}</span
      >
    </p>
  {/if}
  <PickVisit bind:whom bind:visitId bind:typed>
    {#snippet before(choose)}
      {#each near as each (each.visitId)}
        <button
          class="button justify-start px-3 py-1.5 text-left leading-tight"
          onclick={() =>
            choose(
              { patientId: each.patientId, name: each.patient, detail: each.recordNumber },
              each.visitId
            )}
          data-testid="near"
        >
          <span class="min-w-0">
            <span class="block truncate font-bold">{each.patient}</span>
            <span class="text-small text-ink-soft font-normal"
              >In {arrival.room} that day, from {clockWords(each.openedAt)}</span
            >
          </span>
        </button>
      {/each}
    {/snippet}
  </PickVisit>
  {#if whom && visitId}
    <Select label="Place" bind:value={place} options={places} testid="place" />
    <button class="button main min-h-12" onclick={give} data-testid="give">Give it to {whom.name}</button>
  {/if}
</section>
