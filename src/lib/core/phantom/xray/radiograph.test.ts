import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { ball, box, ellipsoid, limb } from '../solid/part';
import type { Vec3 } from '../space';
import { type Detector, counted, exposed, flatPanel, intraoralSensor } from './detector';
import type { Faults } from './faults';
import { type Body, attenuationOf, radiograph } from './radiograph';
import { type ViewWish, magnificationAt, onRay, projected, xrayView } from './view';
import { noiseAt, trabeculae } from './weave';

const wish: ViewWish = {
  through: [0, 0, 0],
  along: [0.2, 1, -0.1],
  up: [0, 0, 1],
  toObjectMm: 400,
  toDetectorMm: 60,
  pitchMm: 0.1,
  width: 400,
  height: 300
};
const view = xrayView(wish);
const quiet: Detector = { ...flatPanel, spreadPx: 0, scatterShare: 0, readNoise: 0, fixedPattern: 0 };

/** Where the shadow of something small and dense stands: the mean of its attenuation, in image pixels. */
function centroid(map: Float32Array, width: number): { x: number; y: number } {
  let [sum, x, y] = [0, 0, 0];
  for (let i = 0; i < map.length; i++) {
    sum += map[i];
    x += map[i] * ((i % width) + 0.5);
    y += map[i] * (Math.floor(i / width) + 0.5);
  }
  return { x: x / sum, y: y / sum };
}

describe('a projection', () => {
  it('images a point where the ray through it meets the detector', () => {
    const random = seededRandom(1);
    for (let i = 0; i < 200; i++) {
      const imagePoint = { x: 400 * random.uniform(), y: 300 * random.uniform() };
      const point = onRay(view, imagePoint, 0.3 + 0.6 * random.uniform());
      const found = projected(view, point);
      expect(Math.hypot(found.x - imagePoint.x, found.y - imagePoint.y)).toBeLessThan(1e-9);
    }
  });
  it('shows the patient’s left on the right and the head on top, seen from the front', () => {
    const front = xrayView({ ...wish, along: [0, 1, 0] });
    expect(projected(front, [5, 0, 0]).x).toBeGreaterThan(projected(front, [-5, 0, 0]).x);
    expect(projected(front, [0, 0, 5]).y).toBeLessThan(projected(front, [0, 0, -5]).y);
  });
  it('magnifies by the distances alone', () => {
    expect(magnificationAt(view, [0, 0, 0])).toBeCloseTo(460 / 400, 9);
    const straight = xrayView({ ...wish, along: [0, 1, 0] });
    const [a, b] = [projected(straight, [-10, 0, 0]), projected(straight, [10, 0, 0])];
    expect((b.x - a.x) * wish.pitchMm).toBeCloseTo((20 * 460) / 400, 9);
  });
  it('is what the rendered picture shows, within a hundredth of a millimetre', () => {
    const random = seededRandom(2);
    for (let i = 0; i < 12; i++) {
      const at: Vec3 = [
        30 * (random.uniform() - 0.5),
        40 * (random.uniform() - 0.5),
        20 * (random.uniform() - 0.5)
      ];
      const body: Body = { layers: [{ parts: [ball(at, 0.6)], perMm: 1, sharp: true }], landmarks: { at } };
      const shadow = centroid(attenuationOf([body], view), view.width);
      const { imagePoint } = radiograph([body], view, quiet, 1).known.at;
      const offMm = Math.hypot(shadow.x - imagePoint.x, shadow.y - imagePoint.y) * view.pitchMm;
      expect(offMm).toBeLessThan(0.01);
    }
  });
  it('of one body from two sides agrees on heights', () => {
    const landmarks: Record<string, Vec3> = { a: [10, -8, 14], b: [-12, 20, -9], c: [3, 3, 0] };
    for (const [name, point] of Object.entries(landmarks)) {
      const heights = [
        [0, 1, 0],
        [1, 0, 0]
      ].map((along) => {
        const from = xrayView({ ...wish, along: along as unknown as Vec3 });
        const { y } = projected(from, point);
        return ((from.height / 2 - y) * from.pitchMm) / magnificationAt(from, point);
      });
      expect(heights[0], name).toBeCloseTo(heights[1], 9);
      expect(heights[0], name).toBeCloseTo(point[2], 9);
    }
  });
});

