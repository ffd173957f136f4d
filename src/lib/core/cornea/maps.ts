import { leastSquares } from '../measurement/fit/linear';
import type { Heights } from './surface';
import { zernike } from './zernike';

/** Refractive index that keratometers turn radii into dioptres with; not the cornea's own. */
export const keratometricIndex = 1.3375;
export const corneaIndex = 1.376;

const dioptres = (curvaturePerMm: number, index: number) => 1000 * (index - 1) * curvaturePerMm;

/** Slope and bend of the surface along a meridian, towards the rim. */
function along(reader: Heights, x: number, y: number): { rho: number; slope: number; bend: number } {
  const rho = Math.hypot(x, y);
  const [c, s] = rho > 0 ? [x / rho, y / rho] : [1, 0];
  const h = 1e-3;
  const slopeAt = (r: number) => {
    const { zx, zy } = reader.at(r * c, r * s);
    return zx * c + zy * s;
  };
  return { rho, slope: slopeAt(rho), bend: (slopeAt(rho + h) - slopeAt(rho - h)) / (2 * h) };
}

/**
 * Axial (sagittal) power at a point, dioptres: by the length of the normal to the axis, rho / sin(angle).
 * Worked value: a sphere of 7.8 mm has 43.27 everywhere.
 */
export function axialPower(reader: Heights, x: number, y: number, index = keratometricIndex): number {
  const { rho, slope, bend } = along(reader, x, y);
  if (rho < 1e-3) return dioptres(bend, index);
  return dioptres(slope / Math.sqrt(1 + slope * slope) / rho, index);
}

/** Tangential (instantaneous) power at a point, dioptres: by the curvature along the meridian. */
export function tangentialPower(reader: Heights, x: number, y: number, index = keratometricIndex): number {
  const { slope, bend } = along(reader, x, y);
  return dioptres(bend / (1 + slope * slope) ** 1.5, index);
}

/**
 * Refractive power at a point, dioptres: where a ray from far away along the axis crosses the axis again, by Snell's
 * law, counted from the vertex. Worked value: a sphere of 7.8 mm at the axis has 48.2 with the cornea's index.
 */
export function refractivePower(reader: Heights, x: number, y: number, index = corneaIndex): number {
  const { rho, slope, bend } = along(reader, x, y);
  if (rho < 1e-3) return dioptres(bend, index);
  const arriving = Math.atan(slope);
  const turned = arriving - Math.asin(Math.sin(arriving) / index);
  if (!(turned > 0)) return NaN;
  const crossesMm = reader.at(x, y).z - reader.at(0, 0).z + rho / Math.tan(turned);
  return (1000 * index) / crossesMm;
}

/**
 * How much stronger the lower half is than the upper: axial power at 3 mm from the axis, mean of five places 30 degrees
 * apart below minus the same above, dioptres (Rabinowitz and McDonnell, 1989). NaN where a place has no data.
 */
export function belowOverAbove(reader: Heights, has: (x: number, y: number) => boolean = () => true): number {
  const half = (sign: 1 | -1): number => {
    let sum = 0;
    for (let k = -2; k <= 2; k++) {
      const a = (k * Math.PI) / 6;
      const [x, y] = [3 * Math.sin(a), sign * 3 * Math.cos(a)];
      sum += has(x, y) ? axialPower(reader, x, y) : NaN;
    }
    return sum / 5;
  };
  return half(1) - half(-1);
}

export interface Keratometry {
  flatD: number;
  steepD: number;
  /** Direction of the steep meridian, degrees counter-clockwise from the picture's right, 0 to 180. */
  steepAxisDeg: number;
  flatMm: number;
  steepMm: number;
}

const rounds = 72;

/**
 * Simulated keratometry: axial power along a circle of 3 mm across, as mean and astigmatism (the part that comes twice
 * a turn). Worked value: radii 8.0 and 7.5 give 42.19 and 45.00 dioptres.
 */
