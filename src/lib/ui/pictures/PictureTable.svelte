<script lang="ts">
  import { ArrowDown, ArrowUp } from '@lucide/svelte';
  import {
    type ColumnDef,
    type SortingState,
    createTable,
    rowSortingFeature,
    tableFeatures
  } from '@tanstack/svelte-table';
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack } from 'svelte';
  import { get } from 'svelte/store';
  import { showPlaces } from '$core/anatomy/place';
  import type { Notation } from '$core/anatomy/teeth';
  import { type ListedPicture, type Sorting, sortings } from '$core/picture/pictureSearch';
  import { type Category, pictureName, placesOf } from '$core/picture/pictureView';
  import { dayWords } from '../clock';
  import Small from './Small.svelte';
  import type { FoundPictures } from './found.svelte';
  import PickMark from './PickMark.svelte';
  import { kindWords } from './listedWords';
  import { ListFocus } from './listFocus.svelte';
  import { rowsOf } from './pictureRows';
  import type { Picked } from './picked.svelte';

  interface Props {
    found: FoundPictures;
    picked: Picked;
    notation: Notation;
    categories: readonly Category[];
    label: string;
    onpoint: (picture: ListedPicture | null) => void;
    onkey: (event: KeyboardEvent, picture: ListedPicture) => void;
    onsort: (by: { sort: Sorting; up: boolean }) => void;
  }
  let { found, picked, notation, categories, label, onpoint, onkey, onsort }: Props = $props();

  const features = tableFeatures({ rowSortingFeature });
  type Column = ColumnDef<typeof features, ListedPicture>;
  const column = (
    id: string,
    header: string,
    accessorFn: (picture: ListedPicture) => string,
    enableSorting = true
  ): Column => ({ id, header, accessorFn, enableSorting });
  const columns: Column[] = [
    column('name', 'Picture', pictureName),
    column('places', 'Places', (picture) => showPlaces(placesOf(picture), notation), false),
    column('kind', 'Kind', ({ kind }) => kindWords[kind]),
    column('date', 'Taken', ({ takenAt }) => dayWords(takenAt)),
    column('device', 'From', ({ from }) => from),
    column('grade', 'Grade', ({ layers }) => layers.grade?.grade ?? ''),
    column('who', 'By', ({ who }) => who)
  ];
  const widths =
    'grid-cols-[44px_56px_minmax(0,2fr)_minmax(0,1.1fr)_86px_92px_minmax(0,1fr)_84px_minmax(0,0.9fr)]';
  const isSorting = (id: string): id is Sorting => (sortings as readonly string[]).includes(id);

  const table = createTable({
    features,
    columns,
    get data() {
      return found.pictures as ListedPicture[];
    },
    getRowId: ({ pictureId }) => pictureId,
    manualSorting: true,
    enableSortingRemoval: false,
    state: {
      get sorting(): SortingState {
        return [{ id: found.search.sort, desc: !found.search.up }];
      }
    },
    onSortingChange: (updater) => {
      const now = [{ id: found.search.sort, desc: !found.search.up }];
      const [next] = typeof updater === 'function' ? updater(now) : updater;
      if (next && isSorting(next.id)) onsort({ sort: next.id, up: !next.desc });
    }
  });
  const rows = $derived(table.getRowModel().rows);

  const rowPx = 56;
  let box = $state<HTMLElement>();
  const virtualizer = createVirtualizer<HTMLElement, HTMLElement>({
    count: untrack(() => found.pictures.length),
    getScrollElement: () => box ?? null,
    estimateSize: () => rowPx,
    initialRect: { width: 880, height: 620 },
    overscan: 6
  });
  $effect(() => {
    void box;
    const count = rows.length;
    untrack(() => get(virtualizer).setOptions({ count, getScrollElement: () => box ?? null }));
  });
  const seen = $derived($virtualizer.getVirtualItems().filter(({ index }) => index < rows.length));
  const aheadRows = 20;
  $effect(() => {
    if (!found.all && (seen.at(-1)?.index ?? 0) >= rows.length - aheadRows) void found.more();
  });

  const focus = new ListFocus(() => ({
    found,
    picked,
    rows: rowsOf(found.pictures, 1, false),
    box,
    scrollTo: (row) => get(virtualizer).scrollToIndex(row),
    onkey
  }));
  const filed = (picture: ListedPicture) =>
    picture.categories.flatMap((id) => categories.find(({ categoryId }) => categoryId === id)?.name ?? []);
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<div
  bind:this={box}
  class="min-h-0 flex-1 overflow-y-auto"
  role="table"
  aria-label={label}
  aria-rowcount={found.found + 1}
  onkeydown={focus.onKeydown}
  tabindex="-1"
  data-testid="picture-table"
