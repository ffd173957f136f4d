import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { coarseSensor, coarseTake } from '../../phantom/scenes/toothTakes';
import { mouth } from '../../phantom/teeth/dentition';
import { ordinaryMouth } from '../../phantom/teeth/ordinaryMouth';
import { exposed } from '../../phantom/xray/detector';
import type { Faults } from '../../phantom/xray/faults';
import { fullMouth } from '../../tray/shipped/fullMouth';
import { patchOf, patchOfRaster } from '../patch';
import type { Raster } from '../raster';
import { regionStatistics } from '../region';
import { turnRaster } from '../turnRaster';
import { adviceOn } from './advice';
import type { Advice } from './adviceKind';
import { likenessOf } from './alike';
import { transformSquare } from '../fourier';
import { intraoralNorm, levelsOf } from './levels';

const views = [0, 7, 12].map((i) =>
  coarseTake(mouth(ordinaryMouth(1 + (i % 3))), fullMouth.pattern.slots[i])
);
const take = (view: (typeof views)[number], seed: number, faults: Faults = {}): Raster =>
  exposed(view.map.slice(), view.width, view.height, coarseSensor, seededRandom(seed), faults);
const advised = (raster: Raster): Advice[] => adviceOn(raster, { norm: intraoralNorm });
const random = seededRandom(41);
const any = (low: number, high: number) => low + (high - low) * random.uniform();

/** How often a fault is named over all views, several times each. */
function named(
  kind: Advice['kind'],
  faults: (view: (typeof views)[number]) => Faults,
  rounds: number
): number {
  let hits = 0;
  for (let round = 0; round < rounds; round++)
    for (const [i, view] of views.entries())
      if (advised(take(view, 100 * round + i, faults(view))).some((each) => each.kind === kind)) hits++;
  return hits / (rounds * views.length);
}

describe('advice on a take', () => {
  it('says nothing of good ones', () => {
    let quiet = 0;
    const rounds = 1;
    for (let round = 0; round < rounds; round++)
      for (const [i, view] of views.entries())
        if (advised(take(view, 1000 + 100 * round + i, { dose: any(0.8, 1.1) })).length === 0) quiet++;
    expect(quiet / (rounds * views.length)).toBeGreaterThan(0.96);
  });
  it('names exposures that are too low, too high, or none', () => {
    expect(named('under-exposed', () => ({ dose: any(0.2, 0.45) }), 1)).toBeGreaterThanOrEqual(0.95);
    expect(named('over-exposed', () => ({ dose: any(2, 6) }), 1)).toBeGreaterThanOrEqual(0.95);
    expect(named('nothing exposed', () => ({ dose: 0 }), 1)).toBe(1);
  });
  it('names a range that was too small, and lines that are missing', () => {
    expect(named('clipped', () => ({ clipAt: any(0.28, 0.38) }), 1)).toBeGreaterThanOrEqual(0.94);
    expect(named('lines missing', () => ({ droppedRows: 12 }), 1)).toBe(1);
  });
  it('names a beam that missed part of the sensor, and where', () => {
    let hits = 0;
    let right = 0;
    const rounds = 1;
    for (let round = 0; round < rounds; round++)
      for (const [i, view] of views.entries()) {
        const { width, height } = view;
        const a = any(0, 2 * Math.PI);
        const round_ = (i + round) % 2 === 0;
        const cutOff: Faults['cutOff'] = round_
          ? {
              kind: 'round',
              center: { x: width * (0.5 + 0.45 * Math.cos(a)), y: height * (0.5 + 0.45 * Math.sin(a)) },
              radiusPx: height * any(0.5, 0.65)
            }
          : {
              kind: 'straight',
              through: { x: width * (0.5 + 0.28 * Math.cos(a)), y: height * (0.5 + 0.28 * Math.sin(a)) },
              towardsDeg: (a * 180) / Math.PI
            };
        const found = advised(take(view, i, { cutOff })).find(({ kind }) => kind === 'edge cut off');
        if (!found) continue;
        hits++;
        // What lies inside the polygon is what the beam missed, told by the beam's own geometry.
        const missed = new Float32Array(width * height);
        let count = 0;
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) {
            const out = round_
              ? Math.hypot(
                  x + 0.5 - width * (0.5 + 0.45 * Math.cos(a)),
                  y + 0.5 - height * (0.5 + 0.45 * Math.sin(a))
                ) > (cutOff as { radiusPx: number }).radiusPx
              : (x + 0.5 - width * (0.5 + 0.28 * Math.cos(a))) * Math.cos(a) +
                  (y + 0.5 - height * (0.5 + 0.28 * Math.sin(a))) * Math.sin(a) >
                0;
            if (!out) continue;
            missed[y * width + x] = 1;
            count++;
          }
        const inside = regionStatistics(patchOf(missed, { width, height }), {
          kind: 'polygon',
          points: found.where!
        })!;
        const both = inside.mean * inside.pixels;
        if (both / (inside.pixels + count - both) > 0.8) right++;
      }
    expect(hits / (rounds * views.length)).toBeGreaterThanOrEqual(0.9);
    expect(right / hits).toBeGreaterThan(0.85);
  });
  it('names motion, with its size and direction', () => {
    let hits = 0;
    let right = 0;
    const rounds = 1;
    for (let round = 0; round < rounds; round++)
      for (const [i, view] of views.entries()) {
        // Of 0.8 millimetres and more: shorter smears are named less often.
        const motion = { lengthPx: any(20, 36), directionDeg: any(0, 180) };
        const found = advised(take(view, 10 * round + i, { motion })).find(({ kind }) => kind === 'moved');
        if (!found) continue;
        hits++;
        const turned = Math.abs(((found.motion!.directionDeg - motion.directionDeg + 270) % 180) - 90);
        if (Math.abs(found.motion!.lengthPx - motion.lengthPx) < 0.2 * motion.lengthPx && turned < 10)
          right++;
      }
    expect(hits / (rounds * views.length)).toBeGreaterThanOrEqual(0.95);
    expect(right / hits).toBeGreaterThanOrEqual(0.95);
  });
});

