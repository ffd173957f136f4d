<script lang="ts">
  import { GalleryHorizontalEnd, LayoutGrid, List, Search, Trash2 } from '@lucide/svelte';
  import { onMount, untrack } from 'svelte';
  import { mapsOfTrade } from '$core/anatomy/maps';
  import { placesInWords } from '$core/anatomy/place';
  import type { Notation } from '$core/anatomy/teeth';
  import { type ListedPicture, type PictureSearch, everyPicture } from '$core/picture/pictureSearch';
  import { keptOf } from '$core/picture/keptViews';
  import type { Category } from '$core/picture/pictureView';
  import type { Chart } from '$core/visit/chartView';
  import { again } from '../net/going';
  import BodyMap from '../body/BodyMap.svelte';
  import { isChild } from '../body/child';
  import { dayWords } from '../clock';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Limits from '../pictures/Limits.svelte';
  import PictureDetails from '../pictures/PictureDetails.svelte';
  import PictureTable from '../pictures/PictureTable.svelte';
  import PictureWindow from '../pictures/PictureWindow.svelte';
  import { FoundPictures } from '../pictures/found.svelte';
  import { Picked } from '../pictures/picked.svelte';
  import MakeCase from '../shelf/MakeCase.svelte';
  import { afterTyping } from '../typing';
  import { describeKeys } from '../shell/keys.svelte';
  import { countWords } from '../words';
  import SendPicked from '../leaving/SendPicked.svelte';
  import AwayDialog from './AwayDialog.svelte';
  import BinDialog from './BinDialog.svelte';
  import CategoryChips from './CategoryChips.svelte';
  import CategoryDialog from './CategoryDialog.svelte';
  import ChartNotes from './ChartNotes.svelte';
  import ChartShelf from './ChartShelf.svelte';
  import JoinCharts from './JoinCharts.svelte';
  import PickedBar from './PickedBar.svelte';
  import { ChartActs } from './chartActs.svelte';
  import TimeStrip from './TimeStrip.svelte';
  import VisitsPanel from './VisitsPanel.svelte';

  interface Props {
    chart: Chart;
    search: PictureSearch;
    notation: Notation;
    may: {
      acquire: boolean;
      link: boolean;
      joinCharts: boolean;
      deletePictures: boolean;
      send: boolean;
      changeCategories: boolean;
    };
  }
  let { chart, search, notation, may }: Props = $props();

  const found = untrack(
    () => new FoundPictures(`/api/patients/${chart.patient.patientId}/pictures`, search, chart)
  );
  const picked = new Picked();
  let sending = $state(false);
  let shelving = $state(false);
  const chosen = $derived(found.places);
  /** What a chart without any visit begins with. */
  const maps = $derived(
    chart.maps.length > 0
      ? chart.maps
      : mapsOfTrade(chart.patient.kind === 'animal' ? 'animals' : 'teeth', chart.patient).slice(0, 1)
  );
  const total = $derived(Object.values(chart.facets.kinds).reduce((sum, count) => sum + count, 0));
  const visits = $derived(new Map(chart.visits.map((visit) => [visit.visitId, visit])));

  /** How many kept views each visit has, of the pictures that are listed. */
  const kept = $derived.by(() => {
    const counts = new Map<string, number>();
    for (const { picture } of keptOf(found.pictures))
      counts.set(picture.visitId, (counts.get(picture.visitId) ?? 0) + 1);
    return counts;
  });

  /** Everything anew after something was done: where pictures are, how many there are, and which. */
  async function anew() {
    await again();
    await found.again();
  }

  type Form = 'strip' | 'grid' | 'list';
  const formKept = 'yonder-chart-form';
  let form = $state<Form>('grid');
  onMount(() => {
    const kept = localStorage.getItem(formKept);
    if (kept === 'strip' || kept === 'list') form = kept;
  });
  let words = $state(untrack(() => search.words));
  const typed = afterTyping((asked) => void found.ask({ words: asked }));

  let pointed = $state.raw<ListedPicture | null>(null);
  let focused = $state.raw<ListedPicture | null>(null);
  function point(picture: ListedPicture | null) {
    pointed = picture;
    if (picture) focused = picture;
  }

  let away = $state<{ to: 'bin' | 'arrivals'; open: boolean }>({ to: 'bin', open: false });
  let binOpen = $state(false);
  let categoriesOpen = $state(false);
  let filing = $state.raw<{ category: Category; pictureIds: string[]; filed: boolean } | null>(null);

  function onkey(event: KeyboardEvent, picture: ListedPicture) {
    if (event.key === ' ') picked.toggle(picture);
    else if (event.key === 'Escape') picked.none();
    else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) picked.all(found.pictures);
    else if (event.key === 'Delete' && may.deletePictures) {
      if (picked.count === 0) picked.toggle(picture);
      away = { to: 'bin', open: true };
    } else if (event.key === 'c' && picked.count > 1) acts.compare();
    else return;
    event.preventDefault();
  }
  $effect(() =>
    describeKeys([
      { key: '← → ↑ ↓', does: 'From picture to picture' },
      { key: 'Space', does: 'Pick it, or no longer' },
      { key: 'Shift →', does: 'Pick a stretch' },
      { key: 'Ctrl A', does: 'Pick all that are listed' },
      { key: 'Enter', does: 'Open it' },
      { key: 'C', does: 'Compare those that are picked' },
      ...(may.deletePictures ? [{ key: 'Delete', does: 'Delete everywhere' }] : []),
      { key: 'Esc', does: 'Pick none' }
    ])
  );

  const acts = new ChartActs(() => ({ picked, chosen, notation, anew }));
  async function takeAway(reason: string) {
    if (await acts.takeAway(away.to, reason)) away.open = false;
  }
  async function file() {
    if (filing && (await acts.file(filing.category, filing.pictureIds, filing.filed))) filing = null;
  }
  const here = $derived(placesInWords(chosen, notation));
  const filingWords = $derived(
    filing === null
      ? ''
      : filing.filed
        ? `File ${countWords(filing.pictureIds.length, 'picture', 'pictures')} under ${filing.category.name}?`
        : `Take ${countWords(filing.pictureIds.length, 'picture', 'pictures')} out of ${filing.category.name}?`
  );