>
  <div role="rowgroup" class="bg-sheet sticky top-0 z-10">
    <div
      role="row"
      class="border-rule text-small grid items-center gap-2 border-b {widths}"
      aria-rowindex={1}
    >
      <span role="columnheader"><span class="sr-only">Picked</span></span>
      <span role="columnheader"><span class="sr-only">Small picture</span></span>
      {#each table.getHeaderGroups()[0].headers as header (header.id)}
        {@const way = header.column.getIsSorted()}
        <span
          role="columnheader"
          aria-sort={way === 'asc' ? 'ascending' : way === 'desc' ? 'descending' : undefined}
        >
          {#if header.column.getCanSort()}
            <button
              class="flex min-h-11 w-full items-center gap-1 text-left font-bold"
              onclick={header.column.getToggleSortingHandler()}
              data-testid="sort-{header.column.id}"
            >
              {header.column.columnDef.header as string}
              {#if way === 'asc'}<ArrowUp size={14} aria-hidden="true" />
              {:else if way === 'desc'}<ArrowDown size={14} aria-hidden="true" />{/if}
            </button>
          {:else}<span class="font-bold">{header.column.columnDef.header as string}</span>{/if}
        </span>
      {/each}
    </div>
  </div>
  <div role="rowgroup" class="relative" style="height: {$virtualizer.getTotalSize()}px">
    {#each seen as { index, start } (rows[index].id)}
      {@const picture = rows[index].original}
      {@const isPicked = picked.has(picture.pictureId)}
      <div
        role="row"
        aria-rowindex={index + 2}
        class="border-rule absolute inset-x-0 grid items-center gap-2 border-b {widths} {isPicked
          ? 'bg-coral-wash'
          : ''}"
        style="transform: translateY({start}px); height: {rowPx}px"
        tabindex="-1"
        onpointerenter={() => onpoint(picture)}
        onpointerleave={() => onpoint(null)}
      >
        <span role="cell">
          <PickMark {picture} {picked} list={found.pictures} />
        </span>
        <span role="cell"><Small {picture} alt="" frame="h-12 w-14 rounded" lazy /></span>
        {#each table.getAllLeafColumns() as each (each.id)}
          {@const words = rows[index].getValue(each.id) as string}
          <span role="cell" class="min-w-0 leading-tight {each.id === 'name' ? '' : 'text-small'}">
            {#if each.id === 'name'}
              <a
                class="font-semibold hover:underline {filed(picture).length > 0
                  ? 'line-clamp-1'
                  : 'line-clamp-2'}"
                href="/visits/{picture.visitId}/measure?picture={picture.pictureId}"
                tabindex={picture.pictureId === focus.current ? 0 : -1}
                aria-label="{words}{isPicked ? ', picked' : ''}"
                data-testid="chart-picture"
                data-picture={picture.pictureId}
                onfocus={() => onpoint(picture)}>{words}</a
              >
              {#if filed(picture).length > 0}<span class="text-small text-lagoon line-clamp-1 font-semibold"
                  >{filed(picture).join(', ')}</span
                >{/if}
            {:else}<span class="line-clamp-2" title={words}>{words}</span>{/if}
          </span>
        {/each}
      </div>
    {/each}
  </div>
</div>
