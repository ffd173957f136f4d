import type { Patch } from '../../raster/patch';
import { halved } from '../../raster/reduced';
import type { Spot } from './candidates';
import { type Outline, outlineAt } from './outline';

/** A picture and its halves, the smallest no larger than finding things of `mostPx` needs. */
export function levelsOf(patch: Patch, mostPx: number): Patch[] {
  const levels = [patch];
  while (
    10 * 2 ** (levels.length - 1) < mostPx * 1.5 &&
    Math.min(patch.width, patch.height) >> levels.length >= 12
  )
    levels.push(halved(levels[levels.length - 1]));
  return levels;
}

/**
 * Follows a spot's edge coarsely, then in the full picture.
 * @param leastContrast a fainter edge, in the picture's values, is none
 */
export function followedOutline(levels: readonly Patch[], spot: Spot, leastContrast: number): Outline | null {
  const bright = spot.contrast > 0;
  const depth = Math.min(levels.length - 1, Math.max(0, Math.floor(Math.log2(spot.radiusPx / 4.5))));
  const factor = 2 ** depth;
  const coarse = outlineAt(
    levels[depth],
    { x: spot.center.x / factor, y: spot.center.y / factor },
    spot.radiusPx / factor,
    bright,
    { rays: 36, from: 0.3, to: 2.2, allow: 0.1, leastStep: leastContrast }
  );
  if (!coarse || Math.abs(coarse.contrast) < leastContrast) return null;
  const center = { x: coarse.center.x * factor, y: coarse.center.y * factor };
  const radiusPx = coarse.radiusPx * factor;
  if (Math.hypot(center.x - spot.center.x, center.y - spot.center.y) > radiusPx) return null;
  // The coarse outline is good to a part of its own pixels; what is oval reaches further.
  const near = Math.min(0.3 * radiusPx, 3 + 1.2 * factor + 0.04 * radiusPx + 1.3 * coarse.ovalPx * factor);
  return outlineAt(levels[0], center, radiusPx, bright, {
    rays: Math.min(144, Math.max(48, Math.round(4 * radiusPx))),
    from: 1 - near / radiusPx,
    to: 1 + near / radiusPx,
    allow: 0.035,
    about: { radiusPx, ovalPx: coarse.ovalPx * factor, ovalAngle: coarse.ovalAngle }
  });
}

/** What is uneven around a thing pulls its outline oval by about this much. */
export const pulledPx = 0.1;

/** How oval a thing is, less what an uneven ground alone makes of its outline. */
export function settledOval({ ovalPx }: Outline, kind: 'ball' | 'disc'): number {
  const pulled = kind === 'ball' ? pulledPx / 2 : pulledPx;
  return ovalPx ** 3 / (ovalPx ** 2 + pulled ** 2);
}
