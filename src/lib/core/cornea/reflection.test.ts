import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { arrival, arrivesAt } from './reflection';

const cameraMm = 240;
const random = seededRandom(17);
const between = (least: number, most: number) => least + (most - least) * random.uniform();

/** Mirrors somewhere on a cornea that lean as corneas do. */
const mirrors = Array.from({ length: 200 }, () => {
  const [x, y] = [between(-4, 4), between(-4, 4)];
  return {
    x,
    y,
    z: between(-0.5, 2),
    zx: x / 7.8 + between(-0.03, 0.03),
    zy: y / 7.8 + between(-0.03, 0.03),
    depthMm: between(20, 80)
  };
});

describe('the law of reflection', () => {
  it('by hand: a mirror leaning by half a right angle’s half sends the axis’ ray out at 45 degrees', () => {
    const lean = Math.tan(Math.PI / 8);
    // Arriving along the axis at the origin, turned by twice the lean: as far aside as it has come back.
    expect(arrivesAt(cameraMm, 50, 0, 0, 0, lean, 0, -1)).toBeCloseTo(50, 9);
  });
  it('is Fermat’s: of all places on a mirror’s plane the ray takes the one with the shortest way to the target', () => {
    for (const { x, y, z, zx, zy, depthMm } of mirrors.slice(0, 40)) {
      // Where it arrives lies on a circle: the direction is found by trying; the way is shortest there.
      const radius = arrivesAt(cameraMm, depthMm, x, y, z, zx, zy, -1);
      if (!(radius < 150)) continue;
      const way = (u: number, v: number, angle: number) => {
        const [px, py, pz] = [x + u, y + v, z + u * zx + v * zy];
        const [tx, ty] = [radius * Math.cos(angle), radius * Math.sin(angle)];
        return Math.hypot(px, py, pz + cameraMm) + Math.hypot(tx - px, ty - py, -depthMm - pz);
      };
      const slope = (angle: number) => {
        const h = 1e-4;
        return Math.hypot(
          (way(h, 0, angle) - way(-h, 0, angle)) / (2 * h),
          (way(0, h, angle) - way(0, -h, angle)) / (2 * h)
        );
      };
      const slopes = Array.from({ length: 20_000 }, (_, i) => slope((2 * Math.PI * i) / 20_000));
      expect(Math.min(...slopes)).toBeLessThan(1e-3);
    }
  });
  it('sends nothing back from a mirror that leans past what can be seen', () => {
    expect(arrivesAt(cameraMm, 50, 0, 0, 0, 3, 0, -1)).toBeNaN();
    expect(arrival(cameraMm, 50, 0, 0, 0, 3, 0).byZx).toBeNaN();
  });
});

it('how an arrival changes with slopes and distance agrees with differences', () => {
  const h = 1e-5;
  for (const { x, y, z, zx, zy, depthMm } of mirrors) {
    const { radiusMm, byZ, byZx, byZy } = arrival(cameraMm, depthMm, x, y, z, zx, zy);
    if (!(radiusMm < 300)) continue;
    expect(radiusMm).toBeCloseTo(arrivesAt(cameraMm, depthMm, x, y, z, zx, zy, -1), 9);
    const moved = (dz: number, dzx: number, dzy: number) => {
      const along = (z + dz + cameraMm) / (z + cameraMm);
      return arrivesAt(cameraMm, depthMm, x * along, y * along, z + dz, zx + dzx, zy + dzy, -1);
    };
    const close = (found: number, plus: number, minus: number) =>
      expect(Math.abs(found - (plus - minus) / (2 * h))).toBeLessThan(1e-4 * (1 + Math.abs(found)));
    close(byZ, moved(h, 0, 0), moved(-h, 0, 0));
    close(byZx, moved(0, h, 0), moved(0, -h, 0));
    close(byZy, moved(0, 0, h), moved(0, 0, -h));
  }
});