describe('against an earlier take of the same slot', () => {
  const norm = intraoralNorm;
  it('the same picture again is told from a second exposure', () => {
    const earlier = take(views[0], 1);
    expect(adviceOn(earlier, { norm, earlier }).map(({ kind }) => kind)).toEqual(['same again']);
    // A second exposure is never aimed quite alike: some pixels further on.
    const { width, height, data } = take(views[0], 2);
    const moved = data.slice();
    for (let y = 0; y < height - 9; y++)
      moved.set(data.subarray((y + 9) * width, (y + 10) * width - 7), y * width + 7);
    expect(adviceOn({ ...earlier, data: moved }, { norm, earlier })).toEqual([]);
  });
  it('one turned or mirrored is named, and how to turn it back', () => {
    let right = 0;
    const wrong = [
      { quarterTurns: 2, mirrored: false },
      { quarterTurns: 0, mirrored: true },
      { quarterTurns: 2, mirrored: true }
    ] as const;
    for (const [i, view] of views.slice(0, 2).entries()) {
      const earlier = take(view, i);
      const upright = take(view, i + 50);
      for (const turn of wrong) {
        const later = turnRaster(upright, turn);
        const found = adviceOn(later, { norm, earlier }).find(({ kind }) => kind === 'turned');
        if (
          found &&
          likenessOf(patchOfRaster(earlier), patchOfRaster(turnRaster(later, found.turn!)))!.asItIs > 0.9
        )
          right++;
      }
    }
    expect(right / (2 * wrong.length)).toBeGreaterThan(0.8);
  });
  it('of one grey nothing is told', () => {
    const flat = patchOf(new Uint8Array(10_000).fill(40), { width: 100, height: 100 });
    expect(likenessOf(flat, flat)).toBeNull();
  });
});

describe('the greys of a take', () => {
  it('are not counted of colours', () => {
    const colour: Raster = {
      width: 1,
      height: 1,
      channels: 3,
      bitsStored: 8,
      offset: 0,
      data: new Uint8Array(3)
    };
    expect(() => levelsOf(colour)).toThrow('grey pictures only');
  });
});

it('the transform of a wave is its frequency, down as well as across', () => {
  const side = 64;
  const wave = (i: number) => Math.cos((2 * Math.PI * (5 * (i % side) + 3 * Math.floor(i / side))) / side);
  const re = Float64Array.from({ length: side * side }, (_, i) => wave(i));
  const im = new Float64Array(side * side);
  transformSquare(re, im, side);
  const strong = [...re.keys()].filter((i) => Math.hypot(re[i], im[i]) > 1e-9);
  expect(strong).toEqual([3 * side + 5, 61 * side + 59]);
  for (const i of strong) expect(re[i]).toBeCloseTo((side * side) / 2, 8);
});
