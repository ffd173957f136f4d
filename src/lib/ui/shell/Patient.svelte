<script lang="ts">
  import { TriangleAlert } from '@lucide/svelte';
  import { ageWords, dayWords } from '../words';

  interface Band {
    patientId: string;
    kind: 'person' | 'animal';
    name: string;
    birthDate: string | null;
    sex: string;
    recordNumber: string;
    species: string | null;
    owner: string | null;
    alert: string | null;
  }
  let { patient, room = null }: { patient: Band; room?: string | null } = $props();
</script>

<section
  aria-label="Patient"
  class="border-rule bg-sheet flex min-w-0 flex-1 items-center gap-4 overflow-hidden rounded-l-full rounded-r-md border py-1.5 pr-4 pl-3"
>
  <span class="flex shrink-0 flex-col gap-1" aria-hidden="true">
    {#each [0, 1, 2] as hole (hole)}<span class="border-ink-soft size-1.5 rounded-full border"></span>{/each}
  </span>
  <a href="/patients/{patient.patientId}" class="text-name truncate font-bold" data-testid="band-name"
    >{patient.name}</a
  >
  <dl
    class="text-small text-ink-soft flex min-w-0 shrink items-baseline gap-x-5 overflow-hidden whitespace-nowrap"
  >
    {#if patient.birthDate}
      <div class="flex gap-1.5">
        <dt>born</dt>
        <dd class="text-ink font-semibold">
          {dayWords(patient.birthDate)} · {ageWords(patient.birthDate, new Date())}
        </dd>
      </div>
    {/if}
    {#if patient.species}<div>
        <dt class="sr-only">species</dt>
        <dd class="text-ink font-semibold">{patient.species}</dd>
      </div>{/if}
    {#if patient.owner}
      <div class="flex gap-1.5">
        <dt>owner</dt>
        <dd class="text-ink font-semibold">{patient.owner}</dd>
      </div>
    {/if}
    {#if patient.sex}<div>
        <dt class="sr-only">sex</dt>
        <dd class="text-ink font-semibold">{patient.sex}</dd>
      </div>{/if}
    <div class="flex gap-1.5">
      <dt>number</dt>
      <dd class="text-ink font-semibold">{patient.recordNumber}</dd>
    </div>
  </dl>
  {#if patient.alert}
    <span class="chip bg-brass-wash text-brass ml-auto"
      ><TriangleAlert size={15} aria-hidden="true" />{patient.alert}</span
    >
  {/if}
  {#if room}<span class="chip border-rule border {patient.alert ? '' : 'ml-auto'}">{room} room</span>{/if}
</section>
