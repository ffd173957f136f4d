<script lang="ts">
  import { type Remote, proxy, transfer, wrap } from 'comlink';
  import { onMount, untrack } from 'svelte';
  import type { Look } from '$core/raster/look';
  import { type Orientation, type Point, toOriented } from '$core/raster/orientation';
  import { type View, fitted, panned, screenToImage, toScreen, zoomedAbout } from '$core/raster/view';
  import { placementUncertaintyPx } from '$core/calibration/scale';
  import PainterWorker from '../../workers/painter.worker?worker';
  import type { Painter, PictureShape } from '../../workers/painter';
  import Drawings from './Drawings.svelte';
  import Magnifier from './Magnifier.svelte';
  import type { Mark } from './marks';

  export type Tool = 'window' | 'pan' | 'line';

  interface Props {
    picture: PictureShape & { look: Look; orientation: Orientation };
    tool?: Tool;
    marks?: Mark[];
    lit?: string | null;
    label: string;
    /** While a look is being dragged, and when the drag ends. */
    onlook?: (look: Look, done: boolean) => void;
    /** A line was drawn with the line tool. */
    online?: (ends: Mark['ends']) => void;
    /** A mark's ends were moved. */
    onmove?: (mark: Mark, done: boolean) => void;
    onlight?: (id: string | null) => void;
  }
  let {
    picture,
    tool = 'window',
    marks = [],
    lit = null,
    label,
    onlook,
    online,
    onmove,
    onlight
  }: Props = $props();

  const wheelStep = 1.0015;
  /** Window width changes by a share a pixel, so that narrow and wide windows feel alike. */
  const widthPerPixel = 0.005;
  const keyPanPx = 60;
  const keyZoom = 1.25;

  let box = $state<HTMLDivElement>();
  let canvas = $state<HTMLCanvasElement>();
  let screen = $state({ width: 0, height: 0 });
  let view = $state<View | null>(null);
  let fits = true;
  let says = $state('');
  let loading = $state(true);
  let draft = $state<Mark['ends'] | null>(null);
  let magnified = $state<Point | null>(null);
  let painter: Remote<Painter> | null = null;
  let opened = $state('');
  let asked = '';
  let busy = false;
  let due = false;

  const stageOf = $derived({
    picture: { width: picture.width, height: picture.height },
    orientation: picture.orientation,
    screen
  });

  export function fit() {
    fits = true;
    view = fitted(stageOf);
  }
  export function oneToOne() {
    if (view) zoomTo(1 / devicePixelRatio, { x: screen.width / 2, y: screen.height / 2 });
  }
  export function zoomBy(factor: number) {
    if (view) zoomTo(view.zoom * factor, { x: screen.width / 2, y: screen.height / 2 });
  }

  function zoomTo(zoom: number, at: Point) {
    if (!view) return;
    fits = false;
    view = zoomedAbout(view, at, zoom / view.zoom, screen);
  }

  function frame() {
    const ratio = devicePixelRatio;
    return {
      view: { center: { ...view!.center }, zoom: view!.zoom * ratio },
      look: $state.snapshot(picture.look),
      orientation: $state.snapshot(picture.orientation),
      screen: { width: Math.round(screen.width * ratio), height: Math.round(screen.height * ratio) }
    };
  }

  /** One frame at a time: what comes while one is drawn is drawn once, afterwards. */
  async function draw() {
    if (!painter || !view) return;
    if (busy) {
      due = true;
      return;
    }
    busy = true;
    const start = performance.now();
    const took = await painter.draw(frame());
    busy = false;
    if (took >= 0) performance.measure('stage-frame', { start, end: performance.now(), detail: took });
    if (due) {
      due = false;
      requestAnimationFrame(() => void draw());
    }
  }

  async function openPicture(shape: PictureShape) {
    if (!painter) return;
    loading = true;
    says = '';
    try {
      await painter.open(
        { ...shape },
        { ...screen },
        proxy(() => {
          opened = shape.pictureId;
          loading = false;
          void draw();
        })
      );
    } catch (error) {
      says = (error as Error).message;
      loading = false;
    }
  }

  onMount(() => {
    const worker = new PainterWorker();
    painter = wrap<Painter>(worker);
    const offscreen = canvas!.transferControlToOffscreen();
    const resize = new ResizeObserver(([entry]) => {
      screen = { width: entry.contentRect.width, height: entry.contentRect.height };
    });
    let first = true;
    void painter.attach(transfer(offscreen, [offscreen])).then(() => resize.observe(box!));
    const stop = $effect.root(() => {
      $effect(() => {
        if (screen.width < 1) return;
        const { pictureId } = picture;
        untrack(() => {
          if (first || pictureId !== asked) {
            asked = pictureId;
            first = false;
            fits = true;
            draft = null;
            const { width, height, channels, bitsStored, offset } = picture;
            void openPicture({ pictureId, width, height, channels, bitsStored, offset });
          }
        });
      });
      $effect(() => {
        const stage = stageOf;
        if (stage.screen.width < 1) return;
        untrack(() => {
          if (fits || !view) view = fitted(stage);
        });
      });
      $effect(() => {
        void [
          view,
          picture.look.window.center,
          picture.look.window.width,
          picture.look.inverted,
          picture.orientation,
          screen
        ];
        requestAnimationFrame(() => void draw());
      });
    });
    return () => {
      stop();
      resize.disconnect();
      worker.terminate();
    };
  });
  function pointIn(event: PointerEvent | WheelEvent): Point {
    const bounds = box!.getBoundingClientRect();
    return { x: event.clientX - bounds.left, y: event.clientY - bounds.top };
  }

  function placed(screenPoint: Point) {
    const at = screenToImage(screenPoint, view!, stageOf);
    return { x: at.x, y: at.y, uncertaintyPx: placementUncertaintyPx(view!.zoom) };
  }

  type Drag =
    | { kind: 'pan' }
    | { kind: 'window'; look: Look; from: Point }
    | { kind: 'line'; from: Point }
    | { kind: 'end'; mark: Mark; end: 0 | 1; moved: boolean };
  let drag: Drag | null = null;
  let last: Point = { x: 0, y: 0 };
  const fingers = new Map<number, Point>();

  function onPointerDown(event: PointerEvent) {
    if (!view) return;
    const at = pointIn(event);
    box!.setPointerCapture(event.pointerId);
    fingers.set(event.pointerId, at);
    last = at;
    if (fingers.size === 2) {
      drag = { kind: 'pan' };
      draft = null;
      return;
    }
    const handle = (event.target as Element).closest<SVGElement>('[data-end]');
    const mark = handle && marks.find((each) => each.id === handle.dataset.mark);
    if (mark && onmove) drag = { kind: 'end', mark, end: Number(handle.dataset.end) as 0 | 1, moved: false };
    else if (event.button === 1 || event.button === 2 || tool === 'pan') drag = { kind: 'pan' };
    else if (tool === 'line') {
      drag = { kind: 'line', from: at };
      if (!draft) draft = [placed(at), placed(at)];
    } else drag = { kind: 'window', look: $state.snapshot(picture.look), from: at };
  }

  function onPointerMove(event: PointerEvent) {
    if (!view) return;
    const at = pointIn(event);
    if (fingers.size === 2 && fingers.has(event.pointerId)) {
      pinch(event.pointerId, at);
      return;
    }
    if (draft && !drag) draft = [draft[0], placed(at)];
    if (!drag) return;
    if (drag.kind === 'pan') {
      fits = false;
      view = panned(view, at.x - last.x, at.y - last.y);
    } else if (drag.kind === 'window')
      onlook?.(draggedLook(drag.look, at.x - drag.from.x, at.y - drag.from.y), false);
    else if (drag.kind === 'line' && draft) {
      draft = [draft[0], placed(at)];
      magnified = draft[1];
    } else if (drag.kind === 'end') {
      drag.moved = true;
      moveEnd(drag.mark, drag.end, placed(at), false);
    }
    last = at;
  }

  function pinch(id: number, at: Point) {
    const [other] = [...fingers].filter(([finger]) => finger !== id).map(([, point]) => point);
    const before = fingers.get(id)!;
    const spread = Math.hypot(before.x - other.x, before.y - other.y);
    const now = Math.hypot(at.x - other.x, at.y - other.y);
    fits = false;
    const middle = { x: (at.x + other.x) / 2, y: (at.y + other.y) / 2 };
    view = panned(view!, (at.x - before.x) / 2, (at.y - before.y) / 2);
    if (spread > 0) view = zoomedAbout(view, middle, now / spread, screen);
    fingers.set(id, at);
  }

  function draggedLook(from: Look, dx: number, dy: number): Look {
    const width = Math.max(1, from.window.width * Math.exp(dx * widthPerPixel));
    const center = from.window.center + dy * from.window.width * widthPerPixel * 0.6;
    return { ...from, window: { center, width } };
  }

  function moveEnd(mark: Mark, end: 0 | 1, to: Mark['ends'][0], done: boolean) {
    const ends: Mark['ends'] = end === 0 ? [to, mark.ends[1]] : [mark.ends[0], to];
    magnified = done ? null : to;
    const moved = { ...mark, ends };
    if (drag?.kind === 'end') drag.mark = moved;
    onmove?.(moved, done);
  }

  /** A line is drawn by dragging, or by one press at each end. */
  const leastLinePx = 6;

  function onPointerUp(event: PointerEvent) {
    fingers.delete(event.pointerId);
    const at = pointIn(event);
    if (drag?.kind === 'window') {
      const moved = Math.hypot(at.x - drag.from.x, at.y - drag.from.y) > 0;
      if (moved) onlook?.(draggedLook(drag.look, at.x - drag.from.x, at.y - drag.from.y), true);
    }
    if (drag?.kind === 'end' && drag.moved) onmove?.(drag.mark, true);
    if (drag?.kind === 'line' && draft && view) {
      const start = toScreen(draft[0], view, stageOf);
      if (Math.hypot(at.x - start.x, at.y - start.y) >= leastLinePx) {
        online?.([draft[0], placed(at)]);
        draft = null;
      }
    }
    magnified = null;
    drag = null;
  }

  function onWheel(event: WheelEvent) {
    if (!view) return;
    event.preventDefault();
    zoomTo(view.zoom * wheelStep ** -event.deltaY, pointIn(event));
  }

  function onKey(event: KeyboardEvent) {
    if (!view || event.ctrlKey || event.metaKey) return;
    const handle = (event.target as Element).closest<SVGElement>('[data-end]');
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (step && handle && onmove) {
      const mark = marks.find((each) => each.id === handle.dataset.mark);
      if (!mark) return;
      const end = Number(handle.dataset.end) as 0 | 1;
      const by = (event.shiftKey ? 10 : 1) * view.zoom;
      const from = toScreen(mark.ends[end], view, stageOf);
      moveEnd(mark, end, placed({ x: from.x + step[0] * by, y: from.y + step[1] * by }), true);
    } else if (step) {
      fits = false;
      view = panned(view, -step[0] * keyPanPx, -step[1] * keyPanPx);
    } else if (event.key === '+' || event.key === '=') zoomBy(keyZoom);
    else if (event.key === '-') zoomBy(1 / keyZoom);
    else if (event.key === 'Escape' && draft) draft = null;
    else return;
    event.preventDefault();
  }

  const shownMarks = $derived(
    draft ? [...marks, { id: 'draft', kind: 'length' as const, ends: draft, words: '' }] : marks
  );
  const magnify = async (point: Point, zoom: number, size: number) =>
    painter && view
      ? painter.magnify(toOriented(point, stageOf.picture, picture.orientation), frame(), zoom, size)
      : null;
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<div
  bind:this={box}
  role="application"
  aria-label={label}
  tabindex="0"
  class="bg-stage relative h-full w-full touch-none overflow-hidden select-none {tool === 'line'
    ? 'cursor-crosshair'
    : tool === 'pan'
      ? 'cursor-grab'
      : 'cursor-default'}"
  onpointerdown={onPointerDown}
  onpointermove={onPointerMove}
  onpointerup={onPointerUp}
  onpointercancel={onPointerUp}
  onwheel={onWheel}
  onkeydown={onKey}
  oncontextmenu={(event) => event.preventDefault()}
  data-testid="stage"
  data-picture={opened}
>
  <canvas bind:this={canvas} class="absolute inset-0 h-full w-full" aria-hidden="true"></canvas>
  {#if view && opened === picture.pictureId}
    <Drawings marks={shownMarks} {view} stage={stageOf} {lit} movable={onmove !== undefined} {onlight} />
  {/if}
  {#if magnified && view}
    <Magnifier
      point={magnified}
      at={toScreen(magnified, view, stageOf)}
      {screen}
      {magnify}
      zoom={Math.max(2, view.zoom * 3)}
    />
  {/if}
  {#if says}
    <p class="text-lead text-on-stage absolute inset-x-0 top-1/2 text-center">{says}</p>
  {:else if loading}
    <p class="text-on-stage absolute inset-x-0 top-1/2 text-center">Loading the picture</p>
  {/if}
  {#if view}
    <span class="text-small text-on-stage/80 absolute right-3 bottom-2" aria-hidden="true"
      >{Math.round(view.zoom * devicePixelRatio * 100)} %</span
    >
  {/if}
</div>
