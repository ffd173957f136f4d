import { describe, expect, it } from 'vitest';
import { type Transfer, anyImaging, imaged } from '../../phantom/foreign/imaging';
import { coarseTake } from '../../phantom/scenes/toothTakes';
import { mouth } from '../../phantom/teeth/dentition';
import { ordinaryMouth } from '../../phantom/teeth/ordinaryMouth';
import { seededRandom } from '../../random';
import { fullMouth } from '../../tray/shipped/fullMouth';
import { patchOfRaster } from '../patch';
import type { Raster } from '../raster';
import { adviceOn } from './advice';
import { asShown, exposureOf } from './exposure';
import { anyExposure } from './levels';
import { type UsualDose, leastKept, usualDose } from './usualDose';

describe('what is usual', () => {
  it('is the middle of what is kept; less is told where people let more through', () => {
    const even = usualDose([90, 95, 98, 100, 100, 103, 105, 110, 300])!;
    expect(even.span).toBe(100);
    expect(even.leastShare).toBe(0.4);
    // One of them should not have been kept: it changes nothing. Where several are as low, they are usual here.
    expect(usualDose([20, 95, 98, 100, 100, 103, 105, 110, 115])).toEqual(even);
    expect(usualDose([40, 45, 60, 80, 100, 103, 105, 110, 115])!.leastShare).toBeCloseTo(0.85 * 0.45 ** 2, 6);
  });
  it('is not known from few', () => {
    expect(usualDose(Array.from({ length: leastKept - 1 }, () => 100))).toBeNull();
  });
});

describe('takes of one view by detectors of other makes', () => {
  const slot = fullMouth.pattern.slots[7];
  const bodies = Array.from({ length: leastKept + 2 }, (_, i) =>
    coarseTake(mouth(ordinaryMouth(1 + i)), slot)
  );
  const takeBy = (transfer: Transfer, c: number) => {
    const chain = anyImaging(transfer, seededRandom(640 + c), {
      denseBright: true,
      grid: 0,
      counts: 10 ** (3.5 + 0.2 * c)
    });
    return (patient: number, dose: number) => {
      const { map, width, height } = bodies[patient];
      return imaged(map.slice(), width, height, chain, seededRandom(7000 + 100 * c + patient), { dose });
    };
  };
  const spanOf = (raster: Raster) => exposureOf(asShown(raster), patchOfRaster(raster)).span!;
  const said = (raster: Raster, usual: UsualDose | null) =>
    adviceOn(raster, { norm: anyExposure, usual: usual ?? undefined }).filter(
      ({ kind }) => kind === 'under-exposed'
    );

  it('with a fifth of the usual dose are told, also where nothing else tells it; good ones are not', () => {
    let [told, byItself] = [0, 0];
    const take = takeBy('logarithmic', 3);
    const usual = usualDose(Array.from({ length: leastKept }, (_, i) => spanOf(take(i, 0.85 + 0.04 * i))));
    for (const patient of [leastKept, leastKept + 1]) {
      const low = take(patient, 0.2);
      if (said(low, usual).length > 0) told++;
      if (said(low, null).length > 0) byItself++;
      expect(said(take(patient, 1), usual)).toEqual([]);
    }
    expect(told).toBe(2);
    expect(byItself).toBeLessThan(told);
  });

  it('silence nothing by what is usual of them: grainy ones are told, however many such were kept', () => {
    const grainy = takeBy('linear', 0)(0, 0.05);
    const alone = said(grainy, null);
    expect(alone).toHaveLength(1);
    expect(said(grainy, usualDose(new Array<number>(leastKept).fill(spanOf(grainy))))).toEqual(alone);
  });
});
