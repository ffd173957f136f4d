import { placedAt, toEye, toRoom } from './pose';
import type { TakeToJoin } from './join';
import type { Pose } from './pose';
import { arrivesAt } from './reflection';
import { SurfaceReader } from './surface';
import type { RingTarget } from './target';

/** Places are so far apart each way. */
export const stepMm = 0.125;
/** Edges closer together than twice this leave no gap between them. */
const nearCells = 3;

/** Which places of the cornea have ring edges near them, on a square grid out to the limbus. */
export interface Coverage {
  radiusMm: number;
  /** Share of the disc. */
  share: number;
  covered: Uint8Array;
  /** Places a side; place (0, 0) is at -radiusMm in both directions. */
  side: number;
}

const sideOf = (radiusMm: number) => 2 * Math.ceil(radiusMm / stepMm) + 1;
const placeMm = (i: number, side: number) => (i - (side - 1) / 2) * stepMm;

/** The disc's places, row by row. */
export function* places(radiusMm: number, every = 1): Generator<{ at: number; x: number; y: number }> {
  const side = sideOf(radiusMm);
  for (let j = 0; j < side; j += every)
    for (let i = 0; i < side; i += every) {
      const [x, y] = [placeMm(i, side), placeMm(j, side)];
      if (Math.hypot(x, y) <= radiusMm) yield { at: j * side + i, x, y };
    }
}

/**
 * What takes cover of a cornea out to the limbus, in the eye's own axes: places at edges that were used and between
 * them, where they are no more than three quarters of a millimetre apart; nothing beyond the outermost.
 */
export function coverageOf(takes: readonly TakeToJoin[], poses: readonly Pose[], radiusMm: number): Coverage {
  const side = sideOf(radiusMm);
  // Marked with room around, so that what lies just outside the disc closes gaps inside it.
  const wide = side + 4 * nearCells;
  const marked = new Uint8Array(wide * wide);
  takes.forEach(({ fit }, t) => {
    const placed = placedAt(poses[t]);
    const reader = new SurfaceReader(fit.surface);
    for (const { x, y, used } of fit.edges) {
      if (!used) continue;
      const [ex, ey] = toEye(placed, x, y, reader.at(x, y).z, 1);
      const [i, j] = [Math.round(ex / stepMm) + (wide - 1) / 2, Math.round(ey / stepMm) + (wide - 1) / 2];
      if (i >= 0 && j >= 0 && i < wide && j < wide) marked[j * wide + i] = 1;
    }
  });
  const closed = grown(grown(marked, wide, 1), wide, 0);
  const covered = new Uint8Array(side * side);
  const rim = 2 * nearCells;
  for (let j = 0; j < side; j++)
    for (let i = 0; i < side; i++) covered[j * side + i] = closed[(j + rim) * wide + i + rim];
  return counted(covered, side, radiusMm);
}

/** Every place within reach of one with this value takes the value as well. */
function grown(mask: Uint8Array, side: number, value: 0 | 1): Uint8Array {
  const out = mask.slice();
  for (let j = 0; j < side; j++)
    for (let i = 0; i < side; i++) {
      if (mask[j * side + i] !== value) continue;
      for (let b = Math.max(0, j - nearCells); b <= Math.min(side - 1, j + nearCells); b++)
        for (let a = Math.max(0, i - nearCells); a <= Math.min(side - 1, i + nearCells); a++)
          if ((a - i) ** 2 + (b - j) ** 2 <= nearCells * nearCells) out[b * side + a] = value;
    }
  return out;
}

/** Whether a place is covered; beyond the disc that was asked for nothing is. */
export function covers({ covered, side }: Coverage, x: number, y: number): boolean {
  const i = Math.round(x / stepMm) + (side - 1) / 2;
  const j = Math.round(y / stepMm) + (side - 1) / 2;
  return i >= 0 && j >= 0 && i < side && j < side && covered[j * side + i] === 1;
}

function counted(covered: Uint8Array, side: number, radiusMm: number): Coverage {
  let [all, have] = [0, 0];
  for (const { at } of places(radiusMm)) {
    all++;
    have += covered[at];
  }
  return { radiusMm, share: have / all, covered, side };
}

/**
 * What a gaze would show, of every second place each way: places of the surface from which the target is mirrored into
 * the camera, by the law of reflection, and that no lid hides. @param lids edges above and below in the room, mm from the axis
 */
export function wouldCover(
  reader: SurfaceReader,
  pose: Pose,
  target: RingTarget,
  radiusMm: number,
  lids: { aboveMm: number; belowMm: number }
): Uint8Array {
  const side = sideOf(radiusMm);
  const out = new Uint8Array(side * side);
  const placed = placedAt(pose);
  const first = target.edges[0];
  const last = target.edges[target.edges.length - 1];
  for (const { at, x, y } of places(radiusMm, coarsely)) {
    const { z, zx, zy } = reader.at(x, y);
    const [px, py, pz] = toRoom(placed, x, y, z, 1);
    if (py < -lids.aboveMm || py > lids.belowMm) continue;
    const [nx, ny, nz] = toRoom(placed, zx, zy, -1, 0);
    const inner = arrivesAt(target.cameraMm, first.depthMm, px, py, pz, nx, ny, nz);
    const outer = arrivesAt(target.cameraMm, last.depthMm, px, py, pz, nx, ny, nz);
    if (Number.isNaN(outer) || outer > last.radiusMm || inner < first.radiusMm * 0.2) continue;
    out[at] = 1;
  }
  return out;
}

/** Where the lids' edges stand when they are held open, mm from the axis. */
export const heldLids = { aboveMm: 5, belowMm: 5.4 };

export interface AdvisedGaze {
  rightDeg: number;
  upDeg: number;
  /** Share of the cornea that it would add. */
  adds: number;
}

/** Gazes are tried on every second place each way. */
const coarsely = 2;
const mostTurnDeg = 24;
const turnStepDeg = 3;

/**
 * The gaze that would add most to what is covered, of all directions up to 24 degrees in steps of 3: computed on the
 * joined surface, not looked up. Null when none would add half a hundredth.
 */
export function advisedGaze(
  reader: SurfaceReader,
  have: Coverage,
  standing: Pose,
  target: RingTarget,
  lids: { aboveMm: number; belowMm: number }
): AdvisedGaze | null {
  let best: AdvisedGaze | null = null;
  const all = [...places(have.radiusMm, coarsely)].length;
  for (let up = -mostTurnDeg; up <= mostTurnDeg; up += turnStepDeg)
    for (let right = -mostTurnDeg; right <= mostTurnDeg; right += turnStepDeg) {
      if (Math.hypot(up, right) > mostTurnDeg) continue;
      const pose = { ...standing, right: (right * Math.PI) / 180, up: (up * Math.PI) / 180 };
      const seen = wouldCover(reader, pose, target, have.radiusMm, lids);
      let added = 0;
      for (let i = 0; i < seen.length; i++) if (seen[i] && !have.covered[i]) added++;
      if (added / all > (best?.adds ?? 0.005)) best = { rightDeg: right, upDeg: up, adds: added / all };
    }
  return best;
}
