import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type Vec3, add, cross, dot, lengthOf, sub, times, unit } from '../space';
import { zernike } from '../../cornea/zernike';
import { type CorneaWish, cornea } from './cornea';
import { type EyePose, edgesAt, meetCornea, mirrored, posed, straightAhead } from './mirror';
import { ringImage } from './ringImage';
import { quillTarget as fullTarget } from '../../cornea/target';

/** The same instrument with a coarser camera, so that many pictures can be made. */
const quillTarget = { ...fullTarget, width: 512, height: 512, pxPerMm: fullTarget.pxPerMm / 2 };

const shapes: Record<string, CorneaWish> = {
  sphere: { flatMm: 7.8 },
  toric: { flatMm: 8, steepMm: 7.5, axisDeg: 25 },
  conic: { flatMm: 7.9, q: -0.3 },
  cone: { flatMm: 7.8, q: -0.2, cone: { x: 0.7, y: 1, heightMm: 0.03, widthMm: 1.1 } },
  'Zernike sum': {
    flatMm: 7.7,
    zernike: {
      terms: [
        [7, 2],
        [12, 1.5]
      ],
      radiusMm: 5
    }
  }
};
/** By how much the normal turns from one pixel of this camera to the next, in radians. */
const pixelTurn = 1 / (7.5 * (fullTarget.pxPerMm / 2));
const turned: EyePose = { gazeRightDeg: 12, gazeUpDeg: -8, shiftMm: [0.1, -0.2, 0.05], turningMm: 13.5 };

describe('a cornea', () => {
  it('has its radii at the apex and its asphericity further out', () => {
    const { at } = cornea({ flatMm: 8, steepMm: 7.5, axisDeg: 0, q: -0.3 });
    const h = 0.01;
    expect((h * h) / 2 / at(h, 0).z).toBeCloseTo(8, 3);
    expect((h * h) / 2 / at(0, h).z).toBeCloseTo(7.5, 3);
    const [x, c] = [4, 1 / 8];
    expect(at(x, 0).z).toBeCloseTo((c * x * x) / (1 + Math.sqrt(1 - 0.7 * c * c * x * x)), 12);
  });
  it('knows Zernike polynomials by their standard order and size', () => {
    expect(zernike(0, 0.3, 1)).toBe(1);
    expect(zernike(4, 1, 0)).toBeCloseTo(Math.sqrt(3), 12);
    expect(zernike(2, 0.5, 0)).toBeCloseTo(1, 12);
    expect(zernike(12, 0, 0)).toBeCloseTo(Math.sqrt(5), 12);
    const random = seededRandom(1);
    for (const [a, b] of [
      [3, 3],
      [5, 12],
      [7, 7],
      [4, 12]
    ]) {
      let sum = 0;
      const count = 60_000;
      for (let i = 0; i < count; i++) {
        const [rho, phi] = [Math.sqrt(random.uniform()), 2 * Math.PI * random.uniform()];
        sum += zernike(a, rho, phi) * zernike(b, rho, phi);
      }
      expect(sum / count, `${a} with ${b}`).toBeCloseTo(a === b ? 1 : 0, 1);
    }
  });
});

describe.each(Object.entries(shapes))('rings mirrored in a %s', (_, shape) => {
  const { width, height, edges } = quillTarget;

  it('obey the law of reflection at every edge that the picture shows', () => {
    let checked = 0;
    for (const pose of [straightAhead, turned]) {
      const { raster } = ringImage({
        cornea: shape,
        pose,
        target: quillTarget,
        seed: 3,
        lashes: 0,
        lids: { upperMm: 9, lowerMm: 9 }
      });
      const eye = posed(cornea(shape), pose);
      for (let meridian = 0; meridian < 12; meridian++) {
        const angle = (2 * Math.PI * (meridian + 0.3)) / 12;
        for (const { r, rising } of crossings(raster.data, width, angle)) {
          const image = { x: width / 2 + r * Math.cos(angle), y: height / 2 + r * Math.sin(angle) };
          const point = meetCornea(eye, quillTarget, image);
          if (!point || Math.hypot(point[0], point[1]) > 4.2) continue;
          const { from, way } = mirrored(eye, quillTarget, point);
          const counted = edgesAt(quillTarget, from, way);
          if (counted === null) continue;
          const further = beyond(eye, angle, r);
          const edge = edges[Math.round(counted) - 1];
          // The edge's own point nearest to where the ray goes, and the law with it: the normal halves the angle.
          const reach = (-edge.depthMm - from[2]) / way[2];
          const there = add(from, times(way, reach));
          const around = Math.atan2(there[1], there[0]);
          const lamp: Vec3 = [
            edge.radiusMm * Math.cos(around),
            edge.radiusMm * Math.sin(around),
            -edge.depthMm
          ];
          const camera: Vec3 = [0, 0, -quillTarget.cameraMm];
          const half = unit(add(unit(sub(camera, from)), unit(sub(lamp, from))));
          const { zx, zy } = eye.cornea.at(point[0], point[1]);
          const normal = eye.turnToRoom(unit([zx, zy, -1]));
          expect(lengthOf(cross(half, normal)), `edge ${Math.round(counted)} at ${meridian}`).toBeLessThan(
            pixelTurn
          );
          expect(dot(half, normal)).toBeGreaterThan(0);
          if (further !== null) expect(rising === further > counted).toBe(Math.round(counted) % 2 === 1);
          checked++;
        }
      }
    }
    expect(checked).toBeGreaterThan(300);
  });
});

