<script lang="ts">
  import { untrack } from 'svelte';
  import type { BodyMap as Map } from '$core/anatomy/placeKind';
  import { mapOfKey } from '$core/anatomy/maps';
  import { grades } from '$core/picture/gradeReasons';
  import type { FoundPicture, ListedPicture } from '$core/picture/pictureSearch';
  import { type PictureKind, pictureKinds } from '$core/picture/pictureView';
  import BodyMap from '$ui/body/BodyMap.svelte';
  import { dayWords } from '$ui/clock';
  import Select from '$ui/kit/Select.svelte';
  import PictureDetails from '$ui/pictures/PictureDetails.svelte';
  import PictureWindow from '$ui/pictures/PictureWindow.svelte';
  import { FoundPictures } from '$ui/pictures/found.svelte';
  import { kindWords } from '$ui/pictures/listedWords';
  import SendPicked from '$ui/leaving/SendPicked.svelte';
  import PickedBar from '$ui/patient/PickedBar.svelte';
  import { Picked } from '$ui/pictures/picked.svelte';
  import MakeCase from '$ui/shelf/MakeCase.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  const notation = $derived(data.who!.notation);
  const found = untrack(
    () => new FoundPictures('/api/pictures', data.search, { ...data, found: data.pictures.length })
  );
  const picked = new Picked();
  const may = $derived(data.who!.may);
  let sending = $state(false);
  let shelving = $state(false);
  function onkey(event: KeyboardEvent, picture: ListedPicture) {
    if (!may.send) return;
    if (event.key === ' ') picked.toggle(picture);
    else if (event.key === 'Escape') picked.none();
    else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) picked.all(found.pictures);
    else return;
    event.preventDefault();
  }
  /** Of several patients none is told as an example of a name. */
  const whose = $derived.by(() => {
    const all = picked.pictures as FoundPicture[];
    const [one] = all;
    return one && all.every(({ patientId }) => patientId === one.patientId)
      ? { name: one.patient, recordNumber: one.recordNumber }
      : { name: 'each patient', recordNumber: 'each number' };
  });
  const whole: { value: Map; words: string }[] = [
    { value: 'teeth', words: 'Teeth' },
    { value: 'bones', words: 'Bones' },
    { value: 'dog teeth', words: 'Dog, teeth' },
    { value: 'cat teeth', words: 'Cat, teeth' },
    { value: 'horse teeth', words: 'Horse, teeth' },
    { value: 'animal bones', words: 'Animal, bones' },
    { value: 'eyes', words: 'Eyes' }
  ];
  const askedMap = untrack(() => data.search.places.map(mapOfKey).find(Boolean) ?? 'teeth');
  let map = $state<Map>(askedMap);
  const any = '';
  const anyKind = { value: any, words: 'Any kind' };
  const kinds = pictureKinds.map((kind) => ({ value: kind as string, words: kindWords[kind] }));
  const gradeOptions = [
    { value: any, words: 'Any grade' },
    ...grades.map((grade) => ({ value: grade as string, words: grade }))
  ];
  const categoryOptions = $derived([
    { value: any, words: 'Any category' },
    ...data.categories.map(({ categoryId, name }) => ({ value: categoryId, words: name }))
  ]);
  const spans = [
    { value: any, words: 'Of any time' },
    { value: '7', words: 'Of the last week' },
    { value: '31', words: 'Of the last month' },
    { value: '366', words: 'Of the last year' }
  ];
  let span = $state(any);
  const dayMs = 86_400_000;

  let pointed = $state.raw<FoundPicture | null>(null);
  const whoseVisit = (visitId: string) =>
    found.pictures.find((picture) => picture.visitId === visitId) as FoundPicture | undefined;
</script>

<svelte:head><title>Find pictures · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <section class="panel flex w-80 shrink-0 flex-col gap-3 p-4 xl:w-96" aria-labelledby="find">
      <h1 id="find" class="text-lead font-bold">Find pictures of all charts</h1>
      <Select
        label="Kind"
        value={found.search.kinds[0] ?? any}
        options={[anyKind, ...kinds]}
        onchange={(kind) => found.ask({ kinds: kind === any ? [] : [kind as PictureKind] })}
        testid="find-kind"
      />
      <Select
        label="Time"
        bind:value={span}
        options={spans}
        onchange={(days) =>
          found.ask({
            from: days === any ? null : new Date(Date.now() - Number(days) * dayMs).toISOString()
          })}
        testid="find-time"
      />
      <div class="grid grid-cols-2 gap-2">
        <Select
          label="Grade"
          value={found.search.grade ?? any}
          options={gradeOptions}
          onchange={(grade) => found.ask({ grade: grades.find((each) => each === grade) ?? null })}
          testid="find-grade"
        />
        {#if data.categories.length > 0}
          <Select
            label="Category"
            value={found.search.categoryId ?? any}
            options={categoryOptions}
            onchange={(category) => found.ask({ categoryId: category || null })}
            testid="find-category"
          />
        {/if}
      </div>
      <Select label="Part of the body" bind:value={map} options={whole} testid="find-map" />
      <div class="min-h-0 flex-1">
        {#key map}
          <BodyMap
            maps={[map]}
            {notation}
            chosen={found.places}
            child
            onchoose={found.choose}
            onpick={found.pick}
            label="Places to find pictures of"
          />
        {/key}
      </div>
    </section>
    <section class="panel flex min-w-0 flex-1 flex-col p-4 pb-2" aria-labelledby="found">
      <h2 id="found" class="text-lead mb-2 font-bold">
        {found.looking
          ? 'Looking.'
          : found.limited
            ? 'What fits, newest first'
            : 'All pictures, newest first'}
      </h2>
      {#if found.pictures.length === 0}
        <p class="text-ink-soft flex-1 py-6 text-center">
          {found.looking ? 'Looking.' : 'No picture fits all of this.'}
        </p>
      {:else}
        <PictureWindow
          {found}
          {picked}
          {notation}
          form="grid"
          picks={may.send}
          label="Pictures, newest first"
          onpoint={(picture) => (pointed = (picture as FoundPicture | null) ?? pointed)}
          {onkey}
        >
          {#snippet head(visitId)}
            {@const first = whoseVisit(visitId)}
            {#if first}
              <h3 class="flex h-full items-end gap-2 pb-1.5 leading-tight">
                <a class="font-bold hover:underline" href="/patients/{first.patientId}">{first.patient}</a>
                <span class="text-ink-soft">{first.recordNumber} · {dayWords(first.takenAt)}</span>
              </h3>
            {/if}
          {/snippet}
        </PictureWindow>
      {/if}
      {#if picked.count > 0}
        <PickedBar
          {picked}
          list={found.pictures}
          chosen={[]}
          {notation}
          categories={[]}
          may={{ link: false, acquire: false, deletePictures: false, send: may.send }}
          onsend={() => (sending = true)}
          onshelve={() => (shelving = true)}
        />
      {/if}
      <PictureDetails
        picture={pointed}
        {notation}
        categories={[]}
        keys={may.send ? 'Enter opens it, Space picks it; arrows go on.' : 'Enter opens it; arrows go on.'}
      />
    </section>
  </main>
</div>
<SendPicked bind:open={sending} pictures={picked.pictures} patient={whose} {notation} />
<MakeCase bind:open={shelving} pictures={picked.pictures} born={null} />
