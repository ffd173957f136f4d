<script lang="ts">
  import { numberWords } from '../writing';
  import { type Snippet, onMount, untrack } from 'svelte';
  import type { Scale } from '$core/calibration/scale';
  import { scaleBar } from '$core/measurement/scaleBar';
  import type { PictureShape } from '$core/picture/pictureView';
  import type { Look } from '$core/raster/look/look';
  import type { Orientation, Part, Point } from '$core/raster/orientation';
  import {
    type SharedView,
    type Stage as StageShape,
    type View,
    fitted,
    fromShared,
    screenToImage,
    shared,
    toScreen,
    zoomedAbout
  } from '$core/raster/view';
  import Slider from '../kit/Slider.svelte';
  import Drawings from './Drawings.svelte';
  import { EdgeAhead } from './edgeAhead.svelte';
  import Magnifier from './Magnifier.svelte';
  import { type ShownDrawing, pointsOf } from './shownDrawing';
  import { handleTool } from './tools/handle';
  import { moveTool } from './tools/move';
  import { pinched } from './tools/pinch';
  import { windowTool } from './tools/window';
  import { type Deed, type PointerAct, type Surface, type Tool, type Turn, nothingShown } from './tools/tool';
  import { thePainter } from './painting';
  import { Viewport, shapeOf } from './viewport.svelte';

  interface Props {
    picture: PictureShape & { frameMs?: number | null };
    look: Look;
    orientation: Orientation;
    /** The part of it that is shown, as it is turned; all of it when it is absent. */
    part?: Part;
    /** A small picture of the same, for as long as it takes to fetch the large one. */
    preview: string;
    label: string;
    /** Whether a name stands in its upper left corner, which what the tool says leaves free. */
    named?: boolean;
    /** The scale that a bar is drawn by, null for none, so that it counts pixels; undefined for no bar. */
    scale?: Scale | null;
    /** Whether it is too small for words in its corners. */
    bare?: boolean;
    /** Words in the lower left corner: how the picture is looked at. */
    corner?: string;
    tool?: Tool<unknown>;
    drawings?: ShownDrawing[];
    highlighted?: string | null;
    /** Whether points of the drawings can be moved. */
    movable?: boolean;
    /** Whether the tool in hand places points: those that are there are then taken up only by a press right on them. */
    placing?: boolean;
    /** Whether points may be placed where others lie. */
    over?: boolean;
    /** Height of a pixel over its width, for what is drawn square or round. */
    aspect?: number;
    frame?: number;
    /** Where the stages beside it look; undefined for a stage of its own, null while all of them fit. */
    together?: SharedView | null;
    ondeed?: (deed: Exclude<Deed, { kind: 'view' }>) => void;
    onhighlight?: (id: string | null, index?: number) => void;
    /** Samples of the picture have come. */
    onarrived?: () => void;
    /** What lies over the picture, below the drawings. */
    laid?: Snippet<[view: View, stage: StageShape]>;
  }
  let {
    picture,
    look,
    orientation,
    part,
    preview,
    label,
    corner = '',
    named = false,
    bare = false,
    scale,
    tool = moveTool as Tool<unknown>,
    drawings = [],
    highlighted = null,
    movable = false,
    placing = false,
    over = false,
    aspect = 1,
    frame = $bindable(0),
    together = $bindable(),
    ondeed,
    onhighlight,
    onarrived,
    laid
  }: Props = $props();

  const wheelStep = 1.0015;
  const keyZoom = 1.25;
  const magnifierZoom = 3;
  const leastMagnified = 2;
  /** How near a point a press takes it up, in screen pixels. */
  const grip = 22;
  const gripWhilePlacing = 9;

  let box = $state<HTMLDivElement>();
  let canvas = $state<HTMLCanvasElement>();
  let screen = $state.raw({ width: 0, height: 0 });
  let view = $state.raw<View | null>(null);
  let fits = $state(true);
  const viewport = new Viewport();
  const edge = new EdgeAhead();
  /** Whether edges are followed without a key being held, for fingers. */
  let edgesOn = $state(false);
  /** An edge is worked out exactly: what the pointer does meanwhile waits. */
  let placingAlong = false;
  const stage = $derived({
    picture: { width: picture.width, height: picture.height, pixelAspect: picture.pixelAspect },
    orientation,
    screen,
    part
  });
  /** Where the part lies on the screen. */
  const partSeen = $derived(
    part && view
      ? {
          x: (part.left - view.center.x) * view.zoom + screen.width / 2,
          y: (part.top - view.center.y) * view.zoom + screen.height / 2,
          width: part.width * view.zoom,
          height: part.height * view.zoom
        }
      : null
  );
  /** How long a bar may be, in screen pixels. */
  const mostBarPx = 130;
  /** On a stage so narrow the bar stands above the words in the other corner. */
  const narrowPx = 480;
  const bar = $derived(view && scale !== undefined ? scaleBar(scale, mostBarPx / view.zoom) : null);
  const isShown = $derived(viewport.shown?.pictureId === picture.pictureId);

  /** The tool in hand, and for a while in its place one that holds a point or moves the picture. */
  type Machine = { tool: Tool<unknown>; state: unknown };
  let main = $state.raw<Machine | null>(null);
  let instead = $state.raw<(Machine & { by: 'pointer' | 'focus' }) | null>(null);
  const active = $derived(instead ?? main);
  const shown = $derived(active ? active.tool.shown(active.state) : nothingShown);

  export function fit() {
    fits = true;
    view = fitted(stage);
    if (together) together = null;
  }
  /** A person looks elsewhere: here, and on the stages beside it. */
  function lookAt(next: View) {
    fits = false;
    view = next;
    if (together !== undefined) together = shared(next, stage);
  }
  /** What is to be seen, and how; null while nothing is. */
  export function sees(): { view: View; stage: StageShape } | null {
    return view && isShown ? { view, stage } : null;
  }
  /** Another picture is about to be shown here: what it will first be shown with is fetched while the page is made ready. */
  export function comes(another: PictureShape, turned: Orientation, cropped?: Part) {
    if (!ready) return;
    const { zoom } = fitted({ picture: another, orientation: turned, screen, part: cropped });
    void thePainter().ahead(shapeOf(another), zoom * devicePixelRatio);
  }
  export function oneToOne() {
    if (view) zoomTo(1 / devicePixelRatio, { x: screen.width / 2, y: screen.height / 2 });
  }
  function zoomBy(factor: number) {
    if (view) zoomTo(view.zoom * factor, { x: screen.width / 2, y: screen.height / 2 });
  }
  function zoomTo(zoom: number, at: Point) {
    if (view) lookAt(zoomedAbout(view, at, zoom / view.zoom, screen));
  }

  const surface = (): Surface => ({ view: view!, stage, look });
  const sight = () => ({ picture, frame, view: view!, look, orientation, screen });

  /** Takes in what a machine says, and carries its deeds out. */
  function take(turn: Turn<unknown> | null): boolean {
    if (!turn) return false;
    if (instead) instead = { ...instead, state: turn.state };
    else if (main) main = { ...main, state: turn.state };
    for (const deed of turn.deeds) {
      if (deed.kind === 'view') lookAt(deed.view);
      else ondeed?.(deed);
    }
    return true;
  }
  const tell = (work: (machine: Machine) => Turn<unknown> | null): boolean =>
    active !== null && view !== null && take(work(active));
  const finish = () => tell(({ tool: of, state }) => of.finish?.(state, surface()) ?? null);
  const interrupt = () => tell(({ tool: of, state }) => of.interrupted(state, surface()));

  function takeUp(another: Tool<unknown>, by: 'pointer' | 'focus') {
    if (instead) interrupt();
    instead = { tool: another, state: another.enter(surface()), by };
  }
  function letGo(by: 'pointer' | 'focus') {
    if (instead?.by === by) instead = null;
  }
  function handleOf(target: EventTarget | null): Tool<unknown> | null {
    const element = (target as Element | null)?.closest<SVGElement>('[data-handle]');
    const drawing = element && drawings.find(({ id }) => id === element.dataset.handle);
    if (!drawing || !movable) return null;
    const handle = { id: drawing.id, index: Number(element.dataset.index), points: pointsOf(drawing) };
    return handleTool(handle) as Tool<unknown>;
  }

  const fingers = new Map<number, Point>();
  let pinching = false;

  function pointIn(event: PointerEvent | WheelEvent): Point {
    const bounds = box!.getBoundingClientRect();
    return { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
  }
  const pointer = (phase: PointerAct['phase'], at: Point) =>
    tell(({ tool: of, state }) => of.pointer(state, { phase, at }, surface()));

  /** Where an edge would be followed from, if one is wanted. */
  const edgeFrom = ({ shiftKey }: { shiftKey: boolean }): Point | null =>
    active?.tool.follows && (shiftKey || edgesOn) ? (shown.from ?? null) : null;
  /** Works out the edge to a point, and then places it with what lies between. */
  async function placeAlong(from: Point, to: Point, place: (along: Point[]) => void) {
    const [held, of] = [main?.tool, picture.pictureId];
    placingAlong = true;
    const along = await edge.exact(picture, frame, from, to);
    placingAlong = false;
    if (main?.tool === held && picture.pictureId === of && !instead) place(along);
  }

  function onPointerDown(event: PointerEvent) {
    if (!view || placingAlong) return;
    const at = pointIn(event);
    box!.setPointerCapture(event.pointerId);
    fingers.set(event.pointerId, at);
    if (fingers.size > 1) {
      if (!pinching) interrupt();
      letGo('pointer');
      pinching = true;
      return;
    }
    const handle = handleOf(event.target);
    if (handle) takeUp(handle, 'pointer');
    else if (event.button === 2 && movable) takeUp(windowTool as Tool<unknown>, 'pointer');
    else if (event.button > 0) takeUp(moveTool as Tool<unknown>, 'pointer');
    else if (instead) instead = null;
    pointer('down', at);
  }

  function onPointerMove(event: PointerEvent) {
    if (!view) return;
    const at = pointIn(event);
    if (pinching) {
      if (fingers.size === 2 && fingers.has(event.pointerId)) {
        lookAt(pinched(fingers, event.pointerId, at, surface()));
        fingers.set(event.pointerId, at);
      }
      return;
    }
    if (placingAlong) return;
    if (!instead || instead.by === 'pointer') pointer('move', at);
    const from = edgeFrom(event);
    if (from) edge.show(picture, frame, from, screenToImage(at, view, stage));
    else edge.forget();
  }

  function onPointerUp(event: PointerEvent) {
    if (!fingers.delete(event.pointerId)) return;
    if (pinching) {
      pinching = fingers.size > 0;
      return;
    }
    const at = pointIn(event);
    const from = instead ? null : edgeFrom(event);
    if (from && view && !placingAlong)
      void placeAlong(from, screenToImage(at, view, stage), (along) =>
        tell(({ tool: of, state }) => of.pointer(state, { phase: 'up', at, along }, surface()))
      );
    else pointer('up', at);
    letGo('pointer');
  }

  function onPointerCancel(event: PointerEvent) {
    fingers.delete(event.pointerId);
    pinching = pinching && fingers.size > 0;
    interrupt();
    letGo('pointer');
  }

  function onWheel(event: WheelEvent) {
    if (!view) return;
    event.preventDefault();
    zoomTo(view.zoom * wheelStep ** -event.deltaY, pointIn(event));
  }

  function stepFrame(key: string): boolean {
    if (picture.frames === 1 || instead || shown.draft.length > 0) return false;
    const to = { ArrowLeft: frame - 1, ArrowRight: frame + 1, Home: 0, End: picture.frames - 1 }[key];
    if (to === undefined) return false;
    frame = Math.max(0, Math.min(picture.frames - 1, to));
    return true;
  }

  function onKey(event: KeyboardEvent) {
    if (!view || event.ctrlKey || event.metaKey || event.altKey) return;
    const { key, shiftKey: shift } = event;
    const handle = instead ? null : handleOf(event.target);
    if (handle) takeUp(handle, 'focus');
    const from = key === 'Enter' && !instead ? edgeFrom(event) : null;
    const to = shown.draft.at(-1);
    if (from && to && !placingAlong && (from.x !== to.x || from.y !== to.y)) {
      event.preventDefault();
      void placeAlong(from, to, (along) =>
        tell(({ tool: of, state }) => of.complete(state, surface(), along))
      );
      return;
    }
    const done =
      stepFrame(key) ||
      tell(({ tool: of, state }) =>
        key === 'Escape'
          ? of.cancel(state, surface())
          : key === 'Enter'
            ? of.complete(state, surface())
            : of.key(state, { key, shift }, surface())
      ) ||
      zoomKey(key);
    if (done) event.preventDefault();
  }
  function zoomKey(key: string): boolean {
    if (key === '+' || key === '=') zoomBy(keyZoom);
    else if (key === '-') zoomBy(1 / keyZoom);
    else return false;
    return true;
  }
  function onKeyUp() {
    tell(({ tool: of, state }) => of.keyUp?.(state, surface()) ?? null);
    letGo('focus');
  }
  function onFocusOut() {
    if (instead?.by !== 'focus') return;
    interrupt();
    letGo('focus');
  }

  onMount(() => {
    const resize = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      screen = { width, height };
    });
    void viewport.attach(canvas!).then(() => resize.observe(box!));
    return () => {
      resize.disconnect();
      viewport.close();
    };
  });
  $effect(() => {
    const now = stage;
    if (now.screen.width < 1) return;
    const where = together;
    untrack(() => {
      if (where) {
        fits = false;
        view = fromShared(where, now);
      } else if (where === null || fits || !view) view = fitted(now);
    });
  });
  $effect(() => {
    const another = tool;
    if (!view) return;
    untrack(() => {
      if (main?.tool === another) return;
      interrupt();
      main = { tool: another, state: another.enter(surface()) };
    });
  });
  const ready = $derived(screen.width > 0);
  const { id, at } = $derived({ id: picture.pictureId, at: frame });
  let former = '';
  $effect(() => {
    if (!ready) return;
    const [pictureId, wanted] = [id, at];
    untrack(() => {
      if (former !== pictureId) {
        former = pictureId;
        interrupt();
        instead = null;
        fits = !together;
        view = together ? fromShared(together, stage) : fitted(stage);
      }
      void viewport.open(picture, wanted, fitted(stage).zoom, () => {
        void viewport.draw(sight());
        onarrived?.();
      });
    });
  });
  $effect(() => {
    void [view, look, orientation, screen, id];
    if (!view) return;
    untrack(() => viewport.drawSoon(sight));
  });
