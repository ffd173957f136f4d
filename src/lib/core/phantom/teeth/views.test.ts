import { describe, expect, it } from 'vitest';
import type { Tooth } from '../../anatomy/teeth';
import { turnRaster } from '../../raster/turnRaster';
import { fourBitewings } from '../../tray/shipped/fourBitewings';
import { movePoint } from '../space';
import { magnificationAt, projected } from '../xray/view';
import { mouthBody } from './body';
import { type MouthWish, mouth, toothIn } from './dentition';
import { ordinaryMouth } from './ordinaryMouth';
import type { SensorFault } from './faultNames';
import { faultyTake } from './sensorFaults';
import { isLeft, isUpper } from './sizes';
import { sensorHeightPx, sensorWidthPx, takeForSlot, toothRadiograph, toothView } from './views';

const plain: MouthWish = { seed: 4 };
const inMouth = mouth(plain);
const mean = (data: ArrayLike<number>, from: number, to: number) => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += data[i];
  return sum / (to - from);
};

describe('a mouth', () => {
  it('has every tooth on its side and in its arch, roots away from the bite', () => {
    for (const { shape, frame } of inMouth.teeth) {
      const neck = frame.origin;
      const apex = movePoint(frame, shape.landmarks.apex ?? shape.landmarks['apex 1']);
      expect(neck[0] > 0, `${shape.tooth}`).toBe(isLeft(shape.tooth));
      expect(Math.abs(apex[2]), `${shape.tooth}`).toBeGreaterThan(Math.abs(neck[2]));
      expect(apex[2] > 0, `${shape.tooth}`).toBe(isUpper(shape.tooth));
    }
  });
  it('lets neighbours touch and not run into each other', () => {
    for (const tooth of [11, 13, 14, 16, 17, 31, 33, 35, 36, 46] as Tooth[]) {
      const [a, b] = [toothIn(inMouth, tooth)!, toothIn(inMouth, tooth % 10 === 1 ? tooth + 1 : tooth - 1)!];
      const apart = Math.hypot(...a.frame.origin.map((v, i) => v - b.frame.origin[i]));
      const widths = (a.shape.size.width + b.shape.size.width) / 2;
      expect(apart, `${tooth}`).toBeGreaterThan(0.75 * widths);
      expect(apart, `${tooth}`).toBeLessThan(1.25 * widths);
    }
  });
  it('is the same from the same wish, with what is missing left out', () => {
    expect(mouth(ordinaryMouth(8))).toEqual(mouth(ordinaryMouth(8)));
    expect(toothIn(mouth({ seed: 1, missing: [36] }), 36)).toBeUndefined();
  });
});

describe('a view of teeth', () => {
  const wholeTeeth: [Tooth[], 'periapical', boolean][] = [
    [[11, 21], 'periapical', false],
    [[14, 15], 'periapical', true],
    [[26, 27], 'periapical', true],
    [[36, 37], 'periapical', true],
    [[44, 45], 'periapical', true],
    [[31, 41], 'periapical', false]
  ];
  it('shows the wanted teeth from tip to root end', () => {
    for (const [teeth, projection, lying] of wholeTeeth) {
      const view = toothView(inMouth, teeth, projection, lying);
      const { landmarks } = mouthBody(inMouth, teeth);
      for (const [name, point] of Object.entries(landmarks)) {
        if (!/apex|tip|neck/.test(name)) continue;
        const { x, y } = projected(view, point);
        expect(x > 0 && x < view.width && y > 0 && y < view.height, `${name} of ${teeth}: ${x}, ${y}`).toBe(
          true
        );
        expect(magnificationAt(view, point)).toBeLessThan(1.09);
      }
    }
  });
  it('shows both arches in a bitewing, upper above, the patient’s right on the left', () => {
    const view = toothView(inMouth, [14, 15, 44, 45], 'bitewing', true);
    const { landmarks } = mouthBody(inMouth, [14, 15, 44, 45]);
    expect(projected(view, landmarks['14 neck mesial']).y).toBeLessThan(view.height / 2);
    expect(projected(view, landmarks['45 neck mesial']).y).toBeGreaterThan(view.height / 2);
    expect(projected(view, landmarks['15 tip']).x).toBeLessThan(projected(view, landmarks['14 tip']).x);
  });
  it('shows front teeth from above in an occlusal view, the middle of the arch upright', () => {
    for (const teeth of [
      [11, 21],
      [31, 41]
    ] as Tooth[][]) {
      const view = toothView(inMouth, teeth, 'occlusal', false);
      const { landmarks } = mouthBody(inMouth, teeth);
      const [a, b] = teeth.map((tooth) => projected(view, landmarks[`${tooth} tip`]));
      expect(Math.abs(a.y - b.y)).toBeLessThan(60);
      expect(Math.abs((a.x + b.x) / 2 - view.width / 2)).toBeLessThan(60);
      expect(a.y > 0 && a.y < view.height).toBe(true);
    }
  });
  it('lets two views of one tooth agree on the height of each landmark', () => {
    const { landmarks } = mouthBody(inMouth, [46]);
    const heights = [false, true].map((lying) => {
      const view = toothView(inMouth, [45, 46], 'periapical', lying);
      return ['46 apex 1', '46 tip'].map((name) => {
        const { y } = projected(view, landmarks[name]);
        return ((view.height / 2 - y) * view.pitchMm) / magnificationAt(view, landmarks[name]);
      });
    });
    for (const i of [0, 1]) expect(heights[0][i]).toBeCloseTo(heights[1][i], 2);
  });
});

