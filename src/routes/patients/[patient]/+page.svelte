<script lang="ts">
  import { LayoutGrid, ScrollText } from '@lucide/svelte';
  import ChartView from '$ui/patient/ChartView.svelte';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  const patient = $derived(data.chart.patient);
</script>

<svelte:head><title>{patient.name} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip
    ><Patient {patient} />
    <a
      class="button quiet ml-2 shrink-0 px-2.5"
      href="/patients/{patient.patientId}/overview"
      data-testid="overview"><LayoutGrid size={20} aria-hidden="true" />Overview</a
    >{#if data.who!.may.readRecord}<a
        class="button quiet shrink-0 px-2.5"
        href="/patients/{patient.patientId}/record"
        data-testid="record"><ScrollText size={20} aria-hidden="true" />Record</a
      >{/if}</TopStrip
  >
  {#key patient.patientId}
    <ChartView chart={data.chart} search={data.search} notation={data.who!.notation} may={data.who!.may} />
  {/key}
</div>
