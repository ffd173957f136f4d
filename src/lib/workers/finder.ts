import { type RoundMarker, type RoundSearch, findRound } from '../core/calibration/markers/findRound';
import type { Found } from '../core/calibration/markers/judged';
import type { PictureShape } from '../core/picture/pictureView';
import { brightness } from '../core/raster/brightness';
import type { Raster } from '../core/raster/raster';
import { fetchedLevel } from './fetchedLevel';

/** Looks for things of known size in pictures, away from what paints them. */
export class Finder {
  private raster: { key: string; raster: Raster } | null = null;

  /** @throws Error in words when the picture can't be fetched */
  async round(shape: PictureShape, frame: number, search: RoundSearch): Promise<Found<RoundMarker>> {
    const key = `${shape.pictureId} ${frame}`;
    if (this.raster?.key !== key) {
      const raster = await fetchedLevel(shape, frame, 0, new AbortController().signal);
      this.raster = { key, raster: raster! };
    }
    return findRound(brightness(this.raster.raster), search);
  }
}
