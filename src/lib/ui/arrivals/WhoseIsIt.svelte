<script lang="ts">
  import type { ArrivalView } from '$core/arrivals/arrivalView';
  import type { FoundPatient } from '$core/people/foundPatient';
  import { wellsAlong } from '$core/tray/tray';
  import type { TrayView } from '$core/visit/visitView';
  import { clockWords, dateWords, dayWords } from '../clock';
  import Combobox from '../kit/Combobox.svelte';
  import Select from '../kit/Select.svelte';
  import { Refused, send } from '../net/send';

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
  let found = $state.raw<FoundPatient[]>([]);
  let whom = $state.raw<{ patientId: string; name: string; detail: string } | null>(null);
  let visits = $state.raw<{ visitId: string; openedAt: string; room: string }[]>([]);
  let visitId = $state('');
  let trays = $state.raw<TrayView[]>([]);
  let place = $state('bench');

  /** What can't be fetched is an empty list: the person types the name, or tries again. */
  async function asked<T>(url: string, nothing: T): Promise<T> {
    try {
      return await send<T>('GET', url);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      return nothing;
    }
  }

  $effect(() => {
    const { arrivalId, inFile } = arrival;
    whom = null;
    visitId = '';
    typed = inFile?.name.replaceAll('^', ' ').trim() ?? '';
    near = [];
    void asked<{ near: Near[] }>(`/api/arrivals/${arrivalId}`, { near: [] }).then((answer) => {
      if (arrival.arrivalId === arrivalId) near = answer.near;
    });
  });
  $effect(() => {
    const words = typed.trim();
    if (words.length < 2) {
      found = [];
      return;
    }
    const url = `/api/patients?words=${encodeURIComponent(words)}`;
    void asked<{ patients: FoundPatient[] }>(url, { patients: [] }).then((answer) => {
      if (typed.trim() === words) found = answer.patients;
    });
  });
  $effect(() => {
    const id = visitId;
    place = 'bench';
    trays = [];
    if (id)
      void asked<{ trays: TrayView[] }>(`/api/visits/${id}/trays`, { trays: [] }).then((answer) => {
        if (visitId === id) trays = answer.trays;
      });
  });

  const detailOf = ({ recordNumber, birthDate, why }: FoundPatient) =>
    [recordNumber, birthDate ? dateWords(birthDate) : '', ...why].filter(Boolean).join(' · ');

  async function pick(patientId: string) {
    const one = found.find((each) => each.patientId === patientId);
    if (!one) return;
    await choose({ patientId, name: one.name, detail: detailOf(one) }, null);
  }
  async function choose(person: NonNullable<typeof whom>, its: string | null) {
    whom = person;
    const answer = await asked<{ visits: typeof visits }>(`/api/patients/${person.patientId}/visits`, {
      visits: []
    });
    visits = answer.visits;
    visitId = its ?? visits[0]?.visitId ?? '';
  }

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
  {#if whom}
    <div class="border-rule bg-paper flex items-start gap-2 rounded-lg border px-3 py-2">
      <p class="min-w-0 flex-1" data-testid="whom">
        <span class="text-lead block font-bold">{whom.name}</span>
        <span class="text-small text-ink-soft">{whom.detail}</span>
      </p>
      <button class="button text-small px-3" onclick={() => (whom = null)}>Another</button>
    </div>
    {#if visits.length === 0}
      <p class="text-ink-soft">
        No visit yet. Open one from the chart, then come back here.
        <a class="font-semibold underline" href="/patients/{whom.patientId}">To the chart</a>
      </p>
    {:else}
      <Select
        label="Visit"
        bind:value={visitId}
        testid="visit"
        options={visits.map((each) => ({
          value: each.visitId,
          words: `${dayWords(each.openedAt)}, ${clockWords(each.openedAt)}`,
          detail: each.room
        }))}
      />
      <Select label="Place" bind:value={place} options={places} testid="place" />
      <button class="button main min-h-12" onclick={give} disabled={!visitId} data-testid="give"
        >Give it to {whom.name}</button
      >
    {/if}
  {:else}
    {#if arrival.inFile?.name}
      <p class="text-small text-ink-soft">
        The file says: <span class="text-ink font-semibold"
          >{[arrival.inFile.name.replaceAll('^', ' '), arrival.inFile.id, arrival.inFile.birthDate]
            .filter(Boolean)
            .join(', ')}</span
        >
      </p>
    {/if}
    {#each near as each (each.visitId)}
      <button
        class="button justify-start px-3 py-1.5 text-left leading-tight"
        onclick={() =>
          void choose(
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
    <Combobox
      label="Name, number or owner"
      options={found.map((each) => ({ value: each.patientId, words: each.name, detail: detailOf(each) }))}
      bind:typed
      nothing="Nobody by that name or number."
      testid="whose"
      onchoose={(id) => void pick(id)}
    />
  {/if}
</section>
