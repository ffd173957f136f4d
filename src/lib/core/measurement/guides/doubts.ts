import type { Point } from '../../raster/orientation';
import { leastSquares } from '../fit/linear';
import type { GuideView } from './guide';

/** Whether what is placed lies as the view's drawing has it. */
export type Doubt = 'mirrored' | 'unlike';

/**
 * An affine map has six numbers, and where along a shaft its axis is marked is anybody's choice: with fewer landmarks
 * nothing tells that they lie otherwise.
 */
const leastLandmarks = 7;
/** Bodies, a neck bent forwards too, lie off their drawing by less than this share of how far their landmarks are spread. */
const unlikeShare = 0.6;

/**
 * What makes somebody doubt that a picture is a view, or stands as it should: the patient's right lies where the drawing has
 * the left; or the landmarks lie as no map of the drawing, turned, leaned, stretched and mirrored as one likes, would have them.
 *
 * @param placed landmarks by their keys, as they are seen
 */
export function doubtOf({ landmarks }: GuideView, placed: Readonly<Record<string, Point>>): Doubt | null {
  const pairs = landmarks.flatMap(({ key, onSchematic, beside }) =>
    !beside && placed[key] ? [{ key, from: onSchematic, to: placed[key] }] : []
  );
  let [as, other] = [0, 0];
  for (const right of pairs) {
    const left = pairs.find(({ key }) => key === otherSide(right.key));
    if (!left) continue;
    const drawn = Math.sign(left.from.x - right.from.x);
    const seen = Math.sign(left.to.x - right.to.x);
    if (drawn === 0 || seen === 0) continue;
    if (drawn === seen) as++;
    else other++;
  }
  if (other > as) return 'mirrored';
  if (pairs.length < leastLandmarks) return null;
  const rows = pairs.map(({ from }) => [from.x, from.y, 1]);
  const axes = (['x', 'y'] as const).map((axis) => {
    const values = pairs.map(({ to }) => to[axis]);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const fit = leastSquares(rows, values);
    const off = fit
      ? rows.map((row, i) => values[i] - row.reduce((sum, each, k) => sum + each * fit[k], 0))
      : [];
    return { off, spread: values.map((value) => value - mean) };
  });
  const squares = (each: number[]) => each.reduce((sum, value) => sum + value * value, 0);
  const spread = Math.sqrt(axes.reduce((sum, each) => sum + squares(each.spread), 0));
  // A fit of six numbers takes its share of what is off.
  const free = (2 * pairs.length) / (2 * pairs.length - 6);
  const off = Math.sqrt(free * axes.reduce((sum, each) => sum + squares(each.off), 0));
  return spread > 0 && off > unlikeShare * spread ? 'unlike' : null;
}

/** The key of the same landmark on the left, for one on the right. */
function otherSide(key: string): string | null {
  const left = key.replace(/\bright\b/, 'left');
  return left === key ? null : left;
}
