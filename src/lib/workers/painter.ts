import type { PictureShape } from '../core/picture/pictureView';
import { type Look, withRange } from '../core/raster/look/look';
import { atLevel } from '../core/raster/look/levels';
import { greyTable, isPointwise, pixelTable, pointwiseOf } from '../core/raster/look/table';
import type { Orientation, Point, Size } from '../core/raster/orientation';
import { halved, levelCount, levelForZoom } from '../core/raster/pyramid';
import { distance } from '../core/measurement/geometry';
import { differenceOver, differencePixels } from '../core/raster/geometry/difference';
import { profile } from '../core/raster/geometry/sampling';
import { brightness } from '../core/raster/brightness';
import { type Window, grown } from '../core/raster/patch';
import type { Raster } from '../core/raster/raster';
import { type RegionStatistics, binned, regionStatistics } from '../core/raster/region';
import { type Level, render } from '../core/raster/render';
import { type View, visibleWindow } from '../core/raster/view';
import { fetchedLevel } from './fetchedLevel';
import { LookedView } from './lookedView';

/** One frame of a picture as one viewport shows it. */
export interface Scene {
  picture: PictureShape;
  /** Counts from 0. */
  frame: number;
  view: View;
  look: Look;
  orientation: Orientation;
  /** In device pixels. */
  screen: Size;
}

/** How often values from the least to the greatest occur. */
export interface Histogram {
  low: number;
  high: number;
  counts: Uint32Array;
}
const histogramSide = 512;

/** Which grey values are wanted: inside an outline, or along a line of two points. */
export interface GreysWish {
  kind: 'inside' | 'along';
  points: Point[];
}
export type Greys =
  /** Null where no pixel of the picture lies inside. */
  | { kind: 'inside'; statistics: RegionStatistics | null }
  /** A value a pixel of the way; NaN outside the picture. */
  | { kind: 'along'; values: Float64Array; lengthPx: number };

/** Two pictures, and where points of the first lie in the second, both in image pixels. */
export interface DifferenceWish {
  now: PictureShape;
  then: PictureShape;
  /** Where (0, 0), (1, 0) and (0, 1) lie. */
  origin: Point;
  right: Point;
  below: Point;
}
/** Differences are looked at over the whole of a picture: from levels with about so many samples a side. */
const differenceSide = 700;

/** The stage's near-black, as canvases hold it. */
const background = 0xff0e0f0b;
const backgroundStyle = '#0b0f0e';
/** So much more than is in sight is made sharp, on each side, so that moving a little shows it sharp at once. */
const sharpMoreShare = 0.05;
type Drawn = 'nothing' | 'roughly' | 'sharply';
/** What came of a drawing; -1 milliseconds where there was nothing to draw yet. */
export interface Drawing {
  tookMs: number;
  drawn: Drawn;
}
const greysAsTheyAre = pixelTable(Uint8Array.from({ length: 256 }, (_, grey) => grey));

/**
 * Samples that are held for all viewports together, and pictures that they are of: so a page on which one after the other
 * is opened does not grow. What was looked at longest ago goes first, and nothing goes that a viewport shows.
 */
const mostHeldBytes = 320 * 1024 * 1024;
const mostHeldPictures = 10;

interface Viewport {
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  pixels: ImageData | null;
  table: { key: string; greys: Uint32Array } | null;
  looked: LookedView;
  /** What is fetched for it at present. */
  fetching: AbortController | null;
  /** What it shows, or waits for. */
  of: FrameKey;
}

type FrameKey = string;
const frameKey = ({ pictureId }: PictureShape, frame: number): FrameKey => `${pictureId} ${frame}`;

/**
 * Turns samples into screen pixels, for any number of viewports. Holds the levels of the frames that were looked at
 * lately, fetches those it lacks, and draws with the best it has for the zoom.
 */
export class Painter {
  private viewports = new Map<string, Viewport>();
  /** Levels of each frame, the frame that was looked at last at the end. */
  private held = new Map<FrameKey, Map<number, Raster>>();
  private heldBytes = 0;
  /** What is fetched ahead at present: whoever opens it meanwhile waits for the same. */
  private coming = new Map<string, Promise<void>>();

