import { transformSquare } from '../fourier';
import { type Similarity, inverse, onto } from '../geometry/similarity';
import { valueAt } from '../geometry/sampling';
import type { LongWork } from '../../longWork';
import type { Patch } from '../patch';
import { type EdgeField, edgeFieldOf } from './edgeField';

/** Pictures are laid over each other at this many pixels a side at first, in a square that shifts may not leave. */
export const coarseSidePx = 80;
const squarePx = 128;
/** At least this share of the smaller one has to lie on the other. */
const leastOverlap = 0.4;
const turnsDeg = Array.from({ length: 17 }, (_, i) => 4 * (i - 8));
const scales = Array.from({ length: 9 }, (_, i) => 1.07 ** (i - 4));
const smoothedPx = 1;

/** How one picture may lie on another, and how alike their edges are there: from 0 for not at all to 1. */
export interface Lying {
  similarity: Similarity;
  alike: number;
}

interface Square {
  re: Float64Array;
  im: Float64Array;
}
const square = (): Square => ({
  re: new Float64Array(squarePx * squarePx),
  im: new Float64Array(squarePx * squarePx)
});
/** Squares that every turn and size is worked out in. */
class Room {
  readonly moving = square();
  readonly movingMore = square();
  readonly energy = square();
  readonly inside = square();
  readonly likeness = square();
  readonly energies = square();
  readonly overlaps = square();
  cleared(): this {
    for (const { re, im } of [this.moving, this.movingMore]) {
      re.fill(0);
      im.fill(0);
    }
    return this;
  }
}

/**
 * Tries all turns up to 32 degrees either way and sizes from 3/4 to 4/3, each with every shift at once (correlation by
 * Fourier transforms, normed by what overlaps: Padfield, 2012).
 * @param now @param then small pictures, at most 80 pixels a side
 * @returns from `then` onto `now`, the likeliest of each turn and size, the most alike first
 */
export function* lyingOver(now: Patch, then: Patch): LongWork<Lying[]> {
  const field = edgeFieldOf(now, smoothedPx);
  const fixed = square();
  const fixedMore = square();
  for (let y = 0; y < now.height; y++)
    for (let x = 0; x < now.width; x++) {
      const [i, at] = [y * now.width + x, y * squarePx + x];
      [fixed.re[at], fixed.im[at]] = [field.re[i], field.im[i]];
      fixedMore.re[at] = field.re[i] ** 2 + field.im[i] ** 2;
      fixedMore.im[at] = 1;
    }
  const size = { width: now.width, height: now.height };
  transformSquare(fixed.re, fixed.im, squarePx);
  const [energy, inside] = [square(), square()];
  twoReals(fixedMore, energy, inside);
  const room = new Room();
  const found: Lying[] = [];
  const of = turnsDeg.length * scales.length;
  for (const [i, turnDeg] of turnsDeg.entries()) {
    for (const scale of scales) {
      const turn = (turnDeg * Math.PI) / 180;
      const best = bestShift({ fixed, energy, inside, size }, then, scale, turn, room.cleared());
      if (best) found.push(best);
    }
    yield { done: (i + 1) * scales.length, of };
  }
  return found.toSorted((a, b) => b.alike - a.alike);
}

interface Fixed {
  fixed: Square;
  energy: Square;
  inside: Square;
  size: { width: number; height: number };
}

/** The transforms of two real squares that were put into one as its two parts. */
function twoReals(both: Square, first: Square, second: Square): void {
  transformSquare(both.re, both.im, squarePx);
  for (let y = 0; y < squarePx; y++)
    for (let x = 0; x < squarePx; x++) {
      const i = y * squarePx + x;
      const j = ((squarePx - y) % squarePx) * squarePx + ((squarePx - x) % squarePx);
      first.re[i] = (both.re[i] + both.re[j]) / 2;
      first.im[i] = (both.im[i] - both.im[j]) / 2;
      second.re[i] = (both.im[i] + both.im[j]) / 2;
      second.im[i] = (both.re[j] - both.re[i]) / 2;
    }
}

