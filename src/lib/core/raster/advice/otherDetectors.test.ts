import { describe, expect, it } from 'vitest';
import type { Transfer } from '../../phantom/foreign/imaging';
import { type TakeFault, takeOfAnyMake } from '../../phantom/foreign/takeFaults';
import { markerPicture } from '../../phantom/foreign/markerPicture';
import { coarseTake } from '../../phantom/scenes/toothTakes';
import { mouth } from '../../phantom/teeth/dentition';
import { ordinaryMouth } from '../../phantom/teeth/ordinaryMouth';
import { seededRandom } from '../../random';
import { fullMouth } from '../../tray/shipped/fullMouth';
import { patchOfRaster } from '../patch';
import type { Raster } from '../raster';
import { adviceOn } from './advice';
import { asShown, exposureOf } from './exposure';
import { anyExposure, intraoralNorm } from './levels';

const transfers: Transfer[] = ['linear', 'logarithmic', 'curved', 'root'];
const views = [0].map((i) => coarseTake(mouth(ordinaryMouth(1 + (i % 3))), fullMouth.pattern.slots[i]));
const saidOf = (raster: Raster) => adviceOn(raster, { norm: intraoralNorm }).map(({ kind }) => kind);

/** Share of takes, over all transfers and views, of which exactly this is said among others. */
function named(fault: TakeFault, kind: string | null): number {
  let right = 0;
  let of = 0;
  for (const [t, transfer] of transfers.entries())
    for (const [i, view] of views.entries()) {
      const said = saidOf(takeOfAnyMake(view, transfer, fault, seededRandom(900 + 10 * t + i)));
      if (kind === null ? said.length === 0 : said.some((each) => each === kind)) right++;
      of++;
    }
  return right / of;
}

describe('advice on takes of detectors of other makes', () => {
  it('blames no good ones', () => expect(named('none', null)).toBeGreaterThanOrEqual(0.8));
  it.each([
    ['nothing exposed', 1],
    ['moved', 0.9],
    ['edge cut off', 0.9],
    ['over-exposed', 0.75],
    ['under-exposed', 0.5]
  ] as const)('names what is %s', (kind, least) => expect(named(kind, kind)).toBeGreaterThanOrEqual(least));

  it('says the same of a picture whose file names more bits than it uses', () => {
    const raster = takeOfAnyMake(views[0], 'logarithmic', 'none', seededRandom(5));
    const wide = { ...raster, bitsStored: 16, data: Uint16Array.from(raster.data) };
    expect(saidOf(wide)).toEqual(saidOf(raster));
    expect(asShown(wide).bitsStored).toBe(asShown(raster).bitsStored);
  });
});

describe('advice on pictures of limbs with metal', () => {
  const limb = (k: number, denseBright: boolean) =>
    markerPicture(
      {
        transfer: transfers[k % 4],
        marker: (['none', 'ball', 'ruler'] as const)[k % 3],
        neighbours: k % 4,
        width: 420,
        height: 460,
        imaging: { denseBright, counts: 9000 }
      },
      seededRandom(8600 + k)
    ).raster;

  it('blames hardly any, whether dense parts are stored light or dark', () => {
    for (const denseBright of [true, false]) {
      const said = Array.from({ length: 5 }, (_, k) =>
        adviceOn(limb(k, denseBright), { norm: anyExposure, denseBright })
      );
      expect(said.filter((each) => each.length > 0).length, `bright: ${denseBright}`).toBeLessThanOrEqual(1);
    }
  });
});

it('the span from thin to dense is the same whatever is done to the greys after', () => {
  const spanOf = (transfer: Transfer) => {
    const raster = takeOfAnyMake(views[0], transfer, 'none', {
      uniform: () => 0.5,
      normal: seededRandom(100).normal
    });
    return exposureOf(asShown(raster), patchOfRaster(raster)).span!;
  };
  const spans = transfers.map((transfer) => spanOf(transfer));
  for (const span of spans) expect(Math.abs(span / spans[0] - 1)).toBeLessThan(0.12);
});
