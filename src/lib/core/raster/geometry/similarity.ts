import type { Point } from '../orientation';

/** A turn, a size and a shift: how one picture lies on another that shows the same. */
export interface Similarity {
  /** Lengths there for one here. */
  scale: number;
  /** Clockwise as seen, in radians. */
  turn: number;
  shift: Point;
}

export interface PointPair {
  from: Point;
  to: Point;
}

export interface LaidOver {
  similarity: Similarity;
  /**
   * How far a common point lies from where it should, root mean square, in units of `to`; corrected for what the fit
   * takes of it. Null for two points, which any similarity fits.
   */
  residual: number | null;
}

/**
 * The similarity that brings points onto their partners with the least squares of distances, without mirroring
 * (Umeyama, 1991, in the plane). It is what two radiographs of one place differ by as long as the ray comes from the
 * same side: an affine map would fit three points always, and hide that they do not belong together.
 *
 * Two points apart by (10, 0), laid onto (0, 20) apart: scale 2, turn 90 degrees.
 *
 * @param pairs two or more, in any unit, the same on each side
 * @returns null when the points of a side are all in one place, or one of them is no number
 */
export function laidOver(pairs: readonly PointPair[]): LaidOver | null {
  const count = pairs.length;
  if (count < 2) return null;
  const from = middle(pairs.map((pair) => pair.from));
  const to = middle(pairs.map((pair) => pair.to));
  let [along, across, spreadFrom, spreadTo] = [0, 0, 0, 0];
  for (const pair of pairs) {
    const p = { x: pair.from.x - from.x, y: pair.from.y - from.y };
    const q = { x: pair.to.x - to.x, y: pair.to.y - to.y };
    along += p.x * q.x + p.y * q.y;
    across += p.x * q.y - p.y * q.x;
    spreadFrom += p.x * p.x + p.y * p.y;
    spreadTo += q.x * q.x + q.y * q.y;
  }
  if (!(spreadFrom > 0 && spreadTo > 0) || !Number.isFinite(spreadFrom + spreadTo)) return null;
  const scale = Math.hypot(along, across) / spreadFrom;
  if (!(scale > 0)) return null;
  const turn = Math.atan2(across, along);
  const turned = onto({ scale, turn, shift: { x: 0, y: 0 } }, from);
  const similarity = { scale, turn, shift: { x: to.x - turned.x, y: to.y - turned.y } };
  const squares = pairs.reduce((sum, pair) => {
    const there = onto(similarity, pair.from);
    return sum + (there.x - pair.to.x) ** 2 + (there.y - pair.to.y) ** 2;
  }, 0);
  // Of 2n coordinates the fit takes 4; a distance has two of what is left.
  return { similarity, residual: count > 2 ? Math.sqrt(squares / (count - 2)) : null };
}

/** Where a point comes to lie. */
export function onto({ scale, turn, shift }: Similarity, { x, y }: Point): Point {
  const [cos, sin] = [scale * Math.cos(turn), scale * Math.sin(turn)];
  return { x: cos * x - sin * y + shift.x, y: sin * x + cos * y + shift.y };
}

/** The way back. */
export function inverse({ scale, turn, shift }: Similarity): Similarity {
  const back = { scale: 1 / scale, turn: -turn, shift: { x: 0, y: 0 } };
  const { x, y } = onto(back, shift);
  return { ...back, shift: { x: -x, y: -y } };
}

const middle = (points: readonly Point[]): Point => ({
  x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
  y: points.reduce((sum, { y }) => sum + y, 0) / points.length
});