describe('a take for a slot', () => {
  const [slot] = fourBitewings.pattern.slots;
  const take = takeForSlot(inMouth, slot, 5);
  const upright = turnRaster(take, slot.orientation);
  const row = (share: number) => Math.floor(upright.height * share) * upright.width;

  it('comes as the sensor lies, and is upright once the slot’s orientation has turned it', () => {
    expect([take.width, take.height]).toEqual([sensorWidthPx, sensorHeightPx]);
    expect([upright.width, upright.height]).toEqual([sensorHeightPx, sensorWidthPx]);
    const crowns = mean(upright.data, row(0.33), row(0.4));
    expect(crowns).toBeGreaterThan(1.25 * mean(upright.data, row(0.5), row(0.51)));
    expect(mean(upright.data, row(0.6), row(0.68))).toBeGreaterThan(
      1.25 * mean(upright.data, row(0.5), row(0.51))
    );
  });
  it('is the same bytes from the same seed', () => {
    const again = takeForSlot(mouth(plain), slot, 5).data;
    expect(again.length).toBe(take.data.length);
    expect(again.every((value, i) => value === take.data[i])).toBe(true);
  });
  it('shows its faults', () => {
    const faulty = (name: SensorFault) => faultyTake(inMouth, slot, 5, name).data;
    const roughness = (data: ArrayLike<number>) => {
      let sum = 0;
      for (let i = 900_000; i < 1_000_000; i++) sum += (data[i] - data[i - 1]) ** 2;
      return Math.sqrt(sum / 100_000);
    };
    const ordinary = roughness(take.data);
    expect(roughness(faulty('under'))).toBeGreaterThan(1.3 * ordinary);
    expect(roughness(faulty('moved'))).toBeLessThan(ordinary * 1.2);
    expect(mean(faulty('over'), 0, 2_210_000)).toBeLessThan(0.6 * mean(take.data, 0, 2_210_000));
    const cut = faulty('cut off');
    expect(mean(cut, 2_100_000, 2_100_400)).toBeGreaterThan(1.5 * mean(take.data, 2_100_000, 2_100_400));
    const rows = turnRaster(faultyTake(inMouth, slot, 5, 'dropped rows'), slot.orientation).data;
    let black = 0;
    for (let y = 0; y < sensorWidthPx; y++)
      if (mean(rows, y * sensorHeightPx, (y + 1) * sensorHeightPx) === 0) black++;
    expect(black).toBeGreaterThan(15);
    expect([...faulty('turned').slice(0, 50)]).toEqual([...take.data.slice(-50)].reverse());
  });
  it('of a filled tooth is brightest at the filling', () => {
    const filled = mouth({ seed: 4, conditions: { 46: [{ kind: 'filling', at: 'middle' }] } });
    const { raster, known } = toothRadiograph(filled, [46], 'periapical', true, 1);
    const { x, y } = known['46 tip'].imagePoint;
    const at = (dy: number) => raster.data[Math.floor(y + dy) * raster.width + Math.floor(x)];
    expect(at(130)).toBeGreaterThan(60_000);
  });
});
