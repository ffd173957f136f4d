<script lang="ts">
  import type { PictureView } from '$core/picture/pictureView';
  import { lookOf, orientationOf, pictureName } from '$core/picture/pictureView';
  import { type Veil, maskedOf } from '$core/picture/layers/veils/veils';
  import type { Area } from '$core/raster/area';
  import { type Stage as StageShape, type View, screenToImage, toScreen } from '$core/raster/view';
  import { previewUrl } from '../pictures/previewUrl';
  import Stage from '../stage/Stage.svelte';
  import { boxTool } from '../stage/tools/box';
  import { moveTool } from '../stage/tools/move';
  import { type Deed, type Tool, arrowWay } from '../stage/tools/tool';
  import type { VeilDesk } from './veilDesk.svelte';

  interface Props {
    picture: PictureView;
    desk: VeilDesk;
    /** What a rectangle that is drawn becomes; null while the picture is only looked at. */
    drawing: 'veil' | 'only' | null;
    /** The veil that is picked. */
    picked: number | null;
    frame: number;
    ondrawn: (area: Area) => void;
    onpick: (index: number | null) => void;
  }
  let { picture, desk, drawing, picked, frame = $bindable(), ondrawn, onpick }: Props = $props();

  const veilTool = boxTool(['One corner of the veil', 'The opposite corner']) as Tool<unknown>;
  const onlyTool = boxTool(['One corner of what is kept', 'The opposite corner']) as Tool<unknown>;
  const tool = $derived(
    drawing === 'veil' ? veilTool : drawing === 'only' ? onlyTool : (moveTool as Tool<unknown>)
  );

  function onDeed(deed: Exclude<Deed, { kind: 'view' }>) {
    if (deed.kind !== 'placed') return;
    const [a, b] = deed.points;
    ondrawn({
      left: Math.floor(Math.min(a.x, b.x)),
      top: Math.floor(Math.min(a.y, b.y)),
      width: Math.ceil(Math.abs(a.x - b.x)),
      height: Math.ceil(Math.abs(a.y - b.y))
    });
  }
  function onScreen({ left, top, width, height }: Area, view: View, stage: StageShape) {
    const [a, b] = [
      { x: left, y: top },
      { x: left + width, y: top + height }
    ].map((point) => toScreen(point, view, stage));
    return {
      x: Math.min(a.x, b.x),
      y: Math.min(a.y, b.y),
      width: Math.abs(a.x - b.x),
      height: Math.abs(a.y - b.y)
    };
  }
  /** A veil that is being dragged, before it is kept. */
  let moving = $state.raw<{
    index: number;
    veil: Veil;
    grip: 'all' | 'corner';
    from: { x: number; y: number };
  } | null>(null);
  const shownVeils = $derived(desk.veils.veils.map((veil, i) => (moving?.index === i ? moving.veil : veil)));
  const masked = $derived(maskedOf({ ...desk.veils, veils: shownVeils }, frame, picture));

  function imagePoint(event: PointerEvent, view: View, stage: StageShape) {
    const box = (event.currentTarget as Element).closest('[data-testid=stage]')!.getBoundingClientRect();
    return screenToImage({ x: event.clientX - box.left, y: event.clientY - box.top }, view, stage);
  }
  function take(event: PointerEvent, index: number, grip: 'all' | 'corner', view: View, stage: StageShape) {
    event.stopPropagation();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    onpick(index);
    moving = { index, grip, veil: desk.veils.veils[index], from: imagePoint(event, view, stage) };
  }
  function drag(event: PointerEvent, view: View, stage: StageShape) {
    if (!moving) return;
    event.stopPropagation();
    const at = imagePoint(event, view, stage);
    const [dx, dy] = [at.x - moving.from.x, at.y - moving.from.y];
    moving = { ...moving, veil: changed(desk.veils.veils[moving.index], moving.grip, dx, dy) };
  }
  const changed = (veil: Veil, grip: 'all' | 'corner', dx: number, dy: number): Veil =>
    grip === 'all'
      ? { ...veil, left: Math.max(0, veil.left + dx), top: Math.max(0, veil.top + dy) }
      : { ...veil, width: Math.max(4, veil.width + dx), height: Math.max(4, veil.height + dy) };
  async function letGo(event: PointerEvent) {
    if (!moving) return;
    event.stopPropagation();
    const { index, veil } = moving;
    const was = desk.veils.veils[index];
    if (
      veil !== was &&
      (veil.left !== was.left ||
        veil.top !== was.top ||
        veil.width !== was.width ||
        veil.height !== was.height)
    )
      await desk.replace(index, veil);
    moving = null;
  }
  /** Arrows move a veil, with Shift they change its size; Delete takes it off. */
  function onKey(event: KeyboardEvent, index: number) {
    const way = arrowWay(event.key);
    if (way) {
      event.preventDefault();
      event.stopPropagation();
      const veil = desk.veils.veils[index];
      const step = Math.max(1, Math.round(0.02 * picture.width));
      void desk.replace(index, changed(veil, event.shiftKey ? 'corner' : 'all', way.x * step, way.y * step));
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      event.stopPropagation();
      void desk.drop(index);
      onpick(null);
    }
  }
  const here = (frames?: number[]) => frames === undefined || frames.includes(frame);
