<script lang="ts">
  import { onDestroy } from 'svelte';
  import { showPlaces } from '$core/anatomy/place';
  import { scaleInUse } from '$core/picture/pictureLayers';
  import { type PictureView, orientationOf, partOf, pictureName } from '$core/picture/pictureView';
  import { type Point, orientedSize } from '$core/raster/orientation';
  import type { Stage as StageShape, View } from '$core/raster/view';
  import { clockWords, dayWords } from '../clock';
  import { previewUrl } from '../pictures/previewUrl';
  import Stage from '../stage/Stage.svelte';
  import { thePainter } from '../stage/painting';
  import { shapeOf } from '../stage/viewport.svelte';
  import { moveTool } from '../stage/tools/move';
  import { placeTool } from '../stage/tools/place';
  import type { Deed, Tool } from '../stage/tools/tool';
  import { takeTarget } from '../tray/dragging';
  import { captionPx, layClose, placedSlots } from '$core/tray/layout';
  import ChangesOver from './ChangesOver.svelte';
  import FoundRings from './FoundRings.svelte';
  import LitParts from './LitParts.svelte';
  import LikelyRing from './LikelyRing.svelte';
  import ThenOver from './ThenOver.svelte';
  import { gridFor } from './grid';
  import Wipe from './Wipe.svelte';
  import type { LightTable } from './table.svelte';
  import { type Which, mostPairs } from './thenNow.svelte';

  interface Props {
    table: LightTable;
    /** How the picture in hand is looked at, in words. */
    corner: string;
  }
  let { table, corner }: Props = $props();
  const { edits, places, thenNow } = $derived(table);
  const picture = $derived(table.picture!);
  const plainMove = moveTool as Tool<unknown>;
  const pointTools = Array.from(
    { length: mostPairs },
    (_, i) => placeTool([`the ${['first', 'second', 'third', 'fourth'][i]} common point`]) as Tool<unknown>
  );
  const mostWellPx = 480;
  /** From this width on there is room for a slot's name under it. */
  const namedPx = 150;
  /** A press that moved so little, in screen pixels, takes a picture in hand. */
  const pressPx = 6;

  const beside = $derived(thenNow.then && thenNow.mode === 'side' ? thenNow.then : null);
  const over = $derived(thenNow.then && thenNow.mode !== 'side' && thenNow.laid ? thenNow.then : null);
  const cells: (PictureView | null)[] = $derived(
    thenNow.then ? [...(beside ? [beside] : []), picture] : places.pictures
  );
  const shapeSeen = (each: PictureView) => partOf(each) ?? orientedSize(each, orientationOf(each));
  const room = $state({ width: 800, height: 600 });
  /** Of what is empty: as if it held what is in hand. */
  const grid = $derived(
    thenNow.then
      ? { columns: cells.length, rows: 1 }
      : gridFor(
          cells.map((each) => shapeSeen(each ?? picture)),
          room
        )
  );
  /** Where they lie when they lie as on the tray, each with its caption under it. */
  const frames = $derived(
    places.tray && !thenNow.then && room.width > 0
      ? layClose(placedSlots(places.tray), room, mostWellPx)
      : null
  );
  /** Where one of them is too narrow for its slot's name, all bear what they show instead. */
  const inShort = $derived(frames?.some((each) => each.width < namedPx) ?? false);
  const stages: (ReturnType<typeof Stage> | undefined)[] = $state([]);
  let width = $state(0);
  let height = $state(0);
  let dragOver = $state<number | null>(null);

  const inHand = () => stages[cells.findIndex((each) => each?.pictureId === picture.pictureId)];
  export const fit = () => inHand()?.fit();
  export const oneToOne = () => inHand()?.oneToOne();
  export const sees = () => inHand()?.sees() ?? null;

  $effect(() => {
    if (over && thenNow.mode === 'difference') void thenNow.findChanges();
  });
  $effect(() => {
    void places.fetchMissing();
  });

  /** So long after a picture has come those beside it in the series are fetched ahead. */
  const aheadAfterMs = 150;
  let soon: ReturnType<typeof setTimeout> | undefined;
  function fetchAhead() {
    clearTimeout(soon);
    if (cells.length > 1 || over) return;
    soon = setTimeout(() => {
      for (const each of table.neighbours) {
        const { width: across, height: down } = shapeSeen(each);
        const zoom = Math.min(room.width / across, room.height / down);
        void thePainter().ahead(shapeOf(each), zoom * devicePixelRatio);
      }
    }, aheadAfterMs);
  }
  onDestroy(() => clearTimeout(soon));

  const isOfVisit = ({ visitId }: PictureView) => visitId === picture.visitId;
  function words(each: PictureView): string {
    const takes = table.well?.takes ?? [];
    if (!thenNow.then && places.takesTogether && takes.includes(each.pictureId))
      return `Take ${takes.indexOf(each.pictureId) + 1}${table.well?.keeper === each.pictureId ? ', the keeper' : ''}`;
    return isOfVisit(each) && !thenNow.then
      ? pictureName(each)
      : `${isOfVisit(each) ? 'Now' : 'Then'}, ${dayWords(each.takenAt)}`;
  }

  const toolOf = (which: Which): Tool<unknown> => {
    if (thenNow.wanted === which) return pointTools[thenNow.pairs.length];
    return which === 'now' && !thenNow.placing ? table.tool.tool : plainMove;
  };
  function pointDeed(which: Which, deed: Exclude<Deed, { kind: 'view' }>): boolean {
    if (deed.kind === 'placed' && thenNow.wanted) thenNow.placed(which, deed.points[0]);
    else if (deed.kind === 'moved' && deed.id.startsWith('common-'))
      thenNow.moved(which, deed.id, deed.points[0], deed.done);
    else if (deed.kind === 'left') {
      thenNow.left();
      return false;
    } else return false;
    return true;
  }

  /** Found by itself: where it is likely need not be told. */
  const wantedIsFound = $derived(table.guiding.proposed[table.guiding.wanted?.key ?? ''] !== undefined);
  let pressed: Point | null = null;
  function onClick(event: MouseEvent, each: PictureView) {
    const still = pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < pressPx;
    if (still && places.several && each.pictureId !== picture.pictureId && isOfVisit(each))
      table.show(each.pictureId);
  }