  attach(id: string, canvas: OffscreenCanvas): void {
    const context = canvas.getContext('2d', { alpha: false })!;
    this.viewports.set(id, {
      canvas,
      context,
      pixels: null,
      table: null,
      looked: new LookedView(),
      fetching: null,
      of: ''
    });
  }

  detach(id: string): void {
    this.viewports.get(id)?.fetching?.abort();
    this.viewports.delete(id);
  }

  /**
   * Loads one frame for a viewport: first the level that fits it, then the full one. `arrived` is told each time there
   * is more to draw with. What the viewport wanted before is no longer fetched.
   * @param full whether the full level is wanted too, for looking closer
   * @throws Error in words when it can't be fetched
   */
  async open(
    id: string,
    shape: PictureShape,
    frame: number,
    zoom: number,
    arrived: () => void,
    full = true
  ): Promise<void> {
    const viewport = this.viewports.get(id);
    if (!viewport) return;
    viewport.fetching?.abort();
    viewport.of = frameKey(shape, frame);
    const fetching = (viewport.fetching = new AbortController());
    const fits = levelForZoom(zoom, levelCount(shape.width, shape.height));
    const levels = this.levelsOf(shape, frame);
    if (levels.size > 0) arrived();
    for (const level of fits === 0 || !full ? [fits] : [fits, 0]) {
      if (levels.has(level)) continue;
      await this.coming.get(`${frameKey(shape, frame)} ${level}`);
      if (!levels.has(level)) {
        const raster = await fetchedLevel(shape, frame, level, fetching.signal);
        if (raster) this.hold(shape, frame, level, raster);
      }
      if (fetching.signal.aborted) return;
      arrived();
    }
  }

  /** Fetches what a picture would first be shown with, in case it is looked at next. Where that fails nothing comes of it. */
  async ahead(shape: PictureShape, zoom: number): Promise<void> {
    const of = frameKey(shape, 0);
    const level = levelForZoom(zoom, levelCount(shape.width, shape.height));
    const key = `${of} ${level}`;
    if (this.held.get(of)?.size || this.coming.has(key)) return;
    const fetched = fetchedLevel(shape, 0, level, new AbortController().signal).then(
      (raster) => {
        if (raster && !this.held.get(of)?.has(level)) this.hold(shape, 0, level, raster);
      },
      () => {}
    );
    this.coming.set(key, fetched);
    await fetched;
    this.coming.delete(key);
  }

  private levelsOf(shape: PictureShape, frame: number): Map<number, Raster> {
    const key = frameKey(shape, frame);
    const levels = this.held.get(key) ?? new Map<number, Raster>();
    this.held.delete(key);
    this.held.set(key, levels);
    return levels;
  }

  private hold(shape: PictureShape, frame: number, level: number, raster: Raster): void {
    this.levelsOf(shape, frame).set(level, raster);
    this.heldBytes += raster.data.byteLength;
    const inUse = new Set([frameKey(shape, frame), ...[...this.viewports.values()].map(({ of }) => of)]);
    for (const [key, levels] of this.held) {
      if (this.heldBytes <= mostHeldBytes && this.heldPictures <= mostHeldPictures) break;
      if (inUse.has(key)) continue;
      for (const { data } of levels.values()) this.heldBytes -= data.byteLength;
      this.held.delete(key);
    }
  }

  private get heldPictures(): number {
    return new Set([...this.held.keys()].map((key) => key.slice(0, key.indexOf(' ')))).size;
  }

  /** How often each value occurs, told from a coarse level that is held; null until one is. */
  values(shape: PictureShape, frame: number, bins: number): Histogram | null {
    const levels = this.held.get(frameKey(shape, frame));
    const coarsest = levels && bestLevel(levels, Infinity);
    if (coarsest === undefined) return null;
    let raster = levels!.get(coarsest)!;
    while (Math.max(raster.width, raster.height) > histogramSide) raster = halved(raster);
    const { data } = brightness(raster);
    let [low, high] = [Infinity, -Infinity];
    for (const value of data) [low, high] = [Math.min(low, value), Math.max(high, value)];
    if (!(high > low)) high = low + 1;
    return { low, high, counts: binned(data, low, high, bins) };
  }

