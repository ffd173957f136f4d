import type { Side } from '../../anatomy/side';
import type { Orientation, Point } from '../orientation';
import type { Patch } from '../patch';
import { reducedTo } from '../reduced';
import { regionsOf } from '../regions';
import type { Advice } from './adviceKind';
import { type Letter, covered, letterShapes, levelled } from './letterShapes';

/** A letter of lead that lay on the detector and says which side of the body is shown. */
export interface LeadLetter {
  letter: 'R' | 'L';
  /** It reads mirrored, as the picture is stored. */
  mirrored: boolean;
  /** 0 to 1: how like it is to that letter. */
  likeness: number;
  /** Its outline, in image points. */
  where: Point[];
}

/** What a letter of lead is held against. */
export interface SideExpected {
  /** The side that the take is of; null where it is of both or of none. */
  side: Side | null;
  /** How the take, as stored, is turned to be seen upright. */
  seen: Orientation;
}

const sideOfLetter = { R: 'right', L: 'left' } as const;

/**
 * Whether the letter of lead in a take reads mirrored as it is seen, or says another side than what it was taken for.
 * @param shown a take whose dense parts are light
 */
export function sideAstray(shown: Patch, { side, seen }: SideExpected): Advice | null {
  const found = leadLetterIn(shown);
  if (!found) return null;
  const { letter, mirrored, likeness, where } = found;
  const confidence = Math.min(0.95, likeness);
  if (mirrored !== seen.mirrored)
    return {
      kind: 'turned',
      confidence,
      description: `The lead letter ${letter} reads mirrored: probably the picture lies the wrong way round.`,
      where
    };
  const says = sideOfLetter[letter];
  if (side === null || says === side) return null;
  return {
    kind: 'other side',
    confidence,
    description: `The lead letter says ${letter}, and this is taken for the ${side} side. See which one it is before anything else.`,
    where
  };
}

const reducedSidePx = 640;
/** Letters are this large, as shares of the picture's longer side. */
const leastShare = 0.02;
const mostShare = 0.14;
const leastLetterPx = 13;
/** Of a letter's box, lead covers so much. */
const leastFill = 0.2;
const mostFill = 0.78;
const thinnest = 0.3;
const thresholds = 9;
/** Likenesses from which a shape is taken for the letter. */
const surely: Record<LeadLetter['letter'], number> = { R: 0.78, L: 0.86 };
/** It must be liker to the letter than to it mirrored, and than to any other, by so much. */
const clearly = 0.05;
/** What a box that is wider or narrower than the letter's costs, for each e times of it. */
const aspectCosts = 0.35;
const mostAspectCost = -0.2;

/**
 * The lead letter in a radiograph, where there is exactly one kind: R or L, upright or turned, as it reads or mirrored.
 * @param shown a take whose dense parts are light
 * @returns null for none, for one that can't be told from others, and where R and L both lie in it
 */
export function leadLetterIn(shown: Patch): LeadLetter | null {
  const { small, factor } = reducedTo(shown, reducedSidePx);
  const found = candidatesOf(small).sort((a, b) => b.likeness - a.likeness);
  if (found.length === 0) return null;
  const [best] = found;
  if (found.some(({ letter, mirrored }) => letter !== best.letter || mirrored !== best.mirrored)) return null;
  return { ...best, where: best.where.map(({ x, y }) => ({ x: x * factor, y: y * factor })) };
}

function candidatesOf({ data, width, height }: Patch): LeadLetter[] {
  const sorted = Float32Array.from(data.filter((_, i) => i % 7 === 0)).sort();
  const at = (share: number) => sorted[Math.floor(share * (sorted.length - 1))];
  const [low, high] = [at(0.5), at(0.9995)];
  if (high <= low) return [];
  const longest = Math.max(width, height);
  const [least, most] = [Math.max(leastLetterPx, leastShare * longest), mostShare * longest];
  const out: LeadLetter[] = [];
  for (let k = 1; k <= thresholds; k++) {
    const threshold = low + ((high - low) * k) / (thresholds + 1);
    for (const region of regionsOf((i) => data[i] > threshold, width, height)) {
      const [w, h] = [region.right - region.left + 1, region.bottom - region.top + 1];
      const longer = Math.max(w, h);
      if (longer < least || longer > most || Math.min(w, h) < thinnest * longer) continue;
      const fill = region.pixels / (w * h);
      if (fill < leastFill || fill > mostFill) continue;
      const read = readShape(
        levelled(
          covered((u, v) => {
            const [x, y] = [region.left + Math.floor(u * w), region.top + Math.floor(v * h)];
            return data[y * width + x] > threshold;
          })
        ),
        w / h
      );
      if (!read) continue;
      const [right, bottom] = [region.right + 1, region.bottom + 1];
      out.push({
        ...read,
        where: [
          { x: region.left, y: region.top },
          { x: right, y: region.top },
          { x: right, y: bottom },
          { x: region.left, y: bottom }
        ]
      });
    }
  }
  return out;
}

/** Which letter a shape is likest, where that is R or L and clear. */
function readShape(
  cells: Float32Array,
  aspect: number
): Pick<LeadLetter, 'letter' | 'mirrored' | 'likeness'> | null {
  const best = new Map<string, { letter: Letter; mirrored: boolean; likeness: number }>();
  for (const shape of letterShapes()) {
    let likeness = -aspectCosts * Math.abs(Math.log(aspect / shape.aspect));
    if (likeness < mostAspectCost) continue;
    for (let i = 0; i < cells.length; i++) likeness += cells[i] * shape.cells[i];
    const key = `${shape.letter}${shape.mirrored}`;
    if (likeness > (best.get(key)?.likeness ?? -1))
      best.set(key, { letter: shape.letter, mirrored: shape.mirrored, likeness });
  }
  const [first, second] = [...best.values()].sort((a, b) => b.likeness - a.likeness);
  // No letter has a box like this.
  if (!first) return null;
  const { letter, mirrored, likeness } = first;
  if (letter !== 'R' && letter !== 'L') return null;
  if (likeness < surely[letter] || likeness - second.likeness < clearly) return null;
  return { letter, mirrored, likeness };
}
