import type { SeededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { type Imaging, type Transfer, anyImaging, imaged } from './imaging';

export interface RoundJointPicture {
  raster: Raster;
  head: { center: Point; radiusPx: number };
}

/**
 * A round head in its socket, drawn as a map of attenuation by formulas of its own: a ball with a denser shell on a neck and a
 * shaft, a socket that holds part of it across a gap, edges of other bones, flesh that thins towards one side.
 * @param wish without a head only the rest is there
 */
export function roundJoint(
  transfer: Transfer,
  random: SeededRandom,
  wish: { head?: boolean; imaging?: Partial<Imaging> } = {}
): RoundJointPicture {
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const side = Math.round(any(420, 1100));
  const [width, height] = [side, Math.round(side * any(0.9, 1.3))];
  const radius = side * any(0.03, 0.1);
  const center = { x: width * any(0.35, 0.65), y: height * any(0.35, 0.6) };
  const neckAt = any(0.9, 2.2);
  const socketAt = neckAt + Math.PI + any(-0.3, 0.3);
  const [gap, wall, holds] = [radius * any(0.06, 0.16), radius * any(0.2, 0.5), any(0.9, 1.7)];
  const shift = { x: radius * any(-0.06, 0.06), y: radius * any(-0.06, 0.06) };
  const [neck, dense, shell] = [radius * any(0.5, 0.75), any(0.35, 1), any(0.06, 0.14) * radius];
  const lean = any(-0.35, 0.35);
  const lines = Array.from({ length: 3 }, () => ({
    angle: any(0, Math.PI),
    off: any(-3, 3) * radius,
    wide: radius * any(0.2, 0.9),
    dense: dense * any(0.1, 0.35)
  }));
  const flesh = any(0.6, 1.6);
  const map = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [x + 0.5 - center.x, y + 0.5 - center.y];
      let sum = flesh * (1 + lean * (x / width - 0.5)) * (0.85 + 0.15 * Math.cos((y / height - 0.4) * 2));
      if (wish.head ?? true) {
        const d = Math.hypot(u, v);
        if (d < radius) {
          const inner = Math.max(0, radius - shell);
          const whole = Math.sqrt(radius * radius - d * d);
          const core = d < inner ? Math.sqrt(inner * inner - d * d) : 0;
          sum += (dense * (1.6 * whole - 0.6 * core)) / radius;
        }
        const along = u * Math.cos(neckAt) + v * Math.sin(neckAt);
        const across = Math.abs(-u * Math.sin(neckAt) + v * Math.cos(neckAt));
        const half = neck * (1 + 0.25 * Math.max(0, along / radius - 1));
        if (along > 0.7 * radius && across < half)
          sum += (dense * 0.8 * Math.sqrt(half * half - across * across)) / radius;
      }
      const [su, sv] = [u - shift.x, v - shift.y];
      const far = Math.hypot(su, sv) - radius - gap;
      const aside = Math.atan2(
        Math.sin(Math.atan2(sv, su) - socketAt),
        Math.cos(Math.atan2(sv, su) - socketAt)
      );
      if (far > 0 && far < wall && Math.abs(aside) < holds) sum += dense * 1.1;
      for (const line of lines) {
        const off = u * Math.cos(line.angle) + v * Math.sin(line.angle) - line.off;
        if (Math.abs(off) < line.wide) sum += line.dense;
      }
      map[y * width + x] = sum;
    }
  return {
    raster: imaged(map, width, height, anyImaging(transfer, random, wish.imaging), random),
    head: { center, radiusPx: radius }
  };
}
