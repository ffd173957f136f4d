import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type AnswerForm, anyAnswer, byAnyChain } from './chain';
import { roundPictures } from './roundPicture';
import { focalSpread, gaussianSpread } from './spread';

const forms: AnswerForm[] = ['linear', 'power', 'logarithmic', 'sigmoid', 'film', 'mixed'];

it.each(forms)('an answer that is %s never falls as more rays arrive', (form) => {
  for (let seed = 0; seed < 20; seed++) {
    const { of } = anyAnswer(seededRandom(seed), form);
    let last = of(1e-6);
    for (let rays = 0.002; rays <= 1; rays += 0.002) {
      expect(of(rays), `${form} ${seed} at ${rays}`).toBeGreaterThanOrEqual(last - 1e-9);
      last = of(rays);
    }
    expect(last).toBeGreaterThan(of(0.01));
  }
});

describe.each([
  ['a Gaussian', gaussianSpread],
  ['a focal spot', focalSpread]
] as const)('spread by %s', (_, spread) => {
  it.each([0.4, 1.3, 3.2])('keeps what there is and lays it out over %f px', (sdPx) => {
    const side = 61;
    const data = new Float32Array(side * side);
    data[30 * side + 30] = 1;
    spread(data, side, side, sdPx);
    let sum = 0;
    let across = 0;
    let down = 0;
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++) {
        const value = data[y * side + x];
        sum += value;
        across += value * (x - 30) ** 2;
        down += value * (y - 30) ** 2;
      }
    expect(sum).toBeCloseTo(1, 5);
    // Whole pixels and the dip in a focal spot's middle make a narrow spread wider by a part of a pixel.
    expect(across).toBeGreaterThan(0.45 * sdPx * sdPx);
    expect(across).toBeLessThan(0.3 + 1.15 * sdPx * sdPx);
    expect(down).toBeCloseTo(across, 5);
  });
});

it('a chain leaves more where less arrives, bright or dark as it says, in whole numbers', () => {
  for (let seed = 0; seed < 12; seed++) {
    const side = 40;
    const rays = Float32Array.from({ length: side * side }, (_, i) => (i % side < side / 2 ? 0.9 : 0.1));
    const { data, denseBright } = byAnyChain({ width: side, height: side, rays }, seededRandom(seed));
    const mean = (from: number) => {
      let sum = 0;
      for (let y = 0; y < side; y++) for (let x = from; x < from + 10; x++) sum += data[y * side + x];
      return sum;
    };
    expect(Math.sign(mean(25) - mean(5)), `seed ${seed}`).toBe(denseBright ? 1 : -1);
    expect(data.every((value) => Number.isInteger(value) && value >= 0 && value < 65_536)).toBe(true);
  }
});

it.each(['ball', 'disc'] as const)('a %s stands out of its ground, where and as large as is said', (kind) => {
  let seen = 0;
  for (let seed = 0; seed < 12; seed++) {
    const [picture] = roundPictures(kind, 1, seededRandom(seed));
    const { width, height, data, center, sizePx, denseBright } = picture;
    const ring = (from: number, to: number) => {
      const values: number[] = [];
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const r = (2 * Math.hypot(x + 0.5 - center.x, y + 0.5 - center.y)) / sizePx;
          if (r >= from && r < to) values.push(data[y * width + x]);
        }
      return values.sort((a, b) => a - b)[values.length >> 1];
    };
    if (Math.sign(ring(0, 0.5) - ring(1.3, 1.6)) === (denseBright ? 1 : -1)) seen++;
  }
  // The thinnest metal behind the poorest noise can't be told from its ground.
  expect(seen).toBeGreaterThanOrEqual(11);
});

it('one drawing by several chains is one thing of one size in pictures that differ', () => {
  const pictures = roundPictures('ball', 3, seededRandom(4));
  expect(new Set(pictures.map(({ sizePx }) => sizePx)).size).toBe(1);
  expect(pictures[0].data).not.toEqual(pictures[1].data);
  expect(roundPictures('ball', 3, seededRandom(4))[2].data).toEqual(pictures[2].data);
});
