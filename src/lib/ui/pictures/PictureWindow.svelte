<script lang="ts">
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import { untrack } from 'svelte';
  import type { Snippet } from 'svelte';
  import { get } from 'svelte/store';
  import type { Notation } from '$core/anatomy/teeth';
  import type { ListedPicture } from '$core/picture/pictureSearch';
  import PictureCard from './PictureCard.svelte';
  import type { FoundPictures } from './found.svelte';
  import { ListFocus } from './listFocus.svelte';
  import type { Picked } from './picked.svelte';
  import { type PictureRow, rowsOf } from './pictureRows';

  interface Props {
    found: FoundPictures;
    picked: Picked;
    notation: Notation;
    /** Cards with words, or the pictures alone. */
    form: 'grid' | 'strip';
    label: string;
    /** Over the pictures of each visit. */
    head: Snippet<[string, number | null]>;
    onpoint: (picture: ListedPicture | null) => void;
    /** What keys ask for of the picture that has the focus, or of those that are picked. */
    onkey: (event: KeyboardEvent, picture: ListedPicture) => void;
    /** Whether pictures can be picked. */
    picks?: boolean;
  }
  let { found, picked, notation, form, label, head, onpoint, onkey, picks = true }: Props = $props();

  const gapPx = 12;
  const leastPx = { grid: 190, strip: 112 };
  const rowPx = { grid: 214, strip: 96 };
  const headPx = 38;
  /** What it may be before the window is known: pages made on the server show their first pictures at once. */
  const usualRoom = { width: 880, height: 620 };

  let box = $state<HTMLElement>();
  let width = $state(0);
  const columns = $derived(
    Math.max(1, Math.floor(((width || usualRoom.width) + gapPx) / (leastPx[form] + gapPx)))
  );
  const rows = $derived(rowsOf(found.pictures, columns, found.search.sort === 'date'));
  const heightOf = (row: PictureRow | undefined) => (row?.kind === 'head' ? headPx : rowPx[form] + gapPx);

  const virtualizer = createVirtualizer<HTMLElement, HTMLElement>({
    count: untrack(() => rows.length),
    getScrollElement: () => box ?? null,
    estimateSize: (i) => heightOf(untrack(() => rows)[i]),
    getItemKey: (i) => untrack(() => rows)[i]?.key ?? i,
    initialRect: usualRoom,
    overscan: 3
  });
  $effect(() => {
    void [box, form];
    const count = rows.length;
    untrack(() => {
      const now = get(virtualizer);
      now.setOptions({ count, getScrollElement: () => box ?? null });
      now.measure();
    });
  });
  const seen = $derived($virtualizer.getVirtualItems().filter(({ index }) => index < rows.length));
  const aheadRows = 6;
  $effect(() => {
    if (!found.all && (seen.at(-1)?.index ?? 0) >= rows.length - aheadRows) void found.more();
  });

  const focus = new ListFocus(() => ({
    found,
    picked,
    rows,
    box,
    scrollTo: (row) => get(virtualizer).scrollToIndex(row),
    onkey
  }));
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<div
  bind:this={box}
  class="min-h-0 flex-1 overflow-y-auto p-1"
  role="region"
  aria-label={label}
  tabindex="-1"
  onkeydown={focus.onKeydown}
  data-testid="pictures"
>
  <div class="relative w-full" style="height: {$virtualizer.getTotalSize()}px" bind:clientWidth={width}>
    {#each seen as { index, start, key } (key)}
      {@const row = rows[index]}
      <div
        class="absolute inset-x-0"
        style="transform: translateY({start}px); height: {heightOf(row) -
          (row.kind === 'head' ? 0 : gapPx)}px"
      >
        {#if row.kind === 'head'}{@render head(row.visitId, row.trayNumber)}
        {:else}
          <ul class="grid h-full gap-3" style="grid-template-columns: repeat({columns}, minmax(0, 1fr))">
            {#each row.pictures as picture (picture.pictureId)}
              <li class="min-h-0">
                <PictureCard
                  {picture}
                  {notation}
                  {picked}
                  list={found.pictures}
                  bare={form === 'strip'}
                  current={picture.pictureId === focus.current}
                  {onpoint}
                  {picks}
                />
              </li>
            {/each}
          </ul>
        {/if}
      </div>
    {/each}
  </div>
</div>
