<script lang="ts">
  import { page } from '$app/state';
  import { again } from '$ui/net/going';
  import CategoryFields from '$ui/patient/CategoryFields.svelte';
  import ArrivalDoors from '$ui/settings/ArrivalDoors.svelte';
  import Changes from '$ui/settings/Changes.svelte';
  import ClinicBasics from '$ui/settings/ClinicBasics.svelte';
  import Destinations from '$ui/settings/Destinations.svelte';
  import Devices from '$ui/settings/Devices.svelte';
  import KnownSizes from '$ui/settings/KnownSizes.svelte';
  import Looks from '$ui/settings/Looks.svelte';
  import Phones from '$ui/settings/Phones.svelte';
  import Practice from '$ui/settings/Practice.svelte';
  import PaperHead from '$ui/settings/PaperHead.svelte';
  import Parts from '$ui/settings/Parts.svelte';
  import People from '$ui/settings/People.svelte';
  import { settingsParts } from '$ui/settings/parts';
  import Rooms from '$ui/settings/Rooms.svelte';
  import Sounds from '$ui/settings/Sounds.svelte';
  import Rules from '$ui/settings/Rules.svelte';
  import WrittenGuides from '$ui/settings/WrittenGuides.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  const mayChange = $derived(data.who!.may.changeSettings);
  const parts = $derived(settingsParts.filter(({ changers }) => mayChange || !changers));
  const part = $derived(parts.find(({ key }) => key === page.params.part) ?? parts[0]);
  const renewed = (what: string) => () => void again(`yonder:${what}`);
</script>

<svelte:head><title>{part.words} · Settings · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="mx-auto grid min-h-0 w-full max-w-6xl flex-1 grid-cols-[16rem_1fr] gap-5 px-6 pb-4">
    <h1 class="sr-only">Settings</h1>
    <Parts {parts} present={part.key} />
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="min-h-0 overflow-y-auto" tabindex="0" role="region" aria-label="Settings: {part.words}">
      {#if part.key === 'clinic'}
        <ClinicBasics form={data.form} timeZones={data.timeZones} {mayChange} />
      {:else if part.key === 'papers'}
        <PaperHead
          head={data.letterhead}
          clinicName={data.who!.clinicName}
          {mayChange}
          onkept={renewed('papers')}
        />
      {:else if part.key === 'people'}
        <People people={data.people} me={data.who!.userId} {mayChange} onkept={renewed('people')} />
      {:else if part.key === 'rooms'}
        <Rooms rooms={data.rooms} {mayChange} onkept={renewed('rooms')} />
      {:else if part.key === 'devices'}
        <Devices devices={data.devices} rooms={data.rooms} looks={data.looks} {mayChange} />
      {:else if part.key === 'sounds'}
        <Sounds />
      {:else if part.key === 'sizes'}
        <KnownSizes markers={data.markers} {mayChange} onkept={renewed('markers')} />
      {:else if part.key === 'looks'}
        <Looks
          looks={data.looks}
          devices={data.devices}
          mayChange={data.who!.may.changePictures}
          onkept={renewed('looks')}
        />
      {:else if part.key === 'guides'}
        <WrittenGuides
          guides={data.guides}
          mayChange={data.who!.may.writeGuides}
          onkept={renewed('guides')}
        />
      {:else if part.key === 'categories'}
        <section class="panel p-6" aria-labelledby="categories">
          <h2 id="categories" class="text-lead font-bold">Categories</h2>
          <p class="text-ink-soft mb-3">
            What the clinic files pictures under: by hand, or by a rule that files whatever fits as it comes.
          </p>
          <CategoryFields
            categories={data.categories}
            devices={data.devices.map(({ name }) => name)}
            mayChange={data.who!.may.changeCategories}
            onchanged={renewed('categories')}
          />
        </section>
      {:else if part.key === 'arrivals'}
        <ArrivalDoors
          senders={data.doors.senders}
          folders={data.doors.folders}
          doors={data.doors.doors}
          {mayChange}
          onkept={renewed('doors')}
        />
      {:else if part.key === 'phones'}
        <Phones phones={data.phones} all={mayChange} onkept={renewed('phones')} />
      {:else if part.key === 'practice'}
        {#key data.practice?.url}<Practice practice={data.practice} onkept={renewed('practice')} />{/key}
      {:else if part.key === 'destinations'}
        <Destinations destinations={data.destinations} rules={data.rules} onkept={renewed('leaving')} />
      {:else if part.key === 'rules'}
        <Rules rules={data.rules} {mayChange} onkept={renewed('leaving')} />
      {:else if part.key === 'changes'}
        <Changes changes={data.changes} />
      {/if}
    </div>
  </main>
</div>
