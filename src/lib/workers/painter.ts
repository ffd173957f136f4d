import { type Look, greyTable, pixelTable } from '../core/raster/look';
import type { Orientation, Point, Size } from '../core/raster/orientation';
import { levelCount, levelForZoom } from '../core/raster/pyramid';
import { type Raster, samplesFrom } from '../core/raster/raster';
import { render } from '../core/raster/render';
import { type View, fitted } from '../core/raster/view';

export interface PictureShape {
  pictureId: string;
  width: number;
  height: number;
  channels: 1 | 3;
  bitsStored: number;
  offset: number;
}

export interface Frame {
  view: View;
  look: Look;
  orientation: Orientation;
  /** In device pixels. */
  screen: Size;
}

/** The stage's near-black, as canvases hold it. */
const background = 0xff0e0f0b;

/**
 * Turns samples into screen pixels. Holds the levels of one picture, fetches those it lacks, and draws with the best
 * it has for the zoom.
 */
export class Painter {
  private canvas: OffscreenCanvas | null = null;
  private context: OffscreenCanvasRenderingContext2D | null = null;
  private pixels: ImageData | null = null;
  private shape: PictureShape | null = null;
  private levels = new Map<number, Raster>();
  private table: { key: string; greys: Uint32Array } | null = null;

  attach(canvas: OffscreenCanvas): void {
    this.canvas = canvas;
    this.context = canvas.getContext('2d', { alpha: false });
  }

  /**
   * Loads a picture, coarse level first. `arrived` is told each time there is more to draw with.
   * Rejects with the reason when it can't be fetched.
   */
  async open(shape: PictureShape, screen: Size, arrived: () => void): Promise<void> {
    this.shape = shape;
    this.levels = new Map();
    const count = levelCount(shape.width, shape.height);
    const fit = fitted({ picture: shape, orientation: { quarterTurns: 0, mirrored: false }, screen });
    const first = levelForZoom(fit.zoom, count);
    for (const level of first === 0 ? [0] : [first, 0]) {
      const raster = await this.fetchLevel(shape, level);
      if (this.shape?.pictureId !== shape.pictureId) return;
      this.levels.set(level, raster);
      arrived();
    }
  }

  private async fetchLevel(shape: PictureShape, level: number): Promise<Raster> {
    const answer = await fetch(`/api/pictures/${shape.pictureId}/levels/${level}`);
    if (!answer.ok) {
      const said = (await answer.json().catch(() => ({}))) as { sentence?: string };
      throw new Error(said.sentence ?? 'The picture could not be fetched.');
    }
    const bytes = new Uint8Array(await answer.arrayBuffer());
    const halve = (side: number) => {
      let size = side;
      for (let i = 0; i < level; i++) size = Math.ceil(size / 2);
      return size;
    };
    return {
      ...shape,
      width: halve(shape.width),
      height: halve(shape.height),
      data: samplesFrom(bytes, shape.bitsStored)
    };
  }

  private tableFor(look: Look): Uint32Array {
    const { bitsStored, offset } = this.shape!;
    const key = `${look.window.center} ${look.window.width} ${look.inverted} ${bitsStored} ${offset}`;
    if (this.table?.key !== key) this.table = { key, greys: pixelTable(greyTable(look, bitsStored, offset)) };
    return this.table.greys;
  }

  /** Milliseconds the frame took, or -1 when there is nothing to draw yet. */
  draw({ view, look, orientation, screen }: Frame): number {
    const { canvas, context } = this;
    if (!canvas || !context || screen.width < 1 || screen.height < 1) return -1;
    const started = performance.now();
    if (canvas.width !== screen.width || canvas.height !== screen.height || !this.pixels) {
      canvas.width = screen.width;
      canvas.height = screen.height;
      this.pixels = context.createImageData(screen.width, screen.height);
    }
    const out = new Uint32Array(this.pixels.data.buffer);
    if (!this.paint(out, { view, look, orientation, screen })) out.fill(background);
    context.putImageData(this.pixels, 0, 0);
    return this.levels.size > 0 ? performance.now() - started : -1;
  }

  private paint(out: Uint32Array, { view, look, orientation, screen }: Frame): boolean {
    const level = this.bestLevel(view.zoom);
    if (level === null) return false;
    render({
      level: { raster: this.levels.get(level)!, factor: 2 ** level },
      picture: this.shape!,
      orientation,
      view,
      screen,
      table: this.tableFor(look),
      out,
      background
    });
    return true;
  }

  private bestLevel(zoom: number): number | null {
    if (!this.shape || this.levels.size === 0) return null;
    const wanted = levelForZoom(zoom, levelCount(this.shape.width, this.shape.height));
    const held = [...this.levels.keys()].sort((a, b) => b - a);
    return held.find((level) => level <= wanted) ?? held.at(-1)!;
  }

  /** The surroundings of an oriented point, enlarged: what the magnifier shows. */
  magnify(center: Point, frame: Frame, zoom: number, sizePx: number): ImageData | null {
    const screen = { width: sizePx, height: sizePx };
    const image = new ImageData(sizePx, sizePx);
    const out = new Uint32Array(image.data.buffer);
    return this.paint(out, { ...frame, view: { center, zoom }, screen }) ? image : null;
  }
}
