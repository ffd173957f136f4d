<script lang="ts">
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';
  import { Download } from '@lucide/svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { placesInWords } from '$core/anatomy/place';
  import { projectionWords } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { pictureName, placesOf } from '$core/picture/pictureView';
  import type { Grade } from '$core/picture/gradeReasons';
  import { isInverted, windowOf } from '$core/raster/look/look';
  import { stationNames } from '$core/visit/course';
  import { clockWords } from '../clock';
  import Choice from '../kit/Choice.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import Small from '../pictures/Small.svelte';
  import { describeKeys } from '../shell/keys.svelte';
  import { takeDraggable } from '../tray/dragging';
  import { theVisit } from '../visit/visitStore.svelte';
  import { stationTables } from './stations';
  import { LightTable, type May } from './table.svelte';
  import GuidePanel from './GuidePanel.svelte';
  import LookPanel from './LookPanel.svelte';
  import RoundCard from './RoundCard.svelte';
  import SideBySide from './SideBySide.svelte';
  import StagePlaces from './StagePlaces.svelte';
  import ThenPanel from './ThenPanel.svelte';
  import TakeOut from './TakeOut.svelte';
  import ToolStrip from './ToolStrip.svelte';

  interface Props {
    station: keyof typeof stationTables;
    notation: Notation;
    may: May;
  }
  let { station, notation, may }: Props = $props();
  const store = theVisit();
  const table = new LightTable(store, () => ({ station: stationTables[station], may, notation }));
  const { edits } = table;
  const picture = $derived(table.picture);
  const Panel = $derived(stationTables[station].panel);
  let takingOut = $state(false);
  let stage = $state<ReturnType<typeof StagePlaces>>();

  // Opened from where it says what waits.
  if (page.url.searchParams.has('waiting') && untrack(() => may.confirm)) table.round.begin();

  let former = '';
  $effect(() => {
    const id = picture?.pictureId ?? '';
    if (id === former) return;
    former = id;
    table.changed();
  });

  const places = $derived(picture ? placesInWords(placesOf(picture), notation) : '');
  const lookWords = $derived.by(() => {
    if (!picture) return '';
    if (table.asStored || edits.look.knot === 0) return 'as it was stored';
    const window = windowOf(edits.look);
    const inverse = isInverted(edits.look) ? ' · inverted' : '';
    const tilt = edits.orientation.tiltDeg ? ' · tilted' : '';
    const rest = `${inverse}${tilt}${edits.part ? ' · cropped' : ''}`;
    return window
      ? `W ${Math.round(window.width)} · L ${Math.round(window.center)}${rest}`
      : `own look${rest}`;
  });

  $effect(() =>
    describeKeys([
      ...table.tools.map(({ key, words }) => ({ key, does: words })),
      ...(station === 'check' && may.changePictures
        ? [
            { key: 'D', does: 'Grade: diagnostic' },
            { key: 'L', does: 'Grade: limited' },
            { key: 'N', does: 'Grade: not diagnostic' }
          ]
        : []),
      { key: 'F', does: 'Fit the picture to the stage' },
      { key: '1', does: 'One to one' },
      { key: 'I', does: 'Invert' },
      { key: 'V', does: 'The look: its thread, or back to the station' },
      ...(station === 'measure' ? [{ key: '2', does: 'Guides, or back to the readings' }] : []),
      ...(station === 'measure' && may.confirm
        ? [
            { key: '3', does: 'Go through what waits for a clinician: confirm, and on to the next' },
            { key: '4', does: 'While going through it: leave for later' }
          ]
        : []),
      ...(station === 'measure'
        ? [{ key: 'Shift', does: 'While held: curves and outlines follow the edge to the next point' }]
        : []),
      ...(may.changePictures
        ? [{ key: 'Q', does: 'Keep what the stage shows as a picture of its own' }]
        : []),
      { key: 'J', does: 'Two, three, four or six pictures side by side, all of the tray, or one' },
      { key: 'K', does: 'Then and now: an earlier picture of the same place' },
      { key: 'Z', does: 'Fold away what lies beside the picture, or bring it back' },
      { key: 'M', does: 'The whole window for the picture, or back' },
      { key: '0', does: 'While held: the picture as it was stored' },
      { key: 'Page Up, Down', does: 'The picture before, or after' },
      { key: 'Ctrl Z', does: 'Take back what was done last' },
      { key: 'Ctrl Shift Z', does: 'Bring it back' }
    ])
  );

  const fit = () => stage?.fit();
  const oneToOne = () => stage?.oneToOne();

  function keepView() {
    const seen = stage?.sees();
    if (!seen || !table.keepView(seen.view, seen.stage)) {
      toast.warning('Nothing of the picture is in sight.', { description: 'Press F to see all of it.' });
      return;
    }
    toast(`Kept: ${table.name}`, {
      action: { label: 'Name it', onClick: () => void goto(`/visits/${store.head.visitId}/kept`) }
    });
  }

  function onKey(event: KeyboardEvent) {
    if (event.defaultPrevented || !picture) return;
    if (
      (event.target as Element).closest(
        'input, textarea, [role="dialog"], [role="listbox"], [contenteditable]'
      )
    )
      return;
    if (event.ctrlKey || event.metaKey) {
      if (event.key.toLowerCase() !== 'z' || !may.changePictures) return;
      event.preventDefault();
      if (event.shiftKey) edits.bringBack();
      else edits.takeBack();
      return;
    }
    if (event.altKey) return;
    const tool = table.tools.find(({ key }) => key === event.key.toUpperCase());
    const acts: Record<string, () => void> = {
      f: fit,
      1: oneToOne,
      i: () => may.changePictures && edits.invert(),
      q: () => may.changePictures && keepView(),
      k: () => table.showThen(),
      j: () => table.places.next(),
      z: () => table.widen('wide'),
      m: () => table.widen('whole'),
      Escape: () => (table.room = 'shared'),
      v: () => may.changePictures && table.showLook(),
      2: () => station === 'measure' && table.showGuide(),
      3: () => station === 'measure' && may.confirm && table.roundOn(),
      4: () => table.round.leaveForLater(),
      0: () => (table.asStored = true),
      PageDown: () => table.step(1),
      PageUp: () => table.step(-1)
    };
    const graded =
      station === 'check' && { D: 'diagnostic', L: 'limited', N: 'not diagnostic' }[event.key.toUpperCase()];
    if (graded) acts[event.key.toLowerCase()] = () => table.grade(graded as Grade);
    const act = tool
      ? () => table.takeUp(tool.id)
      : acts[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }
</script>

<svelte:window
  onkeydown={onKey}
  onkeyup={({ key }) => key === '0' && (table.asStored = false)}
  onblur={() => (table.asStored = false)}
/>

{#if picture}
  <main
    class="flex min-h-0 flex-1 gap-3 {table.room === 'whole'
      ? 'bg-paper fixed inset-0 z-30 p-2'
      : 'px-4 pb-4'}"
    data-room-for-picture={table.room}
  >
    <nav
      aria-label="Pictures of the visit"
      class="panel w-28 shrink-0 flex-col gap-2 overflow-y-auto p-2 xl:w-32 {table.room === 'shared'
        ? 'flex'
        : 'hidden'}"
    >
      <SideBySide {table} />
      {#each table.ordered as each (each.pictureId)}
        {@const keeper = store.wellOf(each)?.keeper === each.pictureId}
        {@const here = each.pictureId === picture.pictureId}
        <button
          class="relative shrink-0 overflow-hidden rounded-lg border text-left {here
            ? 'border-coral ring-coral ring-[3px]'
            : table.places.pictures.some((placed) => placed?.pictureId === each.pictureId)
              ? 'border-coral'
              : 'border-rule'}"
          aria-current={here ? 'true' : undefined}
          {@attach here ? (button: HTMLElement) => button.scrollIntoView({ block: 'nearest' }) : undefined}
          onclick={() => table.show(each.pictureId)}
          data-testid="table-picture"
          {@attach takeDraggable(each.pictureId)}
          data-picture={each.pictureId}
        >
          <Small picture={each} frame="h-18 w-full {keeper || !each.slot ? '' : 'opacity-75'}" />
          <span class="text-small block px-1.5 py-1 leading-tight font-semibold break-words"
            >{pictureName(each)}</span
          >
          {#if each.slot && !keeper}<span class="text-small text-ink-soft block px-1.5 pb-1 leading-tight"
              >earlier take, {clockWords(each.takenAt)}</span
            >{/if}
        </button>
      {/each}
    </nav>
    <div class="flex min-w-0 flex-1 flex-col gap-2">
      <StagePlaces bind:this={stage} {table} corner={lookWords} />
      <ToolStrip {table} onfit={fit} ononetoone={oneToOne} onkeep={keepView} />
    </div>
    <aside
      class="panel w-64 shrink-0 scroll-pb-36 flex-col gap-4 overflow-y-auto p-4 xl:w-72 {table.room ===
      'shared'
        ? 'flex'
        : 'hidden'}"
      aria-label="About this picture"
    >
      <div class="relative">
        <h1 class="text-title font-bold break-words {may.send ? 'pr-10' : ''}">{table.name}</h1>
        <p class="text-small text-ink-soft">
          {[picture.slot ? projectionWords(picture.slot.projection) : 'in no slot', places]
            .filter(Boolean)
            .join(', ')}
        </p>
        {#if may.send}
          <div class="absolute -top-2 -right-2">
            <Tooltip
              words="Take it out as a file"
              button="flex size-11 items-center justify-center rounded-lg"
              testid="take-out"
              onclick={() => (takingOut = true)}><Download size={20} aria-hidden="true" /></Tooltip
            >
          </div>
          <TakeOut {table} bind:open={takingOut} />
        {/if}
      </div>
      {#if station === 'measure' && may.confirm && !table.thenNow.open}<RoundCard {table} />{/if}
      {#if may.changePictures && !table.thenNow.open && !table.round.current}
        <Choice
          label="Beside the picture"
          small
          testid="panel"
          bind:value={table.panel}
          options={[
            { value: 'station', words: stationNames[station] },
            ...(station === 'measure' ? [{ value: 'guide' as const, words: 'Guide', key: '2' }] : []),
            { value: 'look', words: 'Look', key: 'V' }
          ]}
        />
      {/if}
      {#if table.thenNow.open}<ThenPanel
          {table}
        />{:else if table.panel === 'look' && may.changePictures}<LookPanel
          {table}
        />{:else if table.panel === 'guide' && station === 'measure'}<GuidePanel {table} />{:else}<Panel
          {table}
        />{/if}
    </aside>
  </main>
{:else}
  <main class="flex flex-1 items-center justify-center">
    <div class="text-center">
      <h1 class="text-title font-bold">No picture yet</h1>
      <p class="text-ink-soft mt-1 mb-4">What is acquired or brought in lies here at once.</p>
      <a class="button main" href="/visits/{store.head.visitId}/acquire">Acquire</a>
    </div>
  </main>
{/if}
