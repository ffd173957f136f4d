<script lang="ts">
  import { TriangleAlert } from '@lucide/svelte';
  import type { PatientBand } from '$core/visit/visitView';
  import { dateWords, todayAtClinic } from '../clock';
  import { ageInWords } from '$core/report/paperHead';

  let { patient, room = null }: { patient: PatientBand; room?: string | null } = $props();
</script>

<!-- Name and number are never cut: the name breaks into lines, and what else there is makes room. -->
<section
  aria-label="Patient"
  class="border-rule bg-sheet flex min-h-13 min-w-0 flex-1 items-center gap-x-4 overflow-hidden rounded-l-full rounded-r-md border py-1 pr-3 pl-3"
>
  <span class="flex shrink-0 flex-col gap-1" aria-hidden="true">
    {#each [0, 1, 2] as hole (hole)}<span class="border-ink-soft size-1.5 rounded-full border"></span>{/each}
  </span>
  <a
    href="/patients/{patient.patientId}"
    class="shrink-0 leading-tight font-bold {patient.name.length > 24
      ? 'text-lead max-w-64'
      : patient.name.length > 15
        ? 'text-title xl:text-name'
        : 'text-name'}"
    data-testid="band-name">{patient.name}</a
  >
  <dl
    class="text-small text-ink-soft flex h-11 min-w-0 flex-1 flex-wrap content-center items-baseline gap-x-4 overflow-hidden leading-[1.3]"
  >
    <div class="flex shrink-0 gap-1.5" data-testid="band-number">
      <dt>number</dt>
      <dd class="text-ink font-semibold whitespace-nowrap">{patient.recordNumber}</dd>
    </div>
    {#if patient.birthDate}
      <div class="flex shrink-0 gap-1.5">
        <dt>born</dt>
        <dd class="text-ink font-semibold whitespace-nowrap">
          {dateWords(patient.birthDate)} · {ageInWords(patient.birthDate, todayAtClinic())}
        </dd>
      </div>
    {/if}
    {#if patient.species}<div class="shrink-0">
        <dt class="sr-only">species</dt>
        <dd class="text-ink font-semibold whitespace-nowrap">{patient.species}</dd>
      </div>{/if}
    {#if patient.owner}
      <div class="flex shrink-0 gap-1.5">
        <dt>owner</dt>
        <dd class="text-ink font-semibold whitespace-nowrap">{patient.owner}</dd>
      </div>
    {/if}
    {#if patient.sex}<div class="shrink-0">
        <dt class="sr-only">sex</dt>
        <dd class="text-ink font-semibold whitespace-nowrap">{patient.sex}</dd>
      </div>{/if}
  </dl>
  {#if patient.alert}
    <span class="chip bg-brass-wash text-brass shrink-0"
      ><TriangleAlert size={15} aria-hidden="true" />{patient.alert}</span
    >
  {/if}
  {#if room}<span class="chip border-rule hidden shrink-0 border lg:inline-flex">{room} room</span>{/if}
</section>