</script>

{#snippet ring(view: View, stage: StageShape)}
  <LitParts parts={table.guiding.litParts} {view} {stage} />
  <FoundRings
    proposed={{ ...table.guiding.proposed, ...table.guiding.sharper }}
    wanted={table.guiding.wanted?.key}
    {view}
    {stage}
  />
  {#if table.guiding.likely && !wantedIsFound}<LikelyRing likely={table.guiding.likely} {view} {stage} />{/if}
{/snippet}
{#snippet then(view: View, stage: StageShape)}
  {#if over && thenNow.laid}
    {@const similarity = thenNow.laid.similarity}
    {#if thenNow.mode === 'difference'}
      {#if thenNow.changes}<ChangesOver pixels={thenNow.changes.pixels} {view} {stage} />{/if}
    {:else if thenNow.mode === 'slider' || thenNow.thenSeen}
      <ThenOver
        picture={over}
        {similarity}
        {view}
        {stage}
        share={thenNow.mode === 'slider' ? thenNow.share : 1}
      />
    {/if}
  {/if}
{/snippet}

<section
  class="relative min-h-0 flex-1 gap-1 overflow-hidden rounded-xl {frames ? 'bg-stage' : 'grid'}"
  style={frames
    ? ''
    : `grid-template: repeat(${grid.rows}, minmax(0, 1fr)) / repeat(${grid.columns}, minmax(0, 1fr))`}
  bind:clientWidth={room.width}
  bind:clientHeight={room.height}
  aria-label="Stage"
>
  {#each cells as each, i (cells.length === 1 ? 'alone' : (each?.pictureId ?? i))}
    {@const here = each?.pictureId === picture.pictureId}
    {@const frame = frames?.[i]}
    <!-- svelte-ignore a11y_no_static_element_interactions, a11y_click_events_have_key_events -->
    <div
      class="min-h-0 min-w-0 {frame ? 'absolute' : 'relative'} {dragOver === i
        ? 'outline-coral outline-[3px] -outline-offset-[3px]'
        : ''}"
      style={frame
        ? `left: ${frame.left}px; top: ${frame.top}px; width: ${frame.width}px; height: ${frame.height - captionPx}px`
        : ''}
      onpointerdown={({ clientX, clientY }) => (pressed = { x: clientX, y: clientY })}
      onclick={(event) => each && onClick(event, each)}
      ondblclick={() => here && frame && places.lay(1)}
      {@attach thenNow.then || places.tray
        ? undefined
        : takeTarget({
            over: (is) => (dragOver = is ? i : null),
            take: (takeId) => places.put(takeId, i)
          })}
      bind:clientWidth={width}
      bind:clientHeight={height}
    >
      {#if !each && frame}
        <div class="border-on-stage/40 h-full w-full rounded-md border border-dashed"></div>
      {:else if !each}
        <button
          class="bg-stage text-on-stage flex h-full w-full flex-col items-center justify-center gap-1 px-4 text-center {places.target ===
          i
            ? 'outline-coral outline-[3px] -outline-offset-[3px]'
            : ''}"
          aria-pressed={places.target === i}
          onclick={() => (places.target = places.target === i ? null : i)}
        >
          <span class="font-semibold">Nothing here yet</span>
          <span class="text-small"
            >{places.target === i
              ? 'The next picture that is pressed comes here.'
              : 'Drag a picture here, or press here and then the picture.'}</span
          >
        </button>
      {:else if here}
        <Stage
          bind:this={stages[i]}
          bind:together={
            () => (beside ? (places.linked ? places.where : undefined) : places.sight),
            (where) => (beside ? where !== undefined && (places.where = where) : (places.sight = where))
          }
          picture={each}
          look={table.shownLook}
          onarrived={() => {
            void table.lookAtValues();
            fetchAhead();
          }}
          orientation={edits.orientation}
          part={thenNow.then ? undefined : edits.part}
          preview={previewUrl(each)}
          tool={thenNow.then ? toolOf('now') : table.tool.tool}
          drawings={thenNow.then ? [...table.drawings, ...thenNow.drawings('now')] : table.drawings}
          highlighted={table.highlighted}
          bind:frame={table.frame}
          aspect={edits.aspect}
          scale={edits.scale}
          bare={frame !== undefined}
          movable={table.may.changePictures}
          placing={table.tool.makes !== undefined}
          over={table.repeating !== null || table.tool.makes === 'guide'}
          label="Picture: {pictureName(each)}"
          {corner}
          named={cells.length > 1 || over !== null}
          laid={over ? then : table.guiding.guide ? ring : undefined}
          ondeed={(deed) => {
            if (!thenNow.then || !pointDeed('now', deed)) table.deed(deed);
          }}
          onhighlight={(id, index) => {
            table.highlighted = id;
            table.guiding.point(id, index);
          }}
        />
      {:else}
        <Stage
          bind:this={stages[i]}
          bind:together={
            () =>
              beside
                ? places.linked
                  ? thenNow.carried(places.where, width, height)
                  : undefined
                : places.sight,
            (where) => {
              if (!beside) places.sight = where;
              else if (where !== undefined) places.where = thenNow.carriedBack(where, width, height);
            }
          }
          picture={each}
          look={table.lookBeside(each)}
          orientation={orientationOf(each)}
          part={thenNow.then ? undefined : partOf(each)}
          scale={scaleInUse(each.layers, each.fileScale)}
          bare={frame !== undefined}
          preview={previewUrl(each)}
          tool={beside ? toolOf('then') : plainMove}
          named
          drawings={beside ? thenNow.drawings('then') : []}
          movable={beside !== null && table.may.changePictures}
          label="Beside it: {pictureName(each)}, {isOfVisit(each)
            ? clockWords(each.takenAt)
            : dayWords(each.takenAt)}"
          ondeed={(deed) => void (beside && pointDeed('then', deed))}
        />
      {/if}
      {#if frame}
        {@const { name, places: shows } = places.tray![i].slot}
        {@const caption = (inShort && showPlaces(shows, table.notation)) || name}
        {@const style = 'text-small text-on-stage absolute top-full w-full truncate pt-0.5 text-center'}
        {#if each}
          <button
            class="{style} {here ? 'font-bold' : ''}"
            onclick={() => table.show(each.pictureId)}
            aria-pressed={here}
            aria-label={name}
            title={name}
            data-testid="place-name">{caption}</button
          >
        {:else}
          <p class={style}>{caption}: none</p>
        {/if}
      {/if}
      {#if here && frame}
        <div class="border-coral pointer-events-none absolute inset-0 border-[3px]" aria-hidden="true"></div>
      {:else if each && !frame && cells.length > 1}
        {#if here}<div
            class="border-coral pointer-events-none absolute inset-0 border-[3px]"
            aria-hidden="true"
          ></div>{/if}
        <button
          class="text-small absolute top-2 left-2 max-w-[calc(100%-1rem)] truncate rounded-full px-3 py-1 font-semibold {here
            ? 'bg-coral text-on-fill'
            : 'bg-stage/80 text-on-stage'}"
          onclick={() => isOfVisit(each) && table.show(each.pictureId)}
          aria-pressed={here}
          data-testid="place-name"
        >
          {words(each)}
        </button>
      {/if}
      {#if here && over && thenNow.mode === 'slider'}<Wipe bind:share={thenNow.share} />{/if}
      {#if here && over}
        <p
          class="bg-stage/80 text-on-stage text-small pointer-events-none absolute top-2 left-2 rounded-full px-3 py-1 font-semibold"
          data-testid="over-words"
        >
          {thenNow.mode === 'difference'
            ? 'Grey: as it was. Bright: brighter now. Dark: darker now.'
            : thenNow.mode === 'blink'
              ? words(thenNow.thenSeen ? over : each!)
              : `Left: ${words(over)}. Right: now.`}
        </p>
      {/if}
    </div>
  {/each}
</section>