</script>

<div class="bg-stage flex h-full w-full flex-col overflow-hidden">
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <div
    bind:this={box}
    role="application"
    aria-label={label}
    tabindex="0"
    class="bg-stage relative min-h-0 flex-1 touch-none overflow-hidden select-none"
    style="cursor: {active?.tool.cursor ?? 'default'}"
    onpointerdown={onPointerDown}
    onpointermove={onPointerMove}
    onpointerup={onPointerUp}
    onpointercancel={onPointerCancel}
    onwheel={onWheel}
    onkeydown={onKey}
    onkeyup={onKeyUp}
    onfocusout={onFocusOut}
    oncontextmenu={(event) => event.preventDefault()}
    data-testid="stage"
    data-picture={isShown ? picture.pictureId : ''}
    data-frame={isShown ? viewport.shown!.frame : ''}
    data-sharp={viewport.sharp}
    data-zoom={view ? Math.round(view.zoom * devicePixelRatio * 100) : ''}
  >
    <canvas bind:this={canvas} class="absolute inset-0 h-full w-full" aria-hidden="true"></canvas>
    {#if !isShown && !viewport.message}
      {#key preview}
        <img src={preview} alt="" class="absolute inset-0 h-full w-full object-contain" draggable="false" />
      {/key}
    {/if}
    {#if partSeen && isShown}
      <!-- What was cropped away lies under this. -->
      <div
        class="pointer-events-none absolute shadow-[0_0_0_9999px_var(--stage)]"
        style="left: {partSeen.x}px; top: {partSeen.y}px; width: {partSeen.width}px; height: {partSeen.height}px"
        aria-hidden="true"
      ></div>
    {/if}
    {#if view && isShown}
      {@render laid?.(view, stage)}
      <Drawings
        {drawings}
        draft={shown.draft}
        marks={shown.marks}
        ahead={edge.points}
        {view}
        {stage}
        {aspect}
        {highlighted}
        {movable}
        grip={over || shown.begun ? 0 : placing ? gripWhilePlacing : grip}
        {onhighlight}
      />
      {#if shown.magnified}
        <Magnifier
          point={shown.magnified}
          at={toScreen(shown.magnified, view, stage)}
          {screen}
          magnify={(point, zoom, size) => viewport.magnify(point, sight(), zoom, size)}
          zoom={Math.max(leastMagnified, view.zoom * magnifierZoom)}
        />
      {/if}
      {#if shown.message}
        <div
          class="text-small absolute {named
            ? 'top-12'
            : 'top-2'} left-1/2 flex -translate-x-1/2 items-center gap-2 font-semibold whitespace-nowrap"
        >
          <p
            class="bg-stage/80 text-on-stage pointer-events-none rounded-full px-3 py-1"
            role="status"
            data-testid="tool-says"
          >
            {edge.message || shown.message}
          </p>
          {#if active?.tool.follows && shown.from}
            <button
              class="button px-3 {edgesOn ? 'border-coral! bg-coral-wash!' : ''}"
              aria-pressed={edgesOn}
              title="Follow the edge to the next point; or hold Shift"
              onpointerdown={(event) => event.stopPropagation()}
              onclick={() => (edgesOn = !edgesOn)}
              data-testid="follow-edge">Along the edge</button
            >
          {/if}
          {#if shown.finishes}
            <button
              class="button main px-4"
              onpointerdown={(event) => event.stopPropagation()}
              onclick={finish}
              data-testid="tool-done">Done</button
            >
          {/if}
        </div>
      {/if}
    {/if}
    {#if viewport.message}
      <p class="text-lead text-on-stage absolute inset-x-0 top-1/2 px-6 text-center">{viewport.message}</p>
    {/if}
    {#if corner && !bare}
      <p
        class="text-small text-on-stage/80 pointer-events-none absolute bottom-2 left-3"
        data-testid="look-words"
      >
        {corner}
      </p>
    {/if}
    {#if view && !bare}
      <div
        class="text-small text-on-stage/80 pointer-events-none absolute right-3 flex items-end gap-4 {corner &&
        screen.width < narrowPx
          ? 'bottom-8'
          : 'bottom-2'}"
      >
        {#if bar && isShown}
          <span
            class="flex flex-col items-center"
            role="img"
            aria-label="Scale bar: {bar.words}"
            data-testid="scale-bar"
          >
            <span aria-hidden="true">{bar.words}</span>
            <span
              class="border-on-stage/80 block h-1.5 border-x border-b"
              style="width: {bar.lengthPx * view.zoom}px"
            ></span>
          </span>
        {/if}
        <span aria-hidden="true">{Math.round(view.zoom * devicePixelRatio * 100)} %</span>
      </div>
    {/if}
  </div>
  {#if picture.frames > 1}
    <div class="border-stage-edge text-on-stage text-small flex shrink-0 items-center gap-3 border-t px-3">
      <span class="w-28 shrink-0 font-semibold" data-testid="frame-words"
        >Frame {frame + 1} of {picture.frames}</span
      >
      <Slider label="Frame" bind:value={frame} least={0} most={picture.frames - 1} />
      {#if picture.frameMs}<span class="w-14 shrink-0 text-right"
          >{numberWords((frame * picture.frameMs) / 1000, 2)} s</span
        >{/if}
    </div>
  {/if}
</div>