  /** Grey values of a frame at full size, wherever its samples have to come from. @throws Error in words */
  async greys(shape: PictureShape, frame: number, { kind, points }: GreysWish): Promise<Greys> {
    const raster = await this.levelOf(shape, frame, 0);
    const box = boxAround(points, shape);
    if (kind === 'inside')
      return {
        kind,
        statistics: box && regionStatistics(brightness(raster, box), { kind: 'polygon', points })
      };
    const [from, to] = points;
    const lengthPx = distance(from, to);
    if (!box) return { kind, values: new Float64Array(0), lengthPx };
    const values = profile(brightness(raster, grown(box, 1, shape)), from, to);
    return {
      kind,
      values: values.map((value, i) => (isOn(shape, from, to, i / (values.length - 1)) ? value : NaN)),
      lengthPx
    };
  }

  /** What has changed from one picture to another that lies over it, as greys. @throws Error in words */
  async difference({ now, then, origin, right, below }: DifferenceWish): Promise<ImageData> {
    const [later, earlier] = await Promise.all([this.small(now), this.small(then)]);
    const across = { x: right.x - origin.x, y: right.y - origin.y };
    const down = { x: below.x - origin.x, y: below.y - origin.y };
    const found = differenceOver(brightness(later.raster), brightness(earlier.raster), ({ x, y }) => {
      const [u, v] = [x * later.factor, y * later.factor];
      return {
        x: (origin.x + u * across.x + v * down.x) / earlier.factor,
        y: (origin.y + u * across.y + v * down.y) / earlier.factor
      };
    });
    const pixels = new ImageData(found.width, found.height);
    differencePixels(found, pixels.data);
    return pixels;
  }

  /** The first frame, from a level that is no larger than differences are looked at. */
  private async small(shape: PictureShape): Promise<Level> {
    const count = levelCount(shape.width, shape.height);
    const longer = Math.max(shape.width, shape.height);
    const level = levelForZoom(Math.min(1, differenceSide / longer), count);
    return { raster: await this.levelOf(shape, 0, level), factor: 2 ** level };
  }

  /** A level that is held, or has to be fetched. @throws Error in words */
  private async levelOf(shape: PictureShape, frame: number, level: number): Promise<Raster> {
    const held = this.levelsOf(shape, frame).get(level);
    if (held) return held;
    const raster = (await fetchedLevel(shape, frame, level, new AbortController().signal))!;
    this.hold(shape, frame, level, raster);
    return raster;
  }

  private tableFor(viewport: Viewport, look: Look, { bitsStored, offset }: PictureShape): Uint32Array {
    const key = `${JSON.stringify(look)} ${bitsStored} ${offset}`;
    if (viewport.table?.key !== key)
      viewport.table = { key, greys: pixelTable(greyTable(look, bitsStored, offset)) };
    return viewport.table.greys;
  }

  /** @param sharp whether a look that looks at neighbours is made sharp, rather than shown soon */
  draw(id: string, scene: Scene, sharp = false): Drawing {
    const viewport = this.viewports.get(id);
    const { screen } = scene;
    if (!viewport || screen.width < 1 || screen.height < 1) return { tookMs: -1, drawn: 'nothing' };
    const started = performance.now();
    const { canvas, context } = viewport;
    if (canvas.width !== screen.width || canvas.height !== screen.height || !viewport.pixels) {
      canvas.width = screen.width;
      canvas.height = screen.height;
      viewport.pixels = context.createImageData(screen.width, screen.height);
      context.fillStyle = backgroundStyle;
    }
    const out = new Uint32Array(viewport.pixels.data.buffer);
    const drawn = this.paint(viewport, scene, out, sharp ? 'sharp' : 'soon');
    if (drawn === 'nothing') context.fillRect(0, 0, screen.width, screen.height);
    else context.putImageData(viewport.pixels, 0, 0);
    return { tookMs: drawn === 'nothing' ? -1 : performance.now() - started, drawn };
  }