</script>

<main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
  <div class="flex w-80 shrink-0 flex-col gap-4 xl:w-96">
    <section class="panel flex min-h-0 flex-1 flex-col p-4" aria-labelledby="places">
      <div class="flex items-baseline justify-between">
        <h1 id="places" class="text-lead font-bold">Places with pictures</h1>
        {#if found.search.places.length > 0}<button
            class="text-small font-semibold underline"
            onclick={() => found.ask({ places: [] })}>show all</button
          >{/if}
      </div>
      <div class="min-h-0 flex-1">
        <BodyMap
          {maps}
          {notation}
          counts={chart.counts}
          newest={chart.newest}
          {chosen}
          child={isChild(chart.patient.birthDate)}
          onchoose={found.choose}
          onpick={found.pick}
          label="Places with pictures"
        >
          {#snippet beside()}
            <ChartShelf
              facets={chart.facets}
              papers={chart.papers}
              chosen={found.search.beside}
              onchoose={(which) => found.ask({ beside: which })}
            />
          {/snippet}
        </BodyMap>
      </div>
    </section>
    <VisitsPanel {chart} mayOpen={may.acquire} />
  </div>
  <section class="panel flex min-w-0 flex-1 flex-col p-4 pb-2" aria-labelledby="pictures">
    <div class="flex items-center gap-2">
      <h2 id="pictures" class="text-lead max-w-64 min-w-0 shrink-0 leading-tight font-bold">
        Pictures{chosen.length > 0 ? ` of ${here}` : ''}
        <span class="text-ink-soft text-body font-normal whitespace-nowrap" data-testid="found"
          >{found.limited ? `${found.found} of ${total}` : total}</span
        >
      </h2>
      <label class="relative min-w-0 flex-1">
        <span class="sr-only">Words in name, remark or finding</span>
        <Search
          size={18}
          class="text-ink-soft pointer-events-none absolute top-1/2 left-3 -translate-y-1/2"
          aria-hidden="true"
        />
        <input
          class="border-rule bg-paper min-h-11 w-full rounded-lg border pr-3 pl-9"
          placeholder="Name, remark, finding"
          bind:value={words}
          oninput={() => typed(words)}
          data-testid="search-words"
        />
      </label>
      <Limits {found} facets={chart.facets} onlimit={found.ask} />
      <Choice
        label="How pictures are listed"
        bind:value={form}
        options={[
          { value: 'strip', words: 'Strip', icon: GalleryHorizontalEnd },
          { value: 'grid', words: 'Grid', icon: LayoutGrid },
          { value: 'list', words: 'List', icon: List }
        ]}
        small
        testid="form"
        onchange={(value) => {
          localStorage.setItem(formKept, value);
          if (value !== 'list' && found.search.sort !== 'date') void found.ask({ sort: 'date', up: false });
        }}
      />
    </div>
    <div class="mt-1.5 flex items-center gap-2">
      <CategoryChips
        categories={chart.categories}
        counts={chart.facets.categories}
        chosen={found.search.categoryId}
        mayChange={may.changeCategories}
        mayFile={may.link}
        onchoose={(categoryId) => found.ask({ categoryId })}
        ondrop={(category, pictureIds) => (filing = { category, pictureIds, filed: true })}
        onchange={() => (categoriesOpen = true)}
      />
      <span class="ml-auto flex shrink-0 items-center gap-2">
        {#if may.joinCharts}<JoinCharts patient={chart.patient} joins={chart.joins} />{/if}
        {#if chart.bin.count > 0}<button
            class="button px-3"
            onclick={() => (binOpen = true)}
            data-testid="open-bin"
            ><Trash2 size={18} aria-hidden="true" />Bin<span class="text-ink-soft font-normal"
              >{chart.bin.count}</span
            ></button
          >{/if}
      </span>
    </div>
    <ChartNotes {chart} mayJoin={may.joinCharts} />
    {#if found.pictures.length === 0}
      <p class="text-ink-soft flex-1 py-6 text-center">
        {found.looking
          ? 'Looking.'
          : found.limited
            ? 'No picture fits all of this.'
            : 'No picture yet. Open a visit to take the first.'}
        {#if found.limited && !found.looking}<button
            class="font-semibold underline"
            onclick={() => {
              words = '';
              const { sort, up } = found.search;
              void found.ask({ ...everyPicture, sort, up });
            }}>Show all {total}</button
          >{/if}
      </p>
    {:else if form === 'list'}
      <PictureTable
        {found}
        {picked}
        {notation}
        categories={chart.categories}
        label="Pictures"
        onpoint={point}
        {onkey}
        onsort={found.ask}
      />
    {:else}
      <PictureWindow
        {found}
        {picked}
        {notation}
        {form}
        label="Pictures, newest first"
        onpoint={point}
        {onkey}
      >
        {#snippet head(visitId, trayNumber)}
          {@const visit = visits.get(visitId)}
          <h3 class="flex h-full items-end gap-2 pb-1.5 leading-tight">
            {#if visit}
              <a class="font-bold hover:underline" href="/visits/{visitId}/acquire"
                >{dayWords(visit.openedAt)}</a
              >
              {#if kept.has(visitId)}<a
                  class="order-last ml-auto shrink-0 font-semibold underline"
                  href="/visits/{visitId}/kept"
                  data-testid="kept-of-day">{countWords(kept.get(visitId)!, 'kept view', 'kept views')}</a
                >{/if}
              <span class="text-ink-soft min-w-0 truncate"
                >{visit.room}{trayNumber !== null && trayNumber > 1
                  ? `, tray ${trayNumber}`
                  : ''}{visit.reason ? ` · ${visit.reason}` : ''}</span
              >
            {/if}
          </h3>
        {/snippet}
      </PictureWindow>
    {/if}
    {#if found.failed}
      <p class="bg-brass-wash text-brass my-1.5 rounded-lg px-3 py-1.5 font-semibold">
        Older pictures did not come.
        <button class="ml-2 underline" onclick={() => void found.more(true)} data-testid="more-again"
          >Fetch them</button
        >
      </p>
    {/if}
    {#if picked.count > 0}
      <PickedBar
        {picked}
        list={found.pictures}
        {chosen}
        {notation}
        categories={chart.categories}
        {may}
        onopen={() => acts.compare()}
        onsend={() => (sending = true)}
        onshelve={() => (shelving = true)}
        onlink={() => void acts.link()}
        onunlink={() => void acts.unlink()}
        onfile={(category, filed) => (filing = { category, pictureIds: picked.ids, filed })}
        onaway={(to) => (away = { to, open: true })}
      />
    {:else}<PictureDetails
        picture={pointed ?? focused}
        {notation}
        categories={chart.categories}
        keys={may.deletePictures
          ? 'Space picks it, Enter opens it, Delete deletes it; arrows go on.'
          : 'Space picks it, Enter opens it; arrows go on.'}
      />{/if}
    <TimeStrip
      marks={chart.visits.map(({ openedAt, pictureCount }) => ({ at: openedAt, count: pictureCount }))}
      from={found.search.from}
      until={found.search.until}
      onlimit={(from, until) => found.ask({ from, until })}
    />
  </section>
</main>

<SendPicked bind:open={sending} pictures={picked.pictures} patient={chart.patient} {notation} />
<MakeCase bind:open={shelving} pictures={picked.pictures} born={chart.patient.birthDate} />
<AwayDialog bind:open={away.open} to={away.to} count={picked.count} days={chart.bin.days} onaway={takeAway} />
<BinDialog
  bind:open={binOpen}
  patientId={chart.patient.patientId}
  mayBringBack={may.deletePictures}
  onback={anew}
/>
<CategoryDialog
  bind:open={categoriesOpen}
  categories={chart.categories}
  devices={Object.keys(chart.facets.devices)}
  onchanged={anew}
/>
<Dialog
  bind:open={() => filing !== null, (open) => (filing = open ? filing : null)}
  title={filingWords}
  message="They stay where they are in the chart."
>
  <div class="flex gap-2">
    <button class="button main" onclick={file} data-testid="file-go"
      >{filing?.filed ? 'File' : 'Take out'}</button
    >
    <button class="button" onclick={() => (filing = null)}>Leave it</button>
  </div>
</Dialog>