</script>

<Stage
  {picture}
  look={lookOf(picture)}
  orientation={orientationOf(picture)}
  preview={previewUrl(picture)}
  label="{pictureName(picture)} as it will arrive"
  {tool}
  bind:frame
  placing={drawing !== null}
  ondeed={onDeed}
>
  {#snippet laid(view, stage)}
    <svg class="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      {#each masked as area, i (i)}
        {@const at = onScreen(area, view, stage)}
        <rect {...at} fill="#000" data-testid="masked" />
      {/each}
      {#each shownVeils as veil, i (i)}
        {#if here(veil.frames)}
          {@const at = onScreen(veil, view, stage)}
          <rect
            {...at}
            fill="none"
            class={picked === i ? 'stroke-coral' : 'stroke-ice'}
            stroke-width={picked === i ? 3 : 1.5}
          />
        {/if}
      {/each}
      {#if desk.veils.only}
        {@const at = onScreen(desk.veils.only, view, stage)}
        <rect {...at} fill="none" class="stroke-ice" stroke-width="1.5" stroke-dasharray="10 4" />
      {/if}
      {#each desk.open as box, i (i)}
        {#if here(box.frames)}
          {@const at = onScreen(box, view, stage)}
          <rect
            {...at}
            fill="none"
            class="stroke-[#e4b754]"
            stroke-width="2.5"
            stroke-dasharray="5 4"
            data-testid="proposed-veil"
          />
        {/if}
      {/each}
    </svg>
    {#if drawing === null}
      {#each shownVeils as veil, i (i)}
        {#if here(veil.frames)}
          {@const at = onScreen(veil, view, stage)}
          <button
            class="absolute cursor-move"
            style="left:{at.x}px;top:{at.y}px;width:{at.width}px;height:{at.height}px"
            aria-label="Veil {i + 1}: arrows move it, with Shift they change its size, Delete takes it off"
            aria-pressed={picked === i}
            onpointerdown={(event) => take(event, i, 'all', view, stage)}
            onpointermove={(event) => drag(event, view, stage)}
            onpointerup={letGo}
            onkeydown={(event) => onKey(event, i)}
            onfocus={() => onpick(i)}
            data-testid="veil"
          ></button>
          {#if picked === i}
            <span
              class="bg-coral absolute size-6 -translate-1/2 cursor-nwse-resize rounded-full border-2 border-black"
              style="left:{at.x + at.width}px;top:{at.y + at.height}px"
              role="presentation"
              onpointerdown={(event) => take(event, i, 'corner', view, stage)}
              onpointermove={(event) => drag(event, view, stage)}
              onpointerup={letGo}
            ></span>
          {/if}
        {/if}
      {/each}
    {/if}
  {/snippet}
</Stage>
