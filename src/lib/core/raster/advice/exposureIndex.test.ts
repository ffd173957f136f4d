import { describe, expect, it } from 'vitest';
import { markerPicture } from '../../phantom/foreign/markerPicture';
import { seededRandom } from '../../random';
import { adviceOn } from './advice';
import { adviceOfDevice, deviationSaid } from './exposureIndex';
import { anyExposure } from './levels';

describe('what a device says of its dose', () => {
  it('is ten times the decimal logarithm of the index over its target', () => {
    expect(deviationSaid({ index: 800, target: 400 })).toBeCloseTo(3.01, 2);
    expect(deviationSaid({ index: 40, target: 400 })).toBeCloseTo(-10, 9);
    expect(deviationSaid({ deviation: -4.2 })).toBe(-4.2);
    expect(deviationSaid({ index: 800, target: 400, deviation: 3 })).toBe(3);
  });

  it('is nothing where it is missing, can’t be, or contradicts itself', () => {
    for (const said of [
      {},
      { index: 800 },
      { index: 0, target: 400 },
      { index: -3, target: 400 },
      { deviation: Number.NaN },
      { deviation: 99 },
      { index: 800, target: 400, deviation: -3 }
    ])
      expect(deviationSaid(said), JSON.stringify(said)).toBeNull();
  });

  it('is told from twice or half the dose on, with how many times', () => {
    expect(adviceOfDevice({ deviation: 2.9 })).toBeNull();
    expect(adviceOfDevice({ deviation: -2.9 })).toBeNull();
    expect(adviceOfDevice({ deviation: 3 })).toMatchObject({ kind: 'over-exposed' });
    expect(adviceOfDevice({ deviation: 6 })!.description).toContain('4 times the dose');
    expect(adviceOfDevice({ deviation: -10 })).toMatchObject({ kind: 'under-exposed' });
    expect(adviceOfDevice({ deviation: -10 })!.description).toContain('10 times less');
  });
});

describe('advice on a take whose file says something of its dose', () => {
  const taken = (counts: number) =>
    markerPicture(
      {
        transfer: 'logarithmic',
        marker: 'none',
        imaging: { bits: 12, bitsStored: 12, counts, lift: 0, denseBright: true }
      },
      seededRandom(5)
    ).raster;
  const kinds = (counts: number, deviation: number) =>
    adviceOn(taken(counts), { norm: anyExposure, exposureSaid: { deviation } }).map(({ kind }) => kind);

  it('repeats a device that calls it far off, and nothing of one that does not', () => {
    expect(kinds(20_000, 0.4)).toEqual([]);
    expect(kinds(20_000, 5)).toEqual(['over-exposed']);
    expect(kinds(20_000, -5)).toEqual(['under-exposed']);
  });

  it('still tells of grain when the device thinks its dose right', () => {
    expect(kinds(120, 0)).toContain('under-exposed');
    expect(kinds(120, 5)).not.toContain('over-exposed');
  });
});
