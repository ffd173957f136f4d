<script lang="ts">
  import { invalidate } from '$app/navigation';
  import { Trash2 } from '@lucide/svelte';
  import { superForm } from 'sveltekit-superforms';
  import { showTooth } from '$core/anatomy/teeth';
  import Combobox from '$ui/kit/Combobox.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import { ask, attempt } from '$ui/net/send';
  import ArrivalDoors from '$ui/settings/ArrivalDoors.svelte';
  import Destinations from '$ui/settings/Destinations.svelte';
  import Rules from '$ui/settings/Rules.svelte';
  import Devices from '$ui/settings/Devices.svelte';
  import WrittenGuides from '$ui/settings/WrittenGuides.svelte';
  import Rooms from '$ui/settings/Rooms.svelte';
  import { type MarkerShape, markerShapes } from '$core/calibration/markerShape';
  import Choice from '$ui/kit/Choice.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { form, errors, message, enhance } = superForm(data.form, { resetForm: false, invalidateAll: true });
  const choices = [
    { value: 'fdi', name: 'FDI (ISO 3950)' },
    { value: 'universal', name: 'Universal' },
    { value: 'palmer', name: 'Palmer' }
  ] as const;
  const mayChange = $derived(data.who!.may.changeSettings);

  let typed = $state('');
  const zoneWords = (zone: string) => zone.replaceAll('_', ' ');
  const zonesShown = 40;
  const zones = $derived(
    data.timeZones
      .filter((zone) => zoneWords(zone).toLowerCase().includes(typed.trim().toLowerCase()))
      .slice(0, zonesShown)
      .map((zone) => ({ value: zone, words: zoneWords(zone), detail: clockIn(zone) }))
  );
  const clockIn = (timeZone: string) =>
    new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone }).format(new Date());

  let [name, size, tolerance] = $state(['', '', '']);
  let shape = $state<MarkerShape>('ball');
  const shapeWords: Record<MarkerShape, string> = {
    ball: 'a ball',
    disc: 'a disc',
    bar: 'a bar',
    ruler: 'a ruler',
    'plumb line': 'a plumb line with two balls',
    length: 'a length'
  };
  const sizeWords: Record<MarkerShape, string> = {
    ball: 'Across',
    disc: 'Across',
    bar: 'Long',
    ruler: 'Line to line',
    'plumb line': 'Ball to ball',
    length: 'Long'
  };
  const figure = (text: string) => Number(text.trim().replace(',', '.'));
  async function keepSize(event: SubmitEvent) {
    event.preventDefault();
    const wish = { name, shape, sizeMm: figure(size), toleranceMm: figure(tolerance) };
    if (await attempt(() => ask('/api/markers', wish))) {
      [name, size, tolerance] = ['', '', ''];
      await invalidate('yonder:markers');
    }
  }
  async function drop(markerId: string) {
    await attempt(() => ask(`/api/markers/${markerId}`, {}, 'DELETE'));
    await invalidate('yonder:markers');
  }
</script>