export function keratometry(reader: Heights, diameterMm = 3): Keratometry {
  let [mean, c2, s2] = [0, 0, 0];
  for (let i = 0; i < rounds; i++) {
    const a = (2 * Math.PI * i) / rounds;
    const power = axialPower(reader, (diameterMm / 2) * Math.cos(a), (diameterMm / 2) * Math.sin(a));
    mean += power / rounds;
    c2 += (2 * power * Math.cos(2 * a)) / rounds;
    s2 += (2 * power * Math.sin(2 * a)) / rounds;
  }
  const half = Math.hypot(c2, s2);
  const steep = Math.atan2(s2, c2) / 2;
  const radius = (power: number) => (1000 * (keratometricIndex - 1)) / power;
  return {
    flatD: mean - half,
    steepD: mean + half,
    // y runs down in the picture, axes are told counter-clockwise.
    steepAxisDeg: ((-steep * 180) / Math.PI + 180) % 180,
    flatMm: radius(mean - half),
    steepMm: radius(mean + half)
  };
}

/** Points of a disc on a square grid. */
function disc(radiusMm: number, stepMm: number): { x: number; y: number }[] {
  const out: { x: number; y: number }[] = [];
  for (let y = -radiusMm; y <= radiusMm + 1e-9; y += stepMm)
    for (let x = -radiusMm; x <= radiusMm + 1e-9; x += stepMm)
      if (Math.hypot(x, y) <= radiusMm) out.push({ x, y });
  return out;
}

export interface BestConic {
  apexRadiusMm: number;
  /** Asphericity Q: 0 a sphere, below 0 flatter towards the rim. */
  q: number;
  /** Of heights over the disc, micrometres. */
  rmsUm: number;
  /** How far the surface lies above it, towards the camera, micrometres. */
  elevationUm: (x: number, y: number) => number;
}

/**
 * The rotationally symmetric conic that fits best over a disc: rho^2 = 2 R z - (1 + Q) z^2 (Baker, 1943), z from the
 * surface's own height at the middle, tilt taken out.
 */
export function bestConic(reader: Heights, diameterMm = 8): BestConic {
  const points = disc(diameterMm / 2, 0.25).filter(({ x, y }) => Math.hypot(x, y) > 0.3);
  const apex = reader.at(0, 0);
  const heights = points.map(({ x, y }) => reader.at(x, y).z - apex.z);
  const fit = leastSquares(
    points.map(({ x, y }, i) => [2 * heights[i], -(heights[i] ** 2), x, y]),
    points.map(({ x, y }) => x * x + y * y)
  );
  if (!fit) throw new RangeError('the surface is too flat for a conic');
  const [radius, p, tiltX, tiltY] = fit;
  const elevationUm = (x: number, y: number) => {
    const rest = x * x + y * y - tiltX * x - tiltY * y;
    const root = radius * radius - p * rest;
    const z = root > 0 ? rest / (radius + Math.sqrt(root)) : NaN;
    return 1000 * (z - (reader.at(x, y).z - apex.z));
  };
  const squares = points.reduce((sum, { x, y }) => sum + elevationUm(x, y) ** 2, 0);
  return { apexRadiusMm: radius, q: p - 1, rmsUm: Math.sqrt(squares / points.length), elevationUm };
}

/**
 * Asphericity Q of a cornea that may be toric: as for the best conic, with the part of the curvature that comes twice a
 * turn taken out. 0 is a sphere, below 0 flatter towards the rim; shape factor p = 1 + Q, eccentricity squared = -Q.
 */
export function asphericity(reader: Heights, diameterMm = 8): number {
  const points = disc(diameterMm / 2, 0.25);
  const apex = reader.at(0, 0);
  const rows = points.map(({ x, y }) => {
    const z = reader.at(x, y).z - apex.z;
    return [2 * z, -z * z, x, y, x * x - y * y, x * y];
  });
  const fit = leastSquares(
    rows,
    points.map(({ x, y }) => x * x + y * y)
  );
  if (!fit) throw new RangeError('the surface is too flat for a conic');
  return fit[1] - 1;
}

