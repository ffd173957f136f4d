import { type Orientation, type Point, toImage } from '../orientation';
import type { Patch } from '../patch';
import { reducedTo } from '../reduced';
import type { Advice } from './adviceKind';

/** Where the crowns of the teeth are in a picture that stands as it is seen. */
export type CrownSide = 'up' | 'down' | 'middle';

export interface CrownsExpected {
  side: CrownSide;
  /** How the take, as stored, is turned to be seen upright. */
  seen: Orientation;
}

const sides = ['up', 'right', 'down', 'left'] as const;

const coarsePx = 120;
/** This much of a picture along a side is looked at. */
const stripShare = 0.1;
/** What so much of a picture is darker than is air or soft tissue beyond the crowns. */
const open = 0.2;
/** Jaw and roots at a side that should be open are denser by this, as is the side across from the open one. */
const clearly = 0.22;
/** The gap between the crowns of both jaws is less dense than this, and than this share of whatever runs across it. */
const gapDensity = 0.22;
const gapShare = 0.7;

/**
 * Whether a picture of teeth is turned, from what lies where: beyond the crowns there is nothing but air and cheek,
 * beyond the roots there is jaw, and between the crowns of both jaws is a gap from side to side. Only the order of the
 * greys counts, so that no transfer changes the answer.
 * @param shown a take whose dense parts are light
 * @returns null where it stands as expected, or where nobody can tell
 */
export function crownsAstray(shown: Patch, { side, seen }: CrownsExpected): Advice | null {
  const { small: patch } = reducedTo(shown, coarsePx);
  const densities = ranks(patch);
  return side === 'middle' ? gapAstray(patch, densities, seen) : jawAstray(patch, densities, side, seen);
}

/** Each pixel's place in the order of all, 0 for the darkest and 1 for the lightest; equal ones share theirs. */
function ranks({ data }: Patch): Float64Array {
  const sorted = Float32Array.from(data).sort();
  const first = (value: number, above: boolean) => {
    let [low, high] = [0, sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sorted[middle] < value || (above && sorted[middle] === value)) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  return Float64Array.from(data, (value) => (first(value, false) + first(value, true)) / (2 * sorted.length));
}

/** Mean density of a part of the picture as it is seen, given in shares of its width and height. */
function densityOf(
  { width, height }: Patch,
  densities: Float64Array,
  seen: Orientation,
  [from, to]: [Point, Point]
): number {
  const lying = seen.quarterTurns % 2 === 1;
  const [w, h] = lying ? [height, width] : [width, height];
  let sum = 0;
  let count = 0;
  for (let y = Math.floor(from.y * h); y < Math.max(to.y * h, Math.floor(from.y * h) + 1); y++)
    for (let x = Math.floor(from.x * w); x < Math.max(to.x * w, Math.floor(from.x * w) + 1); x++) {
      const at = toImage({ x: x + 0.5, y: y + 0.5 }, { width, height }, seen);
      sum += densities[Math.floor(at.y) * width + Math.floor(at.x)];
      count++;
    }
  return sum / count;
}

const strips: Record<(typeof sides)[number], [Point, Point]> = {
  up: [
    { x: 0, y: 0 },
    { x: 1, y: stripShare }
  ],
  right: [
    { x: 1 - stripShare, y: 0 },
    { x: 1, y: 1 }
  ],
  down: [
    { x: 0, y: 1 - stripShare },
    { x: 1, y: 1 }
  ],
  left: [
    { x: 0, y: 0 },
    { x: stripShare, y: 1 }
  ]
};

function jawAstray(
  patch: Patch,
  densities: Float64Array,
  expected: 'up' | 'down',
  seen: Orientation
): Advice | null {
  const at = sides.map((side) => densityOf(patch, densities, seen, strips[side]));
  const wanted = sides.indexOf(expected);
  const found = at.indexOf(Math.min(...at));
  const across = (found + 2) % 4;
  const surplus = Math.min(at[wanted] - at[found], at[across] - at[found]);
  if (found === wanted || at[found] > open || surplus < clearly) return null;
  const upsideDown = across === wanted;
  return {
    kind: 'turned',
    confidence: Math.min(0.93, 0.55 + surplus),
    description: upsideDown
      ? 'Probably upside down: the crowns lie where the roots of this place should be.'
      : 'Probably turned by a quarter: the crowns lie at a side.'
  };
}

/** Densities of the lines of the middle of a picture, from up to down or from left to right. */
function middleLines(patch: Patch, densities: Float64Array, seen: Orientation, down: boolean): number[] {
  const lines = 20;
  return Array.from({ length: lines / 2 }, (_, i) => {
    const [from, to] = [(i + lines / 4) / lines, (i + 1 + lines / 4) / lines];
    const part: [Point, Point] = down
      ? [
          { x: 0.1, y: from },
          { x: 0.9, y: to }
        ]
      : [
          { x: from, y: 0.1 },
          { x: to, y: 0.9 }
        ];
    return densityOf(patch, densities, seen, part);
  });
}

function gapAstray(patch: Patch, densities: Float64Array, seen: Orientation): Advice | null {
  const level = Math.min(...middleLines(patch, densities, seen, true));
  const upright = Math.min(...middleLines(patch, densities, seen, false));
  if (upright > gapDensity || upright > gapShare * level) return null;
  return {
    kind: 'turned',
    confidence: Math.min(0.93, 0.6 + 1.5 * (level - upright)),
    description: 'Probably turned by a quarter: the gap between the jaws runs up and down.'
  };
}
