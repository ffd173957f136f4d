<script lang="ts">
  import { page } from '$app/state';
  import { course } from '$core/visit/course';
  import CourseLine from '$ui/shell/CourseLine.svelte';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data, children } = $props();
  const base = $derived(`/visits/${data.visit.visitId}`);
  const present = $derived(page.url.pathname.split('/').at(-1) ?? '');
  const state = $derived(
    course(
      data.visit.tray,
      data.visit.pictures.map((picture) => {
        const deliveries = data.visit.deliveries.filter((each) => each.pictureId === picture.pictureId);
        return {
          pictureId: picture.pictureId,
          hasScale: picture.scale !== null,
          linked: picture.teeth.length > 0,
          readings: picture.readings.length,
          delivered: deliveries.some((each) => each.state === 'delivered'),
          onItsWay: deliveries.some((each) => each.state !== 'failed')
        };
      })
    )
  );
</script>

<svelte:head><title>{data.visit.patient.name} · Yonder Tray</title></svelte:head>
<div class="flex h-screen flex-col">
  <TopStrip><Patient patient={data.visit.patient} room={data.visit.room} /></TopStrip>
  <CourseLine states={state.states} clear={state.clear} {base} {present} />
  {@render children()}
</div>
