<script lang="ts">
  import { goto } from '$app/navigation';
  import type { JoinedChart } from '$core/people/joinedChart';
  import type { PatientBand } from '$core/visit/visitView';
  import { dateWords, dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';

  interface Props {
    patient: PatientBand;
    joins: readonly JoinedChart[];
    mayJoin: boolean;
  }
  let { patient, joins, mayJoin }: Props = $props();
  let parting = $state.raw<JoinedChart | null>(null);
  let reason = $state('');

  async function part() {
    const its = parting!;
    const done = await attempt(() => ask(`/api/joinings/${its.joinId}/part`, { reason }));
    if (!done) return;
    parting = null;
    await goto(`/patients/${its.gone.patientId}`, { invalidateAll: true });
  }
</script>

{#each joins as each (each.joinId)}
  {@const here = each.gone.patientId === patient.patientId}
  <div
    class="bg-brass-wash text-small mt-1.5 flex items-center gap-3 rounded-lg px-3 py-2"
    data-testid="joined-chart"
  >
    <p class="min-w-0 flex-1">
      {#if each.parted}
        The chart {here ? '' : `${each.gone.recordNumber} (${each.gone.name}) `}was joined with {here
          ? 'another'
          : 'this one'} on {dayWords(each.at)} by {each.by}: {each.reason}. Parted again on {dayWords(
          each.parted.at
        )} by {each.parted.by}: {each.parted.reason}
      {:else}
        The chart <span class="font-semibold">{each.gone.recordNumber}</span>
        ({each.gone.name}{each.gone.birthDate ? `, born ${dateWords(each.gone.birthDate)}` : ''}) lies in this
        one since
        {dayWords(each.at)}, by {each.by}: {each.reason}
      {/if}
    </p>
    {#if !each.parted && mayJoin}
      <button
        class="button text-small shrink-0 px-3"
        onclick={() => {
          parting = each;
          reason = '';
        }}
        data-testid="part-charts">Part them</button
      >
    {/if}
  </div>
{/each}
<Dialog
  bind:open={() => parting !== null, (open) => open || (parting = null)}
  title="Part the charts"
  message="What came with {parting?.gone
    .recordNumber} goes back to it. Visits that were opened since then stay here: move their pictures by hand."
>
  <TextField label="Why they are two patients" bind:value={reason} most={300} testid="part-reason" />
  <div class="mt-4 flex justify-end gap-2">
    <button class="button" onclick={() => (parting = null)}>Leave them</button>
    <button
      class="button main"
      disabled={reason.trim().length < 3}
      onclick={() => void part()}
      data-testid="part">Part them</button
    >
  </div>
</Dialog>
