<script lang="ts">
  import { Merge } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import type { PatientBand } from '$core/visit/visitView';
  import type { JoinedChart } from '$core/people/joinedChart';
  import { again } from '../net/going';
  import { dateWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';
  import FindPerson from '../people/FindPerson.svelte';
  import { countWords } from '../words';

  interface Props {
    patient: PatientBand;
    joins: readonly JoinedChart[];
  }
  let { patient, joins }: Props = $props();
  let joining = $state(false);
  let other = $state.raw<PatientBand | null>(null);
  let reason = $state('');
  const inside = $derived(joins.filter(({ parted }) => !parted));

  const dayOf = ({ birthDate }: PatientBand) => (birthDate ? dateWords(birthDate) : '');
  /** What is told of both, line by line, so that a difference strikes. */
  const lines = $derived(
    other === null
      ? []
      : (
          [
            ['name', patient.name, other.name],
            ['number', patient.recordNumber, other.recordNumber],
            ['born', dayOf(patient), dayOf(other)],
            ['sex', patient.sex, other.sex],
            ['species', patient.species ?? '', other.species ?? ''],
            ['owner', patient.owner ?? '', other.owner ?? ''],
            ['alert', patient.alert ?? '', other.alert ?? '']
          ] as const
        ).filter(([, a, b]) => a !== '' || b !== '')
  );

  function begin() {
    joining = true;
    other = null;
    reason = '';
  }
  async function join() {
    const done = await attempt(async () => {
      const wish = { otherId: other!.patientId, reason };
      const { sent } = await ask<{ sent: number }>(`/api/patients/${patient.patientId}/join`, wish);
      if (sent > 0)
        toast.warning(`${countWords(sent, 'picture', 'pictures')} went out under ${other!.recordNumber}.`, {
          description: 'Whoever has them has the former number. Tell them.',
          duration: 15_000
        });
    });
    if (!done) return;
    joining = false;
    await again();
  }
</script>

<button class="button quiet text-small shrink-0 px-2" onclick={begin} data-testid="join-charts"
  ><Merge size={17} aria-hidden="true" />{inside.length === 0
    ? 'Same patient as another chart'
    : 'Same patient as one more'}</button
>

<Dialog
  bind:open={joining}
  title="Two charts, one patient"
  message="What lies in the other chart lies in this one from then on. It can be parted again."
>
  {#if other === null}
    <FindPerson except={[patient.patientId]} onpick={(person) => (other = person)} />
  {:else}
    <table class="mb-4 w-full text-left" data-testid="both-charts">
      <thead>
        <tr class="text-small text-ink-soft">
          <td></td>
          <th class="py-1 font-semibold">this chart, stays</th>
          <th class="py-1 font-semibold">goes into it</th>
        </tr>
      </thead>
      <tbody>
        {#each lines as [what, mine, theirs] (what)}
          <tr class="border-rule border-t {mine === theirs ? '' : 'text-brass font-semibold'}">
            <th class="text-small text-ink-soft w-20 py-1.5 font-normal">{what}</th>
            <td class="py-1.5 pr-3">{mine || 'not known'}</td>
            <td class="py-1.5">{theirs || 'not known'}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if patient.birthDate && other.birthDate && patient.birthDate !== other.birthDate}
      <p class="bg-brass-wash text-brass mb-3 rounded-lg px-3 py-2 font-semibold" data-testid="births-differ">
        The birth dates differ. Ask the patient before you join them.
      </p>
    {/if}
    <TextField
      label="Why they are one patient"
      bind:value={reason}
      most={300}
      example="Entered twice; same birth date, married name"
      testid="join-reason"
    />
    <div class="mt-4 flex justify-end gap-2">
      <button class="button" onclick={() => (other = null)}>Another</button>
      <button
        class="button main"
        disabled={reason.trim().length < 3}
        onclick={() => void join()}
        data-testid="join">Join them</button
      >
    </div>
  {/if}
</Dialog>
