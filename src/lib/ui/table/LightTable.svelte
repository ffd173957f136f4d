<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import {
    Contrast,
    Expand,
    FlipHorizontal2,
    Hand,
    RotateCcw,
    RotateCw,
    Ruler,
    SunMedium,
    Undo2,
    Waypoints
  } from '@lucide/svelte';
  import { type Notation, showTeeth } from '$core/anatomy/teeth';
  import type { PlacedPoint } from '$core/calibration/scale';
  import { inWords } from '$core/measurement/length';
  import type { VisitView } from '$core/visit/visitView';
  import { previewUrl } from '../previewUrl';
  import Stage, { type Tool } from '../stage/Stage.svelte';
  import type { Mark } from '../stage/marks';
  import CheckPanel from './CheckPanel.svelte';
  import { Edits } from './edits.svelte';
  import MeasurePanel from './MeasurePanel.svelte';
  import ScalePanel from './ScalePanel.svelte';

  interface Props {
    visit: VisitView;
    station: 'check' | 'scale' | 'measure';
    notation: Notation;
    mayConfirm: boolean;
    mayChange: boolean;
  }
  let { visit, station, notation, mayConfirm, mayChange }: Props = $props();

  /** The visit's pictures as the tray has them: keepers along the route, other takes behind them, then the bench. */
  const ordered = $derived.by(() => {
    const wells = visit.tray.route.map((id) => visit.tray.wells[id]);
    const ids = [
      ...wells.flatMap((well) => (well.keeper ? [well.keeper] : [])),
      ...visit.tray.bench,
      ...wells.flatMap((well) => well.takes.filter((id) => id !== well.keeper))
    ];
    return ids.flatMap((id) => visit.pictures.find((picture) => picture.pictureId === id) ?? []);
  });
  const asked = $derived(page.url.searchParams.get('picture'));
  const picture = $derived(ordered.find((each) => each.pictureId === asked) ?? ordered[0] ?? null);
  const well = $derived(picture?.slot ? visit.tray.wells[picture.slot.id] : null);
  const edits = new Edits(() => picture!);
  let tool = $state<Tool>('window');
  let lit = $state<string | null>(null);
  let stage = $state<ReturnType<typeof Stage>>();
  let scaleLine = $state<[PlacedPoint, PlacedPoint] | null>(null);

  let former = '';
  $effect(() => {
    const id = picture?.pictureId ?? '';
    if (id === former) return;
    former = id;
    edits.forget();
    scaleLine = null;
  });

  function show(pictureId: string) {
    void goto(`?picture=${pictureId}`, { replaceState: true, noScroll: true, keepFocus: true });
  }
  function step(by: number) {
    const at = ordered.findIndex((each) => each.pictureId === picture?.pictureId);
    const next = ordered[(at + by + ordered.length) % ordered.length];
    if (next) show(next.pictureId);
  }

  const shownPicture = $derived(picture && { ...picture, look: edits.look, orientation: edits.orientation });
  const marks = $derived.by<Mark[]>(() => {
    if (!picture) return [];
    const lengths = edits.readings.map((reading): Mark => ({
      id: reading.id,
      kind: 'length',
      ends: reading.ends,
      words: inWords(reading.measured)
    }));
    const line = scaleLine ?? edits.scaleLine;
    return line && station === 'scale'
      ? [...lengths, { id: 'scale', kind: 'scale-line', ends: line, words: 'known length' }]
      : lengths;
  });

  function onLine(ends: [PlacedPoint, PlacedPoint]) {
    if (station === 'scale') {
      scaleLine = ends;
      tool = 'window';
    } else {
      lit = edits.addLength(ends);
    }
  }
  function onMove(mark: Mark, done: boolean) {
    if (mark.kind === 'scale-line') scaleLine = mark.ends;
    else edits.moveLength(mark.id, mark.ends, done);
  }

  function onKey(event: KeyboardEvent) {
    if ((event.target as Element).closest('input, select, textarea, [role="dialog"]')) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      if (mayChange) void edits.takeBack();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey || !picture) return;
    const acts: Record<string, () => void> = {
      f: () => stage?.fit(),
      1: () => stage?.oneToOne(),
      i: () => mayChange && edits.invert(),
      w: () => (tool = 'window'),
      p: () => (tool = 'pan'),
      l: () => station !== 'check' && (tool = 'line'),
      PageDown: () => step(1),
      PageUp: () => step(-1)
    };
    const act = acts[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }
</script>

<svelte:window onkeydown={onKey} />

