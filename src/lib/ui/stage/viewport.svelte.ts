import { proxy, transfer } from 'comlink';
import type { PictureShape } from '$core/picture/pictureView';
import type { Look } from '$core/raster/look/look';
import { type Orientation, type Point, type Size, toOriented } from '$core/raster/orientation';
import type { View } from '$core/raster/view';
import type { Scene } from '../../workers/painter';
import { thePainter } from './painting';

/** What is to be seen, in screen pixels. */
export interface Sight {
  picture: PictureShape;
  frame: number;
  view: View;
  look: Look;
  orientation: Orientation;
  screen: Size;
}

/** What the painter needs to know of a picture, and nothing else of it. */
export const shapeOf = ({
  pictureId,
  width,
  height,
  channels,
  bitsStored,
  offset,
  frames,
  pixelAspect
}: PictureShape): PictureShape => ({
  pictureId,
  width,
  height,
  channels,
  bitsStored,
  offset,
  frames,
  pixelAspect
});

/** A first, rough answer is made sharp once nothing has changed for so long. */
const sharpenAfterMs = 40;

/** One window onto a picture: a canvas that the painter draws on, one drawing at a time. */
export class Viewport {
  private readonly id = crypto.randomUUID();
  /** The frame that has come and is shown, of which picture. */
  shown = $state.raw<{ pictureId: string; frame: number } | null>(null);
  /** Why there is nothing to see. */
  message = $state('');
  /** Whether what is drawn is as sharp as it will be. */
  sharp = $state(false);
  private sharpening: ReturnType<typeof setTimeout> | undefined;
  private wanted = '';
  private asked = false;
  private busy = false;
  private due: Sight | null = null;

  attach(canvas: HTMLCanvasElement): Promise<void> {
    const offscreen = canvas.transferControlToOffscreen();
    return thePainter().attach(this.id, transfer(offscreen, [offscreen]));
  }

  close(): void {
    clearTimeout(this.sharpening);
    void thePainter().detach(this.id);
  }

  /** Fetches what is to be seen. What another picture left is cleared at once, so that no name stands over it. */
  async open(
    picture: PictureShape,
    frame: number,
    zoom: number,
    draw: () => void,
    full = true
  ): Promise<void> {
    const { pictureId } = picture;
    const wanted = (this.wanted = `${pictureId} ${frame}`);
    if (this.shown?.pictureId !== pictureId) this.shown = null;
    this.message = '';
    const arrived = proxy(() => {
      if (this.wanted !== wanted) return;
      if (this.shown?.pictureId !== pictureId || this.shown.frame !== frame)
        this.shown = { pictureId, frame };
      draw();
    });
    try {
      await thePainter().open(this.id, shapeOf(picture), frame, zoom * devicePixelRatio, arrived, full);
    } catch (error) {
      if (this.wanted === wanted) this.message = (error as Error).message;
    }
  }

  private sceneOf({ picture, frame, view, look, orientation, screen }: Sight): Scene {
    const ratio = devicePixelRatio;
    const { pictureId } = picture;
    return {
      picture: shapeOf(picture),
      frame: this.shown?.pictureId === pictureId ? this.shown.frame : frame,
      view: { center: { ...view.center }, zoom: view.zoom * ratio },
      look: $state.snapshot(look) as Look,
      orientation: $state.snapshot(orientation),
      screen: { width: Math.round(screen.width * ratio), height: Math.round(screen.height * ratio) }
    };
  }

  /** Draws with the screen's next frame, whatever is to be seen then; asked again before that, it is drawn once. */
  drawSoon(sight: () => Sight): void {
    this.sharp = false;
    if (this.asked) return;
    this.asked = true;
    requestAnimationFrame(() => {
      this.asked = false;
      void this.draw(sight());
    });
  }

  /** One drawing at a time: what comes while one is made is made once, afterwards. */
  async draw(sight: Sight, sharp = false): Promise<void> {
    if (this.busy) {
      if (!sharp) this.due = sight;
      return;
    }
    this.busy = true;
    clearTimeout(this.sharpening);
    const start = performance.now();
    const { tookMs, drawn } = await thePainter().draw(this.id, this.sceneOf(sight), sharp);
    this.busy = false;
    if (tookMs >= 0) performance.measure('stage-frame', { start, end: performance.now(), detail: tookMs });
    const { due } = this;
    this.due = null;
    this.sharp = drawn === 'sharply' && !due;
    if (due) requestAnimationFrame(() => void this.draw(due));
    else if (drawn === 'roughly')
      this.sharpening = setTimeout(() => void this.draw(sight, true), sharpenAfterMs);
  }

  /** The surroundings of an image point, enlarged. */
  magnify(point: Point, sight: Sight, zoom: number, size: number): Promise<ImageData | null> {
    const center = toOriented(point, sight.picture, sight.orientation);
    return thePainter().magnify(this.id, center, this.sceneOf(sight), zoom, size);
  }
}
