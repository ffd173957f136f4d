import { zernikeSum } from './zernikeSum';

/**
 * The front of a cornea as a height map in millimetres: sag z(x, y) behind the plane that touches the apex, positive
 * into the eye. x to the picture's right, y down.
 */
export interface Cornea {
  height: (x: number, y: number) => number;
  /** Sag and its slopes. */
  at: (x: number, y: number) => { z: number; zx: number; zy: number };
}

export interface CorneaWish {
  /** Radii of the flat and the steep meridian, mm, and the direction of the flat one from x, counter-clockwise seen. */
  flatMm: number;
  steepMm?: number;
  axisDeg?: number;
  /** Asphericity Q: 0 is a sphere, -0.25 an ordinary eye. */
  q?: number;
  /** A cone: where it stands, how high above the rest, how wide (sd). */
  cone?: { x: number; y: number; heightMm: number; widthMm: number };
  /** Zernike terms added to the height: OSA/ANSI index, coefficient in micrometres, over this radius. */
  zernike?: { terms: [number, number][]; radiusMm: number };
}

/**
 * Sphere, toric, conic, with a cone and any Zernike sum on top. The toric conic is z = (ax^2 + by^2) / (1 + sqrt(1 -
 * (1+Q)(a^2 x^2 + b^2 y^2))) along its meridians, with curvatures a and b (Baker, 1943, for one meridian).
 */
export function cornea(wish: CorneaWish): Cornea {
  const a = 1 / wish.flatMm;
  const b = 1 / (wish.steepMm ?? wish.flatMm);
  const p = 1 + (wish.q ?? 0);
  const angle = (-(wish.axisDeg ?? 0) * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const uneven = wish.zernike ? zernikeSum(wish.zernike.terms, wish.zernike.radiusMm) : null;
  const height = (x: number, y: number): number => {
    const u = c * x + s * y;
    const v = -s * x + c * y;
    const room = Math.max(1e-6, 1 - p * (a * a * u * u + b * b * v * v));
    let z = (a * u * u + b * v * v) / (1 + Math.sqrt(room));
    if (wish.cone) {
      const { x: cx, y: cy, heightMm, widthMm } = wish.cone;
      z -= heightMm * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * widthMm * widthMm));
    }
    if (uneven) z -= uneven(x, y).value / 1000;
    return z;
  };
  return { height, at: slopes };

  /** In closed form: z = n / (1 + r) with r the root, so dz = (dn - z dr) / (1 + r). */
  function slopes(x: number, y: number): { z: number; zx: number; zy: number } {
    const u = c * x + s * y;
    const v = -s * x + c * y;
    const root = Math.sqrt(Math.max(1e-6, 1 - p * (a * a * u * u + b * b * v * v)));
    let z = (a * u * u + b * v * v) / (1 + root);
    const zu = (2 * a * u + (z * p * a * a * u) / root) / (1 + root);
    const zv = (2 * b * v + (z * p * b * b * v) / root) / (1 + root);
    let zx = c * zu - s * zv;
    let zy = s * zu + c * zv;
    if (wish.cone) {
      const { x: cx, y: cy, heightMm, widthMm } = wish.cone;
      const variance = widthMm * widthMm;
      const bump = heightMm * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * variance));
      z -= bump;
      zx += (bump * (x - cx)) / variance;
      zy += (bump * (y - cy)) / variance;
    }
    if (uneven) {
      const { value, dx, dy } = uneven(x, y);
      z -= value / 1000;
      zx -= dx / 1000;
      zy -= dy / 1000;
    }
    return { z, zx, zy };
  }
}
