import { describe, expect, it } from 'vitest';
import { takeOfAnyMake } from '../../phantom/foreign/takeFaults';
import { coarseTake } from '../../phantom/scenes/toothTakes';
import { mouth } from '../../phantom/teeth/dentition';
import { ordinaryMouth } from '../../phantom/teeth/ordinaryMouth';
import { seededRandom } from '../../random';
import { slotCrowns } from '../../tray/slotCrowns';
import { fullMouth } from '../../tray/shipped/fullMouth';
import { photographPatterns } from '../../tray/shipped/photographs';
import { type Orientation, upright } from '../orientation';
import type { Raster } from '../raster';
import { inverse, turnRaster } from '../turnRaster';
import { adviceOn } from './advice';
import type { Advice } from './adviceKind';
import { anyExposure } from './levels';

const transfers = ['linear', 'logarithmic', 'curved', 'root'] as const;
const { slots } = fullMouth.pattern;
// Every fourth slot, each in another mouth, by detectors of every make in turn.
const takes = slots
  .filter((_, i) => i % 4 === 0)
  .map((slot, i) => ({
    slot,
    raster: takeOfAnyMake(
      coarseTake(mouth(ordinaryMouth(40 + i)), slot),
      transfers[i % 4],
      'none',
      seededRandom(900 + i)
    )
  }));
const turnedOf = (raster: Raster, slot: (typeof slots)[number], seen: Orientation): Advice | undefined =>
  adviceOn(raster, { norm: anyExposure, crowns: { side: slotCrowns(slot)!, seen } }).find(
    ({ kind }) => kind === 'turned'
  );

describe('crowns that lie where roots should be', () => {
  it('are told of nearly every take that is upside down, and of none that is not', () => {
    let told = 0;
    const jaws = takes.filter(({ slot }) => slotCrowns(slot) !== 'middle');
    for (const { slot, raster } of jaws) {
      expect(turnedOf(raster, slot, upright), slot.name).toBeUndefined();
      const over = turnRaster(raster, { quarterTurns: 2, mirrored: false });
      if (turnedOf(over, slot, upright)?.description.includes('upside down')) told++;
    }
    expect(told).toBeGreaterThanOrEqual(0.9 * jaws.length);
  });

  it('are told of most takes that lie on their side, and of bitewings whose gap does', () => {
    let told = 0;
    for (const [i, { slot, raster }] of takes.entries()) {
      const lying = turnRaster(raster, { quarterTurns: i % 2 ? 1 : 3, mirrored: false });
      if (turnedOf(lying, slot, upright)?.description.includes('quarter')) told++;
    }
    expect(told).toBeGreaterThanOrEqual(0.75 * takes.length);
    for (const { slot, raster } of takes.filter((take) => slotCrowns(take.slot) === 'middle'))
      expect(turnedOf(raster, slot, upright), slot.name).toBeUndefined();
  });

  it('are looked for as the take is seen, not as the detector lay', () => {
    for (const [i, { slot, raster }] of takes.slice(0, 3).entries()) {
      const seen: Orientation = { quarterTurns: ([1, 2, 3] as const)[i % 3], mirrored: i % 2 === 0 };
      expect(turnedOf(turnRaster(raster, inverse(seen)), slot, seen), slot.name).toBeUndefined();
    }
  });

  it('are not guessed where the beam missed them, nor for what has none', () => {
    const { slot, raster } = takes[0];
    const data = raster.data.slice();
    const top = 2 ** raster.bitsStored - 1;
    for (let y = Math.floor(0.72 * raster.height); y < raster.height; y++)
      data.fill(top, y * raster.width, (y + 1) * raster.width);
    expect(turnedOf({ ...raster, data }, slot, upright)).toBeUndefined();
    expect(photographPatterns.flatMap(({ pattern }) => pattern.slots).map(slotCrowns)).not.toContain('up');
    expect(slotCrowns({ ...slot, projection: 'occlusal' })).toBeNull();
    expect(slotCrowns({ ...slot, places: [] })).toBeNull();
  });
});