{#snippet toolButton(is: Tool, words: string, key: string, Icon: typeof Ruler)}
  <button
    class="button min-w-0 px-3 {tool === is ? 'border-coral! bg-coral-wash! text-ink' : ''}"
    aria-pressed={tool === is}
    onclick={() => (tool = is)}
    data-testid="tool-{is}"
    title="{words} ({key})"
  >
    <Icon size={19} aria-hidden="true" />{words}
  </button>
{/snippet}

{#if picture && shownPicture}
  <main class="flex min-h-0 flex-1 gap-3 px-4 pb-4">
    <nav
      aria-label="Pictures of the visit"
      class="panel flex w-30 shrink-0 flex-col gap-2 overflow-y-auto p-2"
    >
      {#each ordered as each (each.pictureId)}
        {@const keeper = each.slot !== null && visit.tray.wells[each.slot.id].keeper === each.pictureId}
        <button
          class="relative shrink-0 overflow-hidden rounded-lg border text-left {each.pictureId ===
          picture.pictureId
            ? 'border-coral ring-coral ring-[3px]'
            : 'border-rule'} {keeper || !each.slot ? '' : 'opacity-75'}"
          aria-current={each.pictureId === picture.pictureId ? 'true' : undefined}
          onclick={() => show(each.pictureId)}
          data-testid="table-picture"
          data-picture={each.pictureId}
        >
          <img src={previewUrl(each)} alt="" class="bg-stage h-18 w-full object-contain" draggable="false" />
          <span class="text-small block truncate px-1.5 py-0.5 font-semibold"
            >{each.slot?.name ?? (each.fileName || 'Bench')}</span
          >
          {#if each.slot && !keeper}<span class="text-small text-ink-soft block px-1.5 pb-0.5"
              >earlier take</span
            >{/if}
        </button>
      {/each}
    </nav>
    <div class="flex min-w-0 flex-1 flex-col gap-2">
      <section class="bg-stage relative min-h-0 flex-1 overflow-hidden rounded-xl" aria-label="Stage">
        <Stage
          bind:this={stage}
          picture={shownPicture}
          {tool}
          {marks}
          {lit}
          label="Picture: {picture.slot?.name ?? picture.fileName}. Arrow keys move it, plus and minus zoom."
          onlook={mayChange ? (look, done) => edits.setLook(look, done) : undefined}
          online={mayChange ? onLine : undefined}
          onmove={mayChange ? onMove : undefined}
          onlight={(id) => (lit = id)}
        />
        <p
          class="text-small text-on-stage/80 pointer-events-none absolute bottom-2 left-3"
          data-testid="look-words"
        >
          W {Math.round(edits.look.window.width)} · L {Math.round(edits.look.window.center)}{edits.look
            .inverted
            ? ' · inverted'
            : ''}
        </p>
      </section>
      <div class="flex shrink-0 flex-wrap items-center gap-1.5" role="toolbar" aria-label="Tools">
        {@render toolButton('window', 'Window', 'W', SunMedium)}
        {@render toolButton('pan', 'Move', 'P', Hand)}
        {#if station !== 'check' && mayChange}
          {@render toolButton(
            'line',
            station === 'scale' ? 'Known length' : 'Length',
            'L',
            station === 'scale' ? Waypoints : Ruler
          )}
        {/if}
        {#if station === 'check' && mayChange}
          <button
            class="button px-3"
            onclick={() => edits.turn(-1)}
            data-testid="turn-left"
            aria-label="Turn left"><RotateCcw size={19} aria-hidden="true" />Left</button
          >
          <button
            class="button px-3"
            onclick={() => edits.turn(1)}
            data-testid="turn-right"
            aria-label="Turn right"><RotateCw size={19} aria-hidden="true" />Right</button
          >
          <button class="button px-3" onclick={() => edits.mirror()} data-testid="mirror"
            ><FlipHorizontal2 size={19} aria-hidden="true" />Mirror</button
          >
        {/if}
        <span class="bg-rule mx-1 h-7 w-px" aria-hidden="true"></span>
        {#if mayChange}
          <button
            class="button px-3"
            aria-pressed={edits.look.inverted}
            onclick={() => edits.invert()}
            data-testid="invert"><Contrast size={19} aria-hidden="true" />Invert</button
          >
        {/if}
        <button
          class="button px-3"
          onclick={() => stage?.fit()}
          aria-label="Fit the window"
          title="Fit the window (F)"><Expand size={19} aria-hidden="true" /></button
        >
        <button
          class="button px-2.5"
          onclick={() => stage?.oneToOne()}
          title="One picture point a screen point (1)">1:1</button
        >
        {#if mayChange}
          <span class="ml-auto flex gap-1.5">
            <button class="button px-3" onclick={() => edits.firstLook()} data-testid="first-look"
              >First look</button
            >
            <button
              class="button px-3"
              onclick={() => edits.takeBack()}
              disabled={!picture.canTakeBack}
              data-testid="take-back"
              title="Take back (Ctrl Z)"
            >
              <Undo2 size={19} aria-hidden="true" />Take back
            </button>
          </span>
        {/if}
      </div>
    </div>
    <aside
      class="panel flex w-72 shrink-0 flex-col gap-4 overflow-y-auto p-4"
      aria-label="About this picture"
    >
      <div>
        <h1 class="text-title font-bold">{picture.slot?.name ?? (picture.fileName || 'On the bench')}</h1>
        <p class="text-small text-ink-soft">
          {picture.slot
            ? `${picture.slot.projection}, teeth ${showTeeth(picture.teeth.length > 0 ? picture.teeth : picture.slot.teeth, notation)}`
            : 'in no slot'}
        </p>
      </div>
      {#if station === 'check'}
        <CheckPanel {visit} {picture} {well} {mayConfirm} {mayChange} onshow={show} />
      {:else if station === 'scale'}
        <ScalePanel
          {picture}
          {edits}
          {mayChange}
          bind:line={scaleLine}
          drawing={tool === 'line'}
          ondraw={() => (tool = 'line')}
        />
      {:else}
        <MeasurePanel
          {picture}
          {edits}
          {mayChange}
          bind:lit
          drawing={tool === 'line'}
          ondraw={() => (tool = 'line')}
        />
      {/if}
    </aside>
  </main>
{:else}
  <main class="flex flex-1 items-center justify-center">
    <div class="text-center">
      <h1 class="text-title font-bold">No picture yet</h1>
      <p class="text-ink-soft mt-1 mb-4">What is acquired or brought in lies here at once.</p>
      <a class="button main" href="/visits/{visit.visitId}/acquire">Acquire</a>
    </div>
  </main>
{/if}