describe('attenuation', () => {
  const at = (map: Float32Array, x: number, y: number) => map[Math.floor(y) * view.width + Math.floor(x)];
  it('is that of the way through the body, also where cells are interpolated', () => {
    const part = ellipsoid([0, 0, 0], [12, 7, 9]);
    const map = attenuationOf([{ layers: [{ parts: [part], perMm: 0.1 }], landmarks: {} }], view);
    const random = seededRandom(4);
    for (let i = 0; i < 400; i++) {
      const [x, y] = [Math.floor(400 * random.uniform()), Math.floor(300 * random.uniform())];
      let inside = 0;
      const steps = 4000;
      const from = onRay(view, { x: x + 0.5, y: y + 0.5 }, 0.8);
      const to = onRay(view, { x: x + 0.5, y: y + 0.5 }, 0.95);
      for (let s = 0; s < steps; s++) {
        const p = from.map((v, k) => v + ((to[k] - v) * (s + 0.5)) / steps);
        if ((p[0] / 12) ** 2 + (p[1] / 7) ** 2 + (p[2] / 9) ** 2 <= 1) inside++;
      }
      const mm = (inside / steps) * Math.hypot(...to.map((v, k) => v - from[k]));
      expect(Math.abs(at(map, x, y) - 0.1 * mm)).toBeLessThan(0.004);
    }
  });
  it('counts what two parts share once, and nothing of what is taken away', () => {
    const parts = [box([-2, 0, 0], [6, 5, 6]), box([2, 0, 0], [6, 5, 6])];
    const straight = xrayView({ ...wish, along: [0, 1, 0] });
    const value = (layer: Body['layers'][number]) =>
      attenuationOf([{ layers: [layer], landmarks: {} }], straight)[150 * 400 + 200];
    expect(value({ parts, perMm: 0.1 })).toBeCloseTo(1, 3);
    expect(value({ parts, minus: [ball([0, 0, 0], 2)], perMm: 0.1 })).toBeCloseTo(0.6, 2);
    expect(value({ parts, minus: [box([0, 0, 0], [9, 9, 9])], perMm: 0.1 })).toBe(0);
  });
  it('finds thin things between the cells', () => {
    const wire = limb([-15, 0, -10], 0.08, [15, 0, 9], 0.08);
    const map = attenuationOf([{ layers: [{ parts: [wire], perMm: 1 }], landmarks: {} }], view);
    for (let i = 0; i <= 40; i++) {
      const { x, y } = projected(view, [-14 + (28 * i) / 40, 0, -9.37 + (17.73 * i) / 40]);
      expect(at(map, x, y), `place ${i}`).toBeGreaterThan(0);
    }
  });
  it('ends at the detector', () => {
    const behind = attenuationOf(
      [{ layers: [{ parts: [ball([14, 70, -7], 5)], perMm: 1 }], landmarks: {} }],
      view
    );
    expect(behind.some((value) => value > 0)).toBe(false);
  });
});

describe('noise', () => {
  const spread = (dose: number, seed: number) => {
    const map = new Float32Array(view.width * view.height).fill(0.5);
    const quanta = counted(map, view.width, view.height, { ...quiet, fullWell: 100 }, seededRandom(seed), {
      dose
    });
    const mean = quanta.reduce((a, b) => a + b) / quanta.length;
    const variance = quanta.reduce((a, b) => a + (b - mean) ** 2, 0) / quanta.length;
    return Math.sqrt(variance) / mean;
  };
  it('falls with the square root of the exposure', () => {
    for (const dose of [0.25, 4, 9]) expect(spread(1, 1) / spread(dose, 2)).toBeCloseTo(Math.sqrt(dose), 1);
  });
  it('of a detector’s own pattern is the same in every exposure', () => {
    const patterned = { ...quiet, quanta: 1e9, fixedPattern: 0.02 };
    const [one, two] = [1, 2].map((seed) =>
      counted(new Float32Array(120_000), 400, 300, patterned, seededRandom(seed))
    );
    let together = 0;
    for (let i = 0; i < one.length; i++) together += (one[i] / 1e9 - 1) * (two[i] / 1e9 - 1);
    expect(together / one.length / 0.02 ** 2).toBeGreaterThan(0.5);
  });
});