/** How many edges lie inside a little further out along the meridian. */
function beyond(eye: ReturnType<typeof posed>, angle: number, r: number): number | null {
  const image = { x: 256 + (r + 0.3) * Math.cos(angle), y: 256 + (r + 0.3) * Math.sin(angle) };
  const point = meetCornea(eye, quillTarget, image);
  if (!point) return null;
  const { from, way } = mirrored(eye, quillTarget, point);
  return edgesAt(quillTarget, from, way);
}

/** Where the picture passes half way between dark and bright along a meridian, to a part of a pixel. */
function crossings(data: ArrayLike<number>, width: number, angle: number): { r: number; rising: boolean }[] {
  const sample = (r: number): number => {
    const x = width / 2 + r * Math.cos(angle) - 0.5;
    const y = width / 2 + r * Math.sin(angle) - 0.5;
    const [ix, iy] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [x - ix, y - iy];
    const at = (dx: number, dy: number) => data[(iy + dy) * width + ix + dx];
    return (at(0, 0) * (1 - u) + at(1, 0) * u) * (1 - v) + (at(0, 1) * (1 - u) + at(1, 1) * u) * v;
  };
  const found: { r: number; rising: boolean }[] = [];
  const reach = width / 2 - 15;
  for (let r = 15; r < reach; r += 0.25) {
    const around = Array.from({ length: 25 }, (_, i) => sample(r - 3 + i / 4));
    const [low, high] = [Math.min(...around), Math.max(...around)];
    if (high - low < 100) continue;
    const level = (low + high) / 2;
    const [a, b] = [sample(r), sample(r + 0.25)];
    if (a < level === b < level) continue;
    found.push({ r: r + (0.25 * (level - a)) / (b - a), rising: b > a });
  }
  return found;
}

describe('what lies over an eye', () => {
  const plain = { cornea: shapes.sphere, pose: straightAhead, target: quillTarget, seed: 3 };
  const rough = (data: ArrayLike<number>, from: number, to: number) => {
    let sum = 0;
    for (let i = from + 1; i < to; i++) sum += Math.abs(data[i] - data[i - 1]);
    return sum / (to - from);
  };
  it('is a lid that comes down in a blink and hides the upper rings', () => {
    const row = 165 * 512;
    const open = ringImage(plain).raster.data;
    const shut = ringImage({ ...plain, blink: true }).raster.data;
    expect(rough(shut, row + 150, row + 350)).toBeLessThan(0.4 * rough(open, row + 150, row + 350));
  });
  it('is the same bytes from the same seed', () => {
    const [one, other] = [ringImage(plain).raster.data, ringImage(plain).raster.data];
    expect(one.every((value, i) => value === other[i])).toBe(true);
  });
  it('knows where pupil and limbus are, also when the eye looks aside', () => {
    const ahead = ringImage(plain);
    const aside = ringImage({ ...plain, pose: { ...straightAhead, gazeRightDeg: 10 } });
    expect(ahead.pupil.x).toBeCloseTo(256, 0);
    expect(aside.pupil.x).toBeGreaterThan(ahead.pupil.x + 40);
    expect(aside.limbus.x).toBeGreaterThan(ahead.limbus.x + 40);
  });
});

it.each(Object.entries(shapes))('the slopes of a %s are those of its height', (_, shape) => {
  const { height, at } = cornea(shape);
  const h = 1e-4;
  for (const [x, y] of [
    [0.4, -0.9],
    [-3.1, 2.2],
    [4.4, 1.7]
  ]) {
    expect(at(x, y).z).toBeCloseTo(height(x, y), 12);
    expect(at(x, y).zx).toBeCloseTo((height(x + h, y) - height(x - h, y)) / (2 * h), 7);
    expect(at(x, y).zy).toBeCloseTo((height(x, y + h) - height(x, y - h)) / (2 * h), 7);
  }
});
