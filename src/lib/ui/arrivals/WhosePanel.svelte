<script lang="ts">
  import { UserPlus } from '@lucide/svelte';
  import type { FoundPatient } from '$core/people/foundPatient';
  import type { PatientBand } from '$core/visit/visitView';
  import { clockWords, dateWords } from '../clock';
  import { Refused, ask, attempt } from '../net/send';
  import FindPerson from '../people/FindPerson.svelte';
  import type { Desk } from './desk.svelte';

  interface Props {
    desk: Desk;
    mayEnter: boolean;
    /** A patient was said, and the visit if that is known too. */
    onwhom: (patient: { patientId: string; name: string; detail: string }, visitId: string) => void;
  }
  let { desk, mayEnter, onwhom }: Props = $props();
  let typed = $state('');
  const { whose } = $derived(desk);
  const said = $derived(desk.shown?.inFile ?? desk.bundle?.inFile ?? null);
  const detailOf = ({ recordNumber, birthDate, species, owner }: PatientBand) =>
    [recordNumber, birthDate ? dateWords(birthDate) : '', species, owner].filter(Boolean).join(' · ');
  const bornWords = (day: string) => (/^\d{4}-\d{2}-\d{2}$/.test(day) ? `born ${dateWords(day)}` : day);

  $effect(() => {
    void desk.bundle?.bundleId;
    typed = '';
  });
  /** Somebody who is not here yet, from what the file says. */
  const fresh = $derived.by(() => {
    const from = whose.said;
    // An animal needs a record number of this clinic: it is entered by hand.
    if (!from || !from.birthDate || from.owner) return null;
    const [family = '', given = ''] = from.name
      .split('=')[0]
      .split('^')
      .map((part) => part.trim());
    if (!family || !given) return null;
    return {
      kind: 'person' as const,
      givenName: given,
      familyName: family,
      birthDate: from.birthDate,
      sex: /^[FMO]$/.test(from.sex) ? from.sex : ''
    };
  });
  async function enter() {
    const patient = fresh!;
    const name = `${patient.givenName} ${patient.familyName}`;
    const entered = (somebodyElse: boolean) =>
      ask<{ patientId: string }>('/api/patients', { patient, somebodyElse });
    await attempt(async () => {
      try {
        const { patientId } = await entered(false);
        onwhom({ patientId, name, detail: bornWords(patient.birthDate) }, '');
      } catch (error) {
        // Whoever is proposed above was looked at.
        if (!(error instanceof Refused) || error.code !== 'likely-double' || whose.proposed.length === 0)
          throw error;
        const { patientId } = await entered(true);
        onwhom({ patientId, name, detail: bornWords(patient.birthDate) }, '');
      }
    });
  }
</script>

<section class="flex flex-col gap-2" aria-labelledby="whose">
  <h2 id="whose" class="text-lead font-bold">Whose it seems to be</h2>
  {#if said}
    <p class="text-small text-ink-soft" data-testid="file-says">
      It says <span class="text-ink font-semibold"
        >{[said.name, said.id, bornWords(said.birthDate)].filter(Boolean).join(', ')}</span
      >
    </p>
  {/if}
  {#if desk.whom}
    <div class="border-rule bg-paper flex items-start gap-2 rounded-lg border px-3 py-2">
      <p class="min-w-0 flex-1" data-testid="whom">
        <span class="text-lead block font-bold">{desk.whom.name}</span>
        <span class="text-small text-ink-soft">{desk.whom.detail}</span>
      </p>
      <button
        class="button text-small px-3"
        type="button"
        onclick={() => {
          desk.whom = null;
          desk.visitId = '';
        }}>Another</button
      >
    </div>
  {:else}
    {#each whose.proposed as each, i (each.patient.patientId)}
      <button
        class="button items-start justify-start px-3 py-2 text-left leading-tight {i === 0 && whose.certain
          ? 'border-lagoon'
          : ''}"
        onclick={() =>
          onwhom(
            { patientId: each.patient.patientId, name: each.patient.name, detail: detailOf(each.patient) },
            ''
          )}
        data-testid="proposed"
      >
        <kbd class="text-small text-ink-soft mt-0.5 shrink-0">{i + 1}</kbd>
        <span class="min-w-0 flex-1">
          <span class="flex items-center gap-2 font-bold"
            >{each.patient.name}{#if i === 0 && whose.certain}<span
                class="chip bg-lagoon-wash text-lagoon ml-auto">fits</span
              >{/if}</span
          >
          <span class="text-small text-ink-soft block font-normal">{detailOf(each.patient)}</span>
          <span class="text-small block font-normal">{each.for.join(', ')}</span>
          {#each each.against as reason (reason)}
            <span class="text-small text-brass block font-semibold">{reason}</span>
          {/each}
        </span>
      </button>
    {/each}
    {#each whose.near as each (each.visitId)}
      <button
        class="button justify-start px-3 py-1.5 text-left leading-tight"
        onclick={() =>
          onwhom({ patientId: each.patientId, name: each.patient, detail: each.recordNumber }, each.visitId)}
        data-testid="near"
      >
        <span class="min-w-0">
          <span class="block truncate font-bold">{each.patient}</span>
          <span class="text-small text-ink-soft font-normal"
            >In {desk.shown?.room ?? 'its room'} that day, from {clockWords(each.openedAt)}</span
          >
        </span>
      </button>
    {/each}
    <FindPerson
      bind:typed
      onpick={(found: FoundPatient, detail: string) =>
        onwhom({ patientId: found.patientId, name: found.name, detail }, '')}
    />
    {#if mayEnter && fresh}
      <button
        class="button justify-start px-3 text-left leading-tight"
        onclick={() => void enter()}
        data-testid="enter-new"
      >
        <UserPlus size={18} class="shrink-0" aria-hidden="true" />
        <span class="min-w-0"
          ><span class="block font-bold">A new patient</span><span
            class="text-small text-ink-soft font-normal"
            >{fresh.givenName} {fresh.familyName}, {bornWords(fresh.birthDate)}</span
          ></span
        >
      </button>
    {/if}
  {/if}
</section>
