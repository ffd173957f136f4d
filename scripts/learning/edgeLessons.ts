import { edgeSigns } from '../../src/lib/core/calibration/markers/edgeSigns';
import { profileOf } from '../../src/lib/core/calibration/markers/edgeProfile';
import { followedOutline, levelsOf, settledOval } from '../../src/lib/core/calibration/markers/followed';
import type { Relationship } from '../../src/lib/core/calibration/markers/edgeSigns';
import { type RoundPicture, roundPictures } from '../../src/lib/core/phantom/anyChain/roundPicture';
import { type SeededRandom, anyBetween, seededRandom } from '../../src/lib/core/random';
import { noiseCurve } from '../../src/lib/core/raster/noise';
import type { Patch } from '../../src/lib/core/raster/patch';

const picturesEach = 3;
const mostPx = 250;

/** The signs of the edges in one drawing's pictures, each with how much further out the true rim lies, in edge widths. */
export function edgeLessons(kind: 'ball' | 'disc', seed: number): Float32Array[] {
  const random = seededRandom(seed);
  return roundPictures(kind, picturesEach, random).flatMap((picture) => {
    const lesson = lessonOf(kind, picture, random);
    return lesson ? [lesson] : [];
  });
}

function lessonOf(kind: 'ball' | 'disc', picture: RoundPicture, random: SeededRandom): Float32Array | null {
  const { width, height, data, center, sizePx, denseBright } = picture;
  const patch: Patch = { left: 0, top: 0, width, height, picture: { width, height }, data };
  const radiusPx = sizePx / 2;
  // As roughly as spots are found.
  const spot = {
    center: {
      x: center.x + 0.1 * radiusPx * random.normal(),
      y: center.y + 0.1 * radiusPx * random.normal()
    },
    radiusPx: radiusPx * anyBetween(random, 0.75, 1.15),
    contrast: denseBright ? 1 : -1
  };
  const noiseAsked = random.uniform() > 0.1;
  const known = knownOf(picture, random);
  const outline = followedOutline(levelsOf(patch, mostPx), spot, 0);
  if (!outline || outline.share < 0.85 || !(Math.abs(outline.radiusPx - radiusPx) < 0.45 * radiusPx + 2))
    return null;
  if (Math.hypot(outline.center.x - center.x, outline.center.y - center.y) > 0.25 * sizePx) return null;
  const profile = profileOf(patch, outline, denseBright);
  const noise = noiseAsked ? noiseCurve(patch) : null;
  const signs = profile && edgeSigns(patch, outline, profile, { ...known, noise });
  if (!signs) return null;
  const oval = settledOval(outline, kind);
  const beyond = radiusPx + (kind === 'ball' ? oval : -oval) - outline.radiusPx;
  return Float32Array.of(...signs.numbers, beyond / signs.widthPx);
}

/** What a setting or a file would say of it, at times. */
function knownOf(
  { throughMiddle, answer, lifted }: RoundPicture,
  random: SeededRandom
): { throughMiddle?: number; relationship?: Relationship } {
  const metal = random.uniform() < 0.25;
  const told = metal ? throughMiddle * Math.exp(0.2 * random.normal()) : undefined;
  const filed = random.uniform() < (lifted ? 0.2 : 0.5);
  const relationship = answer === 'linear' || answer === 'logarithmic' ? answer : undefined;
  return { throughMiddle: told, relationship: filed ? relationship : undefined };
}