/** `to` becomes the transform of how `a` lies on `b` for every shift, as it is taken back by the same transform. */
function crossed(a: Square, b: Square, to: Square, asSecond = false): void {
  for (let i = 0; i < a.re.length; i++) {
    const re = a.re[i] * b.re[i] + a.im[i] * b.im[i];
    const im = a.im[i] * b.re[i] - a.re[i] * b.im[i];
    // The way back is the way there of the conjugate; a second real square goes along as the imaginary part.
    if (asSecond) {
      to.re[i] -= im;
      to.im[i] -= re;
    } else {
      to.re[i] = re;
      to.im[i] = -im;
    }
  }
}

function bestShift(fixed: Fixed, then: Patch, scale: number, turn: number, room: Room): Lying | null {
  const { moving, movingMore, energy, inside, likeness, energies, overlaps } = room;
  const turned = turnedAbout(then, scale, turn);
  const { patch, covered, about } = turned;
  if (!patch) return null;
  const field = edgeFieldOf(patch, smoothedPx);
  let area = 0;
  for (let y = 1; y < patch.height - 1; y++)
    for (let x = 1; x < patch.width - 1; x++) {
      const i = y * patch.width + x;
      if (!covered[i]) continue;
      const at = y * squarePx + x;
      [moving.re[at], moving.im[at]] = [field.re[i], field.im[i]];
      movingMore.re[at] = field.re[i] ** 2 + field.im[i] ** 2;
      movingMore.im[at] = 1;
      area++;
    }
  transformSquare(moving.re, moving.im, squarePx);
  twoReals(movingMore, energy, inside);
  crossed(fixed.fixed, moving, likeness);
  transformSquare(likeness.re, likeness.im, squarePx);
  crossed(fixed.energy, inside, energies);
  crossed(fixed.inside, energy, energies, true);
  transformSquare(energies.re, energies.im, squarePx);
  crossed(fixed.inside, inside, overlaps);
  transformSquare(overlaps.re, overlaps.im, squarePx);
  const count = squarePx * squarePx;
  const least = leastOverlap * Math.min(area, fixed.size.width * fixed.size.height);
  let [best, at] = [0, -1];
  for (let i = 0; i < count; i++) {
    if (overlaps.re[i] / count < least) continue;
    const norm = energies.re[i] * -energies.im[i];
    if (!(norm > 0)) continue;
    // More of the picture that agrees is worth more than a little that agrees as well.
    const alike = (likeness.re[i] / Math.sqrt(norm)) * (overlaps.re[i] / count / area) ** 0.25;
    if (alike > best) [best, at] = [alike, i];
  }
  if (at < 0) return null;
  const signed = (value: number) => (value >= squarePx / 2 ? value - squarePx : value);
  const [dx, dy] = [signed(at % squarePx), signed(Math.floor(at / squarePx))];
  const rotated = onto({ scale, turn, shift: { x: 0, y: 0 } }, { x: then.width / 2, y: then.height / 2 });
  return {
    similarity: { scale, turn, shift: { x: about.x + dx - rotated.x, y: about.y + dy - rotated.y } },
    alike: best
  };
}

/** A picture turned and sized about its middle, in a patch that just holds it, and which samples of it are known. */
function turnedAbout(then: Patch, scale: number, turn: number) {
  const [cos, sin] = [Math.abs(Math.cos(turn)), Math.abs(Math.sin(turn))];
  const width = Math.min(squarePx, Math.ceil(scale * (then.width * cos + then.height * sin)));
  const height = Math.min(squarePx, Math.ceil(scale * (then.width * sin + then.height * cos)));
  const about = { x: width / 2, y: height / 2 };
  const covered = new Uint8Array(width * height);
  if (width < 8 || height < 8) return { patch: null, covered, about };
  const data = new Float32Array(width * height);
  const back = inverse({ scale, turn, shift: { x: 0, y: 0 } });
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = onto(back, { x: x + 0.5 - about.x, y: y + 0.5 - about.y });
      const [u, v] = [from.x + then.width / 2, from.y + then.height / 2];
      data[y * width + x] = valueAt(then, u, v);
      covered[y * width + x] = u > 1 && v > 1 && u < then.width - 1 && v < then.height - 1 ? 1 : 0;
    }
  const size = { width, height };
  return { patch: { picture: size, left: 0, top: 0, ...size, data }, covered, about };
}

