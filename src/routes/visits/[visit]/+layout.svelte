<script lang="ts">
  import { untrack } from 'svelte';
  import { BookOpen, BookOpenText, Bookmark } from '@lucide/svelte';
  import { page } from '$app/state';
  import { keptOf } from '$core/picture/keptViews';
  import { drawnItems, isReading } from '$core/picture/readings';
  import { scaleInUse } from '$core/picture/pictureLayers';
  import { standingAdvice } from '$core/picture/adviceView';
  import { isTold } from '$core/visit/story';
  import { course } from '$core/visit/course';
  import CourseLine from '$ui/shell/CourseLine.svelte';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { VisitStore, provideVisit } from '$ui/visit/visitStore.svelte';

  let { data, children } = $props();
  // svelte-ignore state_referenced_locally
  const store = provideVisit(new VisitStore(data.visit, data.who!.userId));
  $effect(() => {
    const { visit } = data;
    untrack(() => store.take(visit));
  });
  const { visitId } = $derived(data.visit);
  // What it hears at once, of the moment before, is no reason to follow anew.
  $effect(() => untrack(() => store.follow()));

  const base = $derived(`/visits/${visitId}`);
  const keptCount = $derived(keptOf(store.pictures).length);
  const present = $derived(page.url.pathname.split('/').at(-1) ?? '');
  /** Where a visit is told: its story, and what goes out of it on paper. */
  const telling = $derived(
    ['story', 'report', 'print'].includes(present) || page.url.pathname.includes('/letters')
  );
  const state = $derived(
    course(
      store.trays.map(({ tray }) => tray),
      store.pictures.map((picture) => {
        const readings = drawnItems(picture.layers).filter(({ item }) => isReading(item.kind));
        const deliveries = store.deliveries.filter((each) => each.pictureId === picture.pictureId);
        return {
          pictureId: picture.pictureId,
          hasScale: scaleInUse(picture.layers, picture.fileScale) !== null,
          linked: picture.placed,
          readings: readings.length,
          unconfirmed: readings.filter(({ confirmedBy }) => confirmedBy === null).length,
          delivered: deliveries.some((each) => each.state === 'delivered'),
          onItsWay: deliveries.some(({ state: at }) => at !== 'failed' && at !== 'withdrawn'),
          advised: standingAdvice(picture.advice).length > 0
        };
      })
    )
  );
</script>

<svelte:head><title>{store.head.patient.name} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col print:h-auto">
  <div class="contents print:hidden">
    <TopStrip
      ><Patient patient={store.head.patient} room={store.head.room} />
      <a
        href="{base}/story"
        class="button quiet ml-2 shrink-0 px-2.5 {telling ? 'border-coral! bg-coral-wash!' : ''}"
        aria-current={present === 'story' ? 'page' : undefined}
        data-testid="story"
        >{#if isTold(store.head.story)}<BookOpenText size={20} aria-hidden="true" />{:else}<BookOpen
            size={20}
            aria-hidden="true"
          />{/if}Story</a
      >
      {#if keptCount > 0 || present === 'kept'}
        <a
          href="{base}/kept"
          class="button quiet shrink-0 px-2.5 {present === 'kept' ? 'border-coral! bg-coral-wash!' : ''}"
          aria-current={present === 'kept' ? 'page' : undefined}
          data-testid="kept"
          ><Bookmark size={20} aria-hidden="true" />Kept<span class="tabular-nums">{keptCount}</span></a
        >
      {/if}</TopStrip
    >
    <CourseLine states={state.states} clear={state.clear} {base} {present} />
  </div>
  {@render children()}
</div>
