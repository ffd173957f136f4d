import { describe, expect, it } from 'vitest';
import { fineTake } from '../../phantom/scenes/toothTakes';
import { mouth } from '../../phantom/teeth/dentition';
import { ordinaryMouth } from '../../phantom/teeth/ordinaryMouth';
import { exposed, intraoralSensor } from '../../phantom/xray/detector';
import type { Faults } from '../../phantom/xray/faults';
import { fullMouth } from '../../tray/shipped/fullMouth';
import { seededRandom } from '../../random';
import { gaussian } from '../filters/gaussian';
import { valueAt } from '../geometry/sampling';
import { markerPicture } from '../../phantom/foreign/markerPicture';
import { type Patch, patchOf, patchOfRaster } from '../patch';
import { motionOf } from './motion';
import { likestSmear } from './smear';
import { byFrequency, side, spectrumOf } from './spectrum';

const size = { width: 420, height: 400 };

/** Spots of many sizes, as tissue has them. */
function tissue(seed: number): Patch {
  const random = seededRandom(seed);
  const sum = new Float32Array(size.width * size.height);
  for (const sd of [0.7, 1.5, 3, 6, 12]) {
    const noise = patchOf(
      Float32Array.from(sum, () => 400 * random.normal()),
      size
    );
    gaussian(noise, sd).data.forEach((value, i) => (sum[i] += value * sd));
  }
  return patchOf(sum, size);
}

/** Each pixel the mean of a stretch about it, and the detector's noise on top. */
function smeared(patch: Patch, lengthPx: number, directionDeg: number, seed: number): Patch {
  const random = seededRandom(seed);
  const [c, s] = [Math.cos((directionDeg * Math.PI) / 180), Math.sin((directionDeg * Math.PI) / 180)];
  const steps = Math.max(1, Math.round(lengthPx * 2));
  const out = patch.data.map((_, i) => {
    const [x, y] = [(i % size.width) + 0.5, Math.floor(i / size.width) + 0.5];
    let sum = 0;
    for (let k = 0; k < steps; k++) {
      const away = ((k + 0.5) / steps - 0.5) * lengthPx;
      sum += valueAt(patch, x + away * c, y + away * s);
    }
    return sum / steps + 12 * random.normal();
  });
  return patchOf(out, size);
}

const apartDeg = (a: number, b: number) => Math.abs(((a - b + 270) % 180) - 90);

describe('a smear', () => {
  it.each([
    [12, 30],
    [20, 0],
    [27, 135],
    [45, 75]
  ])('of %s pixels at %s degrees is told by both, and clear', (lengthPx, directionDeg) => {
    const patch = smeared(tissue(lengthPx), lengthPx, directionDeg, 1);
    const likest = likestSmear(spectrumOf(patch)!)!;
    expect(Math.abs(likest.lengthPx / lengthPx - 1)).toBeLessThan(0.08);
    expect(apartDeg(likest.directionDeg, directionDeg)).toBeLessThan(4);
    expect(likest.likeness).toBeGreaterThan(0.6);
    const motion = motionOf(patch)!;
    expect(motion.clear).toBeGreaterThan(2.5);
    expect(Math.abs(motion.lengthPx / lengthPx - 1)).toBeLessThan(0.15);
    expect(apartDeg(motion.directionDeg, directionDeg)).toBeLessThan(8);
  });
  it('is not seen in sharp pictures, nor in those out of focus, blurred the same way round', () => {
    for (let seed = 0; seed < 2; seed++) {
      const sharp = smeared(tissue(50 + seed), 0.5, 0, seed);
      expect(motionOf(sharp)!.clear).toBeLessThan(2);
      const blurred = smeared(gaussian(tissue(60 + seed), 4), 0.5, 0, seed);
      expect(motionOf(blurred)?.clear ?? 0).toBeLessThan(2);
    }
  });
});

it('a take in all of a sensor’s pixels is judged as a coarser one is', () => {
  const i = 7;
  const { map, width, height } = fineTake(mouth(ordinaryMouth(20 + i)), fullMouth.pattern.slots[i]);
  const seen = (faults: Faults) =>
    motionOf(
      patchOfRaster(exposed(map.slice(), width, height, intraoralSensor, seededRandom(300 + i), faults))
    );
  expect(seen({})?.clear ?? 0).toBeLessThan(2);
  const moved = seen({ motion: { lengthPx: 45, directionDeg: 70 } })!;
  expect(moved.clear).toBeGreaterThan(2.5);
  expect(Math.abs(moved.lengthPx - 45)).toBeLessThan(8);
});

it('lines that repeat, a ruler’s in a sharp picture, are no smear', () => {
  for (let k = 0; k < 3; k++) {
    const { raster } = markerPicture(
      {
        transfer: (['linear', 'logarithmic', 'curved', 'root'] as const)[k % 4],
        marker: 'ruler',
        sizePx: 11 + 6 * k,
        imaging: { counts: 8000, grid: 0 }
      },
      seededRandom(7200 + k)
    );
    expect(motionOf(patchOfRaster(raster))?.clear ?? 0, `ruler ${k}`).toBeLessThan(2.5);
  }
});

it('nothing is told of pictures smaller than a window, of one grey, or of noise alone', () => {
  const random = seededRandom(5);
  const of = (width: number, height: number, grey: () => number) =>
    patchOf(Float32Array.from({ length: width * height }, grey), { width, height });
  expect(motionOf(of(side - 1, 300, random.normal))).toBeNull();
  expect(motionOf(of(300, 300, () => 7))).toBeNull();
  expect(motionOf(of(300, 300, () => 100 * random.normal()))?.clear ?? 0).toBeLessThan(2);
});

it('the spectrum of noise is level, and of a wave it is where the wave’s frequency is', () => {
  const random = seededRandom(8);
  const noise = Float32Array.from({ length: size.width * size.height }, () => random.normal());
  const level = byFrequency(spectrumOf(patchOf(noise, size))!);
  expect(Math.abs(level[40] - level[100])).toBeLessThan(0.1);
  const wave = noise.map((value, i) => value + 5 * Math.sin((2 * Math.PI * 24 * (i % size.width)) / side));
  const power = spectrumOf(patchOf(wave, size))!;
  expect(power[24] - power[60]).toBeGreaterThan(5);
  expect(power[24 * side]).toBeLessThan(power[24] - 5);
});