/** How alike two fields are where the second lies on the first: from -1 to 1, weighted by how much overlaps. */
export function alikeOver(now: EdgeField, then: EdgeField, lying: Similarity): number {
  const back = inverse(lying);
  const [cos2, sin2] = [Math.cos(2 * lying.turn), Math.sin(2 * lying.turn)];
  const origin = onto(back, { x: 0.5, y: 0.5 });
  const stepX = back.scale * Math.cos(back.turn);
  const stepY = back.scale * Math.sin(back.turn);
  const { width } = then;
  let [sum, mine, other, overlap] = [0, 0, 0, 0];
  for (let y = 1; y < now.height - 1; y++) {
    let u = origin.x - 0.5 - y * stepY;
    let v = origin.y - 0.5 + y * stepX;
    for (let x = 1; x < now.width - 1; x++) {
      u += stepX;
      v += stepY;
      if (!(u >= 1 && v >= 1 && u < width - 2 && v < then.height - 2)) continue;
      overlap++;
      const [iu, iv] = [u | 0, v | 0];
      const j = iv * width + iu;
      const [p, q] = [u - iu, v - iv];
      const [w0, w1, w2, w3] = [(1 - q) * (1 - p), (1 - q) * p, q * (1 - p), q * p];
      const { re, im } = then;
      const a = w0 * re[j] + w1 * re[j + 1] + w2 * re[j + width] + w3 * re[j + width + 1];
      const b = w0 * im[j] + w1 * im[j + 1] + w2 * im[j + width] + w3 * im[j + width + 1];
      const i = y * now.width + x;
      const [c, d] = [now.re[i], now.im[i]];
      sum += c * (a * cos2 - b * sin2) + d * (a * sin2 + b * cos2);
      mine += c * c + d * d;
      other += a * a + b * b;
    }
  }
  const area = then.width * then.height * lying.scale ** 2;
  if (overlap < leastOverlap * Math.min(area, now.width * now.height) || !(mine * other > 0)) return -1;
  return (sum / Math.sqrt(mine * other)) * (overlap / area) ** 0.25;
}

/** Moves, turns and sizes a little as long as that makes the two more alike. Steps are in pixels of `now`. */
export function settled(
  now: EdgeField,
  then: EdgeField,
  from: Similarity,
  stepPx: number,
  leastStepPx: number
): Lying {
  const reach = Math.hypot(then.width, then.height) / 2;
  const middle = { x: then.width / 2, y: then.height / 2 };
  let best: Lying = { similarity: from, alike: alikeOver(now, then, from) };
  for (let step = stepPx; step >= leastStepPx; step /= 2) {
    for (let rounds = 0, better = true; better && rounds < 6; rounds++) {
      better = false;
      const turnStep = step / (reach * best.similarity.scale);
      const sizeStep = step / reach / best.similarity.scale;
      for (const [dx, dy, dt, ds] of [
        [step, 0, 0, 0],
        [-step, 0, 0, 0],
        [0, step, 0, 0],
        [0, -step, 0, 0],
        [0, 0, turnStep, 0],
        [0, 0, -turnStep, 0],
        [0, 0, 0, sizeStep],
        [0, 0, 0, -sizeStep]
      ]) {
        const tried = nudged(best.similarity, middle, { dx, dy, dt, ds });
        const alike = alikeOver(now, then, tried);
        if (alike > best.alike) {
          best = { similarity: tried, alike };
          better = true;
        }
      }
    }
  }
  return best;
}

/** Turned and sized about where the middle of the picture lies, then shifted. */
function nudged(
  from: Similarity,
  middle: { x: number; y: number },
  by: { dx: number; dy: number; dt: number; ds: number }
): Similarity {
  const at = onto(from, middle);
  const changed = { scale: from.scale * (1 + by.ds), turn: from.turn + by.dt, shift: { x: 0, y: 0 } };
  const now = onto(changed, middle);
  return { ...changed, shift: { x: at.x + by.dx - now.x, y: at.y + by.dy - now.y } };
}