describe('a fault', () => {
  const plain = new Float32Array(view.width * view.height).fill(0.8);
  const shown = (faults: Faults) =>
    exposed(plain.slice(), view.width, view.height, quiet, seededRandom(3), faults).data;
  const mean = (data: ArrayLike<number>, x0: number, x1: number) => {
    let sum = 0;
    for (let y = 100; y < 200; y++) for (let x = x0; x < x1; x++) sum += data[y * 400 + x];
    return sum / (100 * (x1 - x0));
  };
  it('of a displaced beam leaves what lies beyond its rim unexposed, round or straight', () => {
    for (const cutOff of [
      { kind: 'straight', through: { x: 200, y: 0 }, towardsDeg: 0 },
      { kind: 'round', center: { x: 0, y: 150 }, radiusPx: 200 }
    ] as const) {
      const data = shown({ cutOff });
      expect(mean(data, 300, 380)).toBeGreaterThan(1.8 * mean(data, 20, 120));
    }
  });
  it('of a scratched plate is a bright line, of dropped rows a black one', () => {
    const top = 2 ** quiet.bits - 1;
    expect(shown({ scratches: 3 }).filter((value) => value === top).length).toBeGreaterThan(60);
    expect(shown({ droppedRows: 4 }).filter((value) => value === 0).length % 400).toBe(0);
    expect(shown({}).some((value) => value === 0 || value === top)).toBe(false);
  });
  it('of motion smears along its way only', () => {
    const line = plain.slice();
    for (let y = 0; y < 300; y++) line[y * 400 + 200] = 3;
    const blurred = (directionDeg: number) => {
      const data = exposed(line.slice(), 400, 300, quiet, seededRandom(3), {
        motion: { lengthPx: 20, directionDeg }
      }).data;
      return data[150 * 400 + 200] - mean(data, 100, 150);
    };
    expect(blurred(0)).toBeLessThan(0.3 * blurred(90));
  });
});

describe('a radiograph', () => {
  const body: Body = {
    layers: [
      {
        parts: [limb([-20, 0, 0], 6, [20, 0, 3], 8)],
        perMm: 0.1,
        weave: trabeculae({ seed: 1, spacingMm: 1, depth: 0.5 })
      }
    ],
    landmarks: { end: [12, 0, 2], far: [400, 0, 0] }
  };
  it('is the same bytes for the same seed, and others for another', () => {
    const [one, again, other] = [5, 5, 6].map(
      (seed) => radiograph([body], view, flatPanel, seed).raster.data
    );
    expect(one).toEqual(again);
    expect(one).not.toEqual(other);
  });
  it('knows which landmarks it shows', () => {
    const { known } = radiograph([body], view, flatPanel, 1);
    expect([known.end.inPicture, known.far.inPicture]).toEqual([true, false]);
  });
  it('shows what is dense as bright, within the detector’s bits', () => {
    const { raster } = radiograph([body], view, intraoralSensor, 1);
    const dense = raster.data[150 * 400 + 200];
    expect(dense).toBeGreaterThan(raster.data[10 * 400 + 10]);
    expect(Math.max(...raster.data)).toBeLessThan(65536);
  });
  it('weaves a pattern that has no steps', () => {
    for (let i = 0; i < 300; i++)
      expect(
        Math.abs(noiseAt(i * 0.37, 1.3, i * 0.11, 9) - noiseAt(i * 0.37 + 1e-4, 1.3, i * 0.11, 9))
      ).toBeLessThan(1e-3);
  });
});