/** The sphere nearest to the surface over a disc, and how far the surface lies above it (towards the camera), micrometres. */
export function bestSphere(
  reader: Heights,
  diameterMm = 8
): { radiusMm: number; elevationUm: (x: number, y: number) => number } {
  const points = disc(diameterMm / 2, 0.25);
  const heights = points.map(({ x, y }) => reader.at(x, y).z);
  // |p - c|^2 = R^2 is linear in c and R^2 - |c|^2.
  const fit = leastSquares(
    points.map(({ x, y }, i) => [2 * x, 2 * y, 2 * heights[i], 1]),
    points.map(({ x, y }, i) => x * x + y * y + heights[i] ** 2)
  );
  if (!fit) throw new RangeError('the surface is too flat for a sphere');
  const [cx, cy, cz, rest] = fit;
  const radiusMm = Math.sqrt(rest + cx * cx + cy * cy + cz * cz);
  return {
    radiusMm,
    elevationUm: (x, y) => 1000 * (Math.hypot(x - cx, y - cy, reader.at(x, y).z - cz) - radiusMm)
  };
}

/**
 * Zernike coefficients of the height over a disc, micrometres, in OSA/ANSI order (Z80.28); least squares on a grid.
 * Height counts towards the camera. @param order highest radial order, 0 to 8
 */
export function zernikeOf(reader: Heights, diameterMm = 6, order = 6): number[] {
  if (!(order >= 0 && order <= 8)) throw new RangeError(`the order must be 0 to 8, got ${order}`);
  const count = ((order + 1) * (order + 2)) / 2;
  const points = disc(diameterMm / 2, diameterMm / 48);
  const rows = points.map(({ x, y }) => {
    const rho = (2 * Math.hypot(x, y)) / diameterMm;
    const phi = Math.atan2(-y, x);
    return Array.from({ length: count }, (_, index) => zernike(index, rho, phi));
  });
  const fit = leastSquares(
    rows,
    points.map(({ x, y }) => -1000 * reader.at(x, y).z)
  );
  if (!fit) throw new RangeError('too few points for these terms');
  return fit;
}

/**
 * Wavefront error of the cornea's front for a far object, micrometres, in OSA/ANSI order: its height over the ellipsoid
 * of the same apex radius that images a far point without error (Q = -1/n^2, Descartes), times n - 1. Positive where the
 * surface stands towards the camera. Worked value: a sphere of 7.8 mm has 0.33 of primary spherical aberration over 6 mm.
 */
export function wavefrontOf(reader: Heights, diameterMm = 6, order = 6, index = corneaIndex): number[] {
  const { apexRadiusMm: r } = bestConic(reader, diameterMm);
  const p = 1 - 1 / index ** 2;
  const apex = reader.at(0, 0).z;
  const over = (x: number, y: number) => {
    const rho2 = x * x + y * y;
    return (index - 1) * (reader.at(x, y).z - apex - rho2 / (r + Math.sqrt(r * r - p * rho2)));
  };
  return zernikeOf({ at: (x, y) => ({ z: over(x, y), zx: NaN, zy: NaN }) }, diameterMm, order);
}

/** Root mean square of the coefficients of one radial order. */
export function rmsOfOrder(coefficients: readonly number[], order: number): number {
  const from = (order * (order + 1)) / 2;
  return Math.sqrt(coefficients.slice(from, from + order + 1).reduce((sum, c) => sum + c * c, 0));
}

/** Sagittal height at a chord along a meridian, mm: mean of both ends, over the middle. @param axisDeg counter-clockwise */
export function sagAt(reader: Heights, chordMm: number, axisDeg: number): number {
  if (!(chordMm > 0)) throw new RangeError(`a chord must be above 0 mm, got ${chordMm}`);
  const a = (-axisDeg * Math.PI) / 180;
  const [x, y] = [(chordMm / 2) * Math.cos(a), (chordMm / 2) * Math.sin(a)];
  return (reader.at(x, y).z + reader.at(-x, -y).z) / 2 - reader.at(0, 0).z;
}
