import { type BarMarker, type BarSearch, findBars } from '../core/calibration/markers/findBars';
import { type RoundMarker, type RoundSearch, findRound } from '../core/calibration/markers/findRound';
import { type RulerMarker, findRuler } from '../core/calibration/markers/findRuler';
import type { Found } from '../core/calibration/markers/judged';
import { plumbLine } from '../core/calibration/markers/photoMarkers';
import { type Progress, finished } from '../core/longWork';
import { edgeNear } from '../core/measurement/edge/edgeNear';
import type { PlacedPoint } from '../core/calibration/scale';
import type { GuideView } from '../core/measurement/guides/guide';
import { type Proposed, proposedIn } from '../core/measurement/guides/proposed';
import { type Sharpened, sharpenedBy } from '../core/measurement/guides/sharpened';
import type { PictureShape } from '../core/picture/pictureView';
import { brightness } from '../core/raster/brightness';
import { type Orientation, type Point, toImage } from '../core/raster/orientation';
import type { Patch } from '../core/raster/patch';
import type { Raster } from '../core/raster/raster';
import { samePlaces } from '../core/raster/registration/samePlaces';
import { turnRaster } from '../core/raster/turnRaster';
import { fetchedLevel } from './fetchedLevel';

/** A picture as it stands on the stage. */
export interface Standing {
  shape: PictureShape;
  orientation: Orientation;
}

/** The same places in two pictures, in image pixels of each; none, and why, where they can't be told. */
export type PlacesSaid = { pairs: { here: Point; there: Point }[]; because: string };

/** Looks for things of known size in pictures, away from what paints them. */
export class Finder {
  private raster: { key: string; raster: Raster } | null = null;

  /** @throws Error in words when the picture can't be fetched */
  async round(shape: PictureShape, frame: number, search: RoundSearch): Promise<Found<RoundMarker>> {
    return findRound(await this.greys(shape, frame), search);
  }
  async bars(shape: PictureShape, frame: number, search: BarSearch): Promise<Found<BarMarker>> {
    return findBars(await this.greys(shape, frame), search);
  }
  async rulers(shape: PictureShape, frame: number): Promise<Found<RulerMarker>> {
    return findRuler(await this.greys(shape, frame));
  }

  /** The ends of a plumb line that hangs in a photograph as it stands, and how sure; null where there is none. */
  async plumb(standing: Standing): Promise<{ ends: [Point, Point]; confidence: number } | null> {
    if (standing.shape.channels !== 3) return null;
    const { raster, back } = await turnedAsItStands(standing);
    const line = plumbLine(raster);
    return line && { ends: [back(line.upper), back(line.lower)], confidence: line.confidence };
  }
  /** What can be found of a guide's landmarks without anybody pointing, in image pixels, in a picture as it stands. */
  async landmarks(standing: Standing, view: GuideView): Promise<Record<string, Proposed>> {
    const { raster, back } = await turnedAsItStands(standing);
    return Object.fromEntries(
      Object.entries(proposedIn(view, raster)).map(([key, each]) => [key, { ...each, ...back(each) }])
    );
  }

  /** Better places for landmarks that were pressed near what a view can be made sharper by, in image pixels. */
  async sharpened(
    shape: PictureShape,
    view: GuideView,
    placed: Readonly<Record<string, PlacedPoint>>
  ): Promise<Record<string, Sharpened>> {
    return sharpenedBy(view, placed, await this.greys(shape, 0));
  }
  /** The place on an edge that somebody pressed beside; null where nothing stands out. */
  async edge(shape: PictureShape, press: Point, reach: number): Promise<Point | null> {
    return edgeNear(await this.greys(shape, 0), press, reach);
  }

  private async greys(shape: PictureShape, frame: number): Promise<Patch> {
    const key = `${shape.pictureId} ${frame}`;
    if (this.raster?.key !== key) {
      const raster = await fetchedLevel(shape, frame, 0, new AbortController().signal);
      this.raster = { key, raster: raster! };
    }
    return brightness(this.raster.raster);
  }

  /** @throws Error in words when a picture can't be fetched */
  async places(
    now: Standing,
    then: Standing,
    expectedScale: number,
    told: (progress: Progress) => void
  ): Promise<PlacesSaid> {
    const [later, earlier] = await Promise.all([now, then].map(upright));
    const found = finished(samePlaces(later.patch, earlier.patch, expectedScale), told);
    if (found.outcome === 'not found') return { pairs: [], because: found.because };
    return {
      pairs: found.pairs.map(({ from, to }) => ({ here: later.back(to), there: earlier.back(from) })),
      because: ''
    };
  }
}

/** The first frame in quarter turns as it stands, and the way back to image pixels. A tilt is for the search to find. */
async function turnedAsItStands({
  shape,
  orientation
}: Standing): Promise<{ raster: Raster; back: (point: Point) => Point }> {
  const raster = await fetchedLevel(shape, 0, 0, new AbortController().signal);
  const { quarterTurns, mirrored } = orientation;
  const turned = { quarterTurns, mirrored };
  const size = { width: shape.width, height: shape.height };
  return { raster: turnRaster(raster!, turned), back: (point) => toImage(point, size, turned) };
}

async function upright(standing: Standing): Promise<{ patch: Patch; back: (point: Point) => Point }> {
  const { raster, back } = await turnedAsItStands(standing);
  return { patch: brightness(raster), back };
}
