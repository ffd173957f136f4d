import { type Remote, wrap } from 'comlink';
import type { PlacedPoint } from '$core/calibration/scale';
import type { GuideView } from '$core/measurement/guides/guide';
import type { Sharpened } from '$core/measurement/guides/sharpened';
import type { PictureView } from '$core/picture/pictureView';
import type { Point } from '$core/raster/orientation';
import type { Finder } from '../../workers/finder';
import FinderWorker from '../../workers/finder.worker?worker';
import { shapeOf } from '../stage/viewport.svelte';

/** So far, in units of how surely a press is placed, may it be pulled to an edge. */
const pullReach = 5;
const leastReachPx = 4;
/** What is nearer than this to its press makes nothing sharper. */
const leastMovedPx = 0.7;

type Points = Readonly<Record<string, PlacedPoint>>;

/** What presses on a picture can be made sharper by, looked for away from the page while landmarks are placed. */
export class Pressing {
  private finder: { worker: Worker; asked: Remote<Finder> } | null = null;
  private found = $state.raw<Readonly<Record<string, Sharpened>>>({});
  private asks = 0;

  /** Better places than the presses, as far as those are still where they were. */
  better(points: Points): Readonly<Record<string, Sharpened>> {
    const isPress = ({ x, y }: Point) => Object.values(points).some((each) => each.x === x && each.y === y);
    return Object.fromEntries(
      Object.entries(this.found).filter(([key, each]) => {
        const at = points[key];
        return at && Math.hypot(at.x - each.x, at.y - each.y) >= leastMovedPx && each.pressed.every(isPress);
      })
    );
  }

  async look(picture: PictureView, view: GuideView, points: Points): Promise<void> {
    const mine = ++this.asks;
    // Nothing is made sharper in pictures whose circles are ovals.
    if (!view.sharpens || picture.channels !== 1 || !isSquare(picture)) return;
    const plain = $state.snapshot(points) as Points;
    try {
      const found = await this.ready().sharpened(shapeOf(picture), view, plain);
      if (mine === this.asks) this.found = found;
    } catch {
      // Presses stay as they are: nothing is lost, and the stage says what can't be fetched.
      if (mine === this.asks) this.found = {};
    }
  }

  /** The edge beside a press; null where nothing stands out. */
  async pulled(picture: PictureView, press: PlacedPoint): Promise<PlacedPoint | null> {
    const reach = Math.max(leastReachPx, pullReach * press.uncertaintyPx);
    const at = await this.ready().edge(shapeOf(picture), { x: press.x, y: press.y }, reach);
    // Along the edge it lies where it was pressed, and no more surely.
    return at && { ...at, uncertaintyPx: press.uncertaintyPx };
  }

  private ready(): Remote<Finder> {
    if (!this.finder) {
      const worker = new FinderWorker();
      this.finder = { worker, asked: wrap<Finder>(worker) };
    }
    return this.finder.asked;
  }

  /** Another picture, or none: what was fetched is let go. */
  forget(): void {
    this.asks++;
    this.found = {};
    this.finder?.worker.terminate();
    this.finder = null;
  }
}

const isSquare = ({ fileScale }: PictureView) =>
  fileScale === null || Math.abs(fileScale.mmPerPixelY / fileScale.mmPerPixelX - 1) < 0.02;
