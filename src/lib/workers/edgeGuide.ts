import { bends } from '../core/measurement/bends';
import {
  type EdgeFollower,
  type FollowedFrom,
  edgeFollower,
  exactWay,
  followedFrom,
  quickWay
} from '../core/measurement/edge/follow';
import type { PictureShape } from '../core/picture/pictureView';
import { brightness } from '../core/raster/brightness';
import type { Point } from '../core/raster/orientation';
import { fetchedLevel } from './fetchedLevel';

/** A followed way is drawn through points that leave it nowhere by more than this, in image pixels. */
const tolerancePx = 1.2;

/** Follows edges in pictures: what it needs is made once for a picture, and once for a point to start from. */
export class EdgeGuide {
  private follower: { key: string; follower: EdgeFollower } | null = null;
  private from: { key: string; from: FollowedFrom } | null = null;

  /**
   * The points between two, along the edge.
   * @param exact at full size rather than at once
   * @throws Error in words when the picture can't be fetched
   */
  async way(shape: PictureShape, frame: number, start: Point, to: Point, exact: boolean): Promise<Point[]> {
    const key = `${shape.pictureId} ${frame}`;
    if (this.follower?.key !== key) {
      const raster = await fetchedLevel(shape, frame, 0, new AbortController().signal);
      this.follower = { key, follower: edgeFollower(brightness(raster!)) };
    }
    const { follower } = this.follower;
    const startKey = `${key} ${start.x} ${start.y}`;
    if (this.from?.key !== startKey) this.from = { key: startKey, from: followedFrom(follower, start) };
    const way = (exact ? exactWay : quickWay)(follower, this.from.from, to);
    return bends(way, tolerancePx)
      .slice(1, -1)
      .map((i) => way[i]);
  }
}