<svelte:head><title>Settings · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto grid max-w-6xl items-start gap-4 px-6 pt-4 pb-8 lg:grid-cols-2">
  <h1 class="text-title font-bold lg:col-span-2">Settings</h1>
  <form method="POST" use:enhance class="panel flex flex-col gap-5 p-6">
    <fieldset disabled={!mayChange}>
      <legend class="text-lead mb-3 font-bold">Teeth are written in</legend>
      <div class="flex flex-col gap-2">
        {#each choices as { value, name: words } (value)}
          <label
            class="border-rule has-checked:border-coral has-checked:bg-coral-wash flex min-h-12 items-center gap-3 rounded-lg border px-4"
          >
            <input
              type="radio"
              name="notation"
              {value}
              bind:group={$form.notation}
              class="accent-ink size-5"
            />
            <span class="font-semibold">{words}</span>
            <span class="text-ink-soft ml-auto">upper right first molar: {showTooth(16, value)}</span>
          </label>
        {/each}
      </div>
    </fieldset>
    <fieldset disabled={!mayChange}>
      <legend class="text-lead mb-1 font-bold">The clinic’s time</legend>
      <p class="text-ink-soft mb-2">
        <strong class="text-ink" data-testid="time-zone">{zoneWords($form.timeZone)}</strong>, where it is
        {clockIn($form.timeZone)} now. Days, times on pictures and papers follow it.
      </p>
      <input type="hidden" name="timeZone" value={$form.timeZone} />
      {#if mayChange}
        <Combobox
          label="Another time zone"
          options={zones}
          bind:typed
          nothing="No time zone by this name."
          testid="zone"
          onchoose={(zone) => {
            $form.timeZone = zone;
            typed = '';
          }}
        />
      {/if}
    </fieldset>
    <fieldset disabled={!mayChange}>
      <legend class="text-lead mb-1 font-bold">The bin of a chart</legend>
      <label class="flex items-center gap-3">
        <span class="text-ink-soft">A deleted picture can be brought back for</span>
        <input
          type="number"
          name="binDays"
          min="7"
          max="3650"
          class="border-rule bg-paper min-h-11 w-24 rounded-lg border px-3"
          bind:value={$form.binDays}
          data-testid="bin-days"
        />
        <span class="text-ink-soft">days; then it is removed for good.</span>
      </label>
      {#if $errors.binDays}<p class="text-coral text-small mt-1 font-semibold">{$errors.binDays[0]}</p>{/if}
    </fieldset>
    {#if mayChange}<button class="button main">Save</button>{:else}<p class="text-small text-ink-soft">
        An administrator changes this.
      </p>{/if}
    {#if $message}<p role="status" class="text-lagoon font-semibold">{$message}</p>{/if}
  </form>
  <section class="panel p-6" aria-labelledby="sizes">
    <h2 id="sizes" class="text-lead font-bold">Things of known size</h2>
    <p class="text-ink-soft mb-3">
      Balls, discs, bars, rulers and plumb lines are looked for in pictures; all are offered where a line is
      drawn over one.
    </p>
    <ul class="flex flex-col gap-1.5">
      {#each data.markers as marker (marker.markerId)}
        <li class="border-rule flex min-h-12 items-center gap-3 rounded-lg border pl-4" data-testid="marker">
          <span class="min-w-0 flex-1 font-semibold break-words">{marker.name}</span>
          <span class="text-ink-soft {mayChange ? '' : 'pr-4'}"
            >{shapeWords[marker.shape]}, {marker.sizeMm} ± {marker.toleranceMm} mm</span
          >
          {#if mayChange}
            <Tooltip
              words="Take {marker.name} off the list"
              button="flex size-11 items-center justify-center rounded-lg"
              onclick={() => drop(marker.markerId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
        </li>
      {:else}<li class="text-ink-soft">None yet.</li>{/each}
    </ul>
    {#if mayChange}
      <form onsubmit={keepSize} class="border-rule mt-4 flex flex-wrap items-end gap-2 border-t pt-4">
        <label class="min-w-40 flex-1"
          ><span class="text-small font-semibold">Name</span>
          <input
            bind:value={name}
            class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
            data-testid="marker-name"
          /></label
        >
        <Choice
          label="What it looks like"
          small
          testid="marker-shape"
          bind:value={shape}
          options={markerShapes.map((value) => ({ value, words: shapeWords[value] }))}
        />
        <label class="w-24"
          ><span class="text-small font-semibold">{sizeWords[shape]}, mm</span>
          <input
            bind:value={size}
            inputmode="decimal"
            class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
          /></label
        >
        <label class="w-24"
          ><span class="text-small font-semibold">give or take</span>
          <input
            bind:value={tolerance}
            inputmode="decimal"
            class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
          /></label
        >
        <button class="button">Add it</button>
      </form>
    {/if}
  </section>
  <Rooms rooms={data.rooms} {mayChange} onkept={() => void invalidate('yonder:rooms')} />
  <WrittenGuides
    guides={data.guides}
    mayChange={data.who!.may.writeGuides}
    onkept={() => void invalidate('yonder:guides')}
  />
  <ArrivalDoors
    senders={data.doors.senders}
    folders={data.doors.folders}
    doors={data.doors.doors}
    {mayChange}
    onkept={() => void invalidate('yonder:doors')}
  />
  <Devices devices={data.devices} rooms={data.rooms} looks={data.looks} {mayChange} />
  {#if mayChange}
    <Destinations
      destinations={data.destinations}
      rules={data.rules}
      onkept={() => void invalidate('yonder:leaving')}
    />
  {/if}
  <Rules rules={data.rules} {mayChange} onkept={() => void invalidate('yonder:leaving')} />
</main>
