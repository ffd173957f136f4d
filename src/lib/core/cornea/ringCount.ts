import { medianOf } from '../measurement/fit/linear';
import { meridians } from './ringEdges';

/** How far meridians count as beside one another, on each side. */
const besideMeridians = 8;

/**
 * An edge is another thing's when it lies off what the meridians beside it found by a fifth of the spacing more or less
 * than they lie off.
 */
export function agreedWithNeighbours(found: Float64Array, expected: Float64Array, last: Float64Array): void {
  const offs = found.map((r, m) => (r - expected[m]) / (expected[m] - last[m]));
  for (let m = 0; m < meridians; m++) {
    if (Number.isNaN(found[m])) continue;
    const near: number[] = [];
    for (let d = -besideMeridians; d <= besideMeridians; d++) {
      const off = offs[(m + d + meridians) % meridians];
      if (d !== 0 && !Number.isNaN(off)) near.push(off);
    }
    if (near.length >= 4 && Math.abs(offs[m] - medianOf(near)) > 0.22) found[m] = NaN;
  }
}

/** A ring runs on from meridian to meridian; where it leaps by this share of the spacing, one side is on another ring. */
const leapShare = 0.7;

/**
 * Takes out what has lost count behind a lash or a break in the tear film: going round, the ring leaps there by whole
 * spacings, and where it is not on the ring that most meridians are on, it is another's.
 * @returns which meridians were taken out
 */
export function miscountedOut(found: Float64Array, spacing: number): Uint8Array {
  const out = new Uint8Array(meridians);
  const at = Array.from(found.keys()).filter((m) => !Number.isNaN(found[m]));
  const afterGap = at.findIndex((m, i) => i > 0 && m - at[i - 1] > bridgedMeridians);
  const round = afterGap < 0 ? at : [...at.slice(afterGap), ...at.slice(0, afterGap)];
  const settle = (stretch: readonly number[], levels: readonly number[]) => {
    const counts = new Map<number, number>();
    for (const level of levels) counts.set(level, (counts.get(level) ?? 0) + 1);
    const commonest = [...counts].reduce((most, each) => (each[1] > most[1] ? each : most))[0];
    stretch.forEach((m, i) => {
      if (levels[i] !== commonest) out[m] = 1;
    });
  };
  let [stretch, levels]: [number[], number[]] = [[], []];
  for (const m of round) {
    const before = stretch.at(-1);
    // Over a wide gap nothing can be said: each side is settled on its own.
    if (before !== undefined && (m - before + meridians) % meridians > bridgedMeridians) {
      settle(stretch, levels);
      [stretch, levels] = [[], []];
    }
    const leap = stretch.length > 0 ? (found[m] - found[stretch.at(-1)!]) / spacing : 0;
    levels.push((levels.at(-1) ?? 0) + (Math.abs(leap) < leapShare ? 0 : Math.round(leap)));
    stretch.push(m);
  }
  if (stretch.length > 0) settle(stretch, levels);
  out.forEach((lost, m) => {
    if (lost) found[m] = NaN;
  });
  return out;
}

/** Gaps so narrow are bridged straight from one side to the other; those of meridians that lost count, up to these. */
const bridgedMeridians = 12;
const bridgedWhereLost = 64;

/**
 * Gaps filled: narrow ones, and those of meridians that lost count, from what was found on both their sides, so that
 * they take up the count again; others from the expectation, shifted by how far the nearest found ones lie off theirs.
 */
export function filled(
  found: Float64Array,
  expected: Float64Array | null,
  grow: number,
  lost?: Uint8Array
): Float64Array {
  const out = found.slice();
  for (let m = 0; m < meridians; m++) {
    if (!Number.isNaN(found[m])) continue;
    const [back, ahead] = [toNext(found, m, -1), toNext(found, m, 1)];
    const nearest = Math.min(back, ahead);
    const expectedRadius = expected ? expected[m] * grow : 0;
    if (nearest === Infinity) {
      out[m] = expectedRadius;
      continue;
    }
    const [before, after] = [(m - back + meridians) % meridians, (m + ahead) % meridians];
    if (back + ahead <= (lost?.[m] ? bridgedWhereLost : bridgedMeridians)) {
      out[m] = (found[before] * ahead + found[after] * back) / (back + ahead);
      continue;
    }
    const near = [before, after].filter((_, i) => [back, ahead][i] === nearest);
    const shift =
      near.reduce((sum, i) => sum + (found[i] - (expected ? expected[i] * grow : 0)), 0) / near.length;
    out[m] = expectedRadius + shift * (expected ? Math.exp(-nearest / 24) : 1);
  }
  return out;
}

/** Meridians from m to the next that was found, on one side; Infinity where none is within half a turn. */
function toNext(found: Float64Array, m: number, side: 1 | -1): number {
  for (let d = 1; d <= meridians / 2; d++)
    if (!Number.isNaN(found[(m + side * d + meridians) % meridians])) return d;
  return Infinity;
}