  /**
   * @param how for a look that looks at neighbours: what can be shown soon, everything in sight sharply, or without the
   * steps that do
   */
  private paint(viewport: Viewport, scene: Scene, out: Uint32Array, how: 'soon' | 'sharp' | 'plain'): Drawn {
    const { picture, frame, view, look, orientation, screen } = scene;
    const levels = this.held.get(frameKey(picture, frame));
    const index =
      levels && bestLevel(levels, levelForZoom(view.zoom, levelCount(picture.width, picture.height)));
    if (index === undefined) return 'nothing';
    const level: Level = { raster: levels!.get(index)!, factor: 2 ** index };
    const onLevel = withRange(atLevel(look, level.factor), picture);
    const draw = (drawn: Level, table: Uint32Array) =>
      render({ level: drawn, picture, orientation, view, screen, table, out, background });
    const of = `${frameKey(picture, frame)} ${index}`;
    const sight = this.sightOf(scene, level, how === 'sharp' ? sharpMoreShare : 0);
    if (isPointwise(onLevel) || how === 'plain' || !sight) {
      draw(level, this.tableFor(viewport, withRange(pointwiseOf(onLevel), picture), picture));
      return 'sharply';
    }
    const wish = {
      of,
      look: withRange(look, picture),
      raster: level.raster,
      factor: level.factor,
      window: sight
    };
    const seen =
      how === 'sharp' ? { level: viewport.looked.made(wish), final: true } : viewport.looked.now(wish);
    draw(seen.level, greysAsTheyAre);
    return seen.final ? 'sharply' : 'roughly';
  }

  /** What is in sight of a level, in its samples; null for nothing. */
  private sightOf(
    { view, picture, orientation, screen }: Scene,
    { raster, factor }: Level,
    more: number
  ): Window | null {
    const seen = visibleWindow(view, { picture, orientation, screen }, more);
    if (!seen) return null;
    const left = Math.floor(seen.left / factor);
    const top = Math.floor(seen.top / factor);
    return {
      left,
      top,
      width: Math.min(raster.width, Math.ceil((seen.left + seen.width) / factor)) - left,
      height: Math.min(raster.height, Math.ceil((seen.top + seen.height) / factor)) - top
    };
  }

  /** The surroundings of an oriented point, enlarged: what the magnifier shows. */
  magnify(id: string, center: Point, scene: Scene, zoom: number, sizePx: number): ImageData | null {
    const viewport = this.viewports.get(id);
    if (!viewport) return null;
    const image = new ImageData(sizePx, sizePx);
    const screen = { width: sizePx, height: sizePx };
    const out = new Uint32Array(image.data.buffer);
    const drawn = this.paint(viewport, { ...scene, view: { center, zoom }, screen }, out, 'plain');
    return drawn === 'nothing' ? null : image;
  }
}

/** The pixels that points span, as far as they are in the picture; null for none. */
function boxAround(points: readonly Point[], { width, height }: Size): Window | null {
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)];
  const left = Math.max(0, Math.floor(Math.min(...xs)));
  const top = Math.max(0, Math.floor(Math.min(...ys)));
  const right = Math.min(width, Math.ceil(Math.max(...xs)));
  const bottom = Math.min(height, Math.ceil(Math.max(...ys)));
  return right > left && bottom > top ? { left, top, width: right - left, height: bottom - top } : null;
}

/** Whether the place at a share of the way from one point to another is on the picture. */
function isOn({ width, height }: Size, from: Point, to: Point, share: number): boolean {
  const [x, y] = [from.x + (to.x - from.x) * share, from.y + (to.y - from.y) * share];
  return x >= 0 && y >= 0 && x <= width && y <= height;
}

/** The coarsest held level that has a sample for each screen pixel, else the finest that is held. */
function bestLevel(levels: Map<number, Raster>, wanted: number): number | undefined {
  const held = [...levels.keys()].sort((a, b) => b - a);
  return held.find((level) => level <= wanted) ?? held.at(-1);
}
