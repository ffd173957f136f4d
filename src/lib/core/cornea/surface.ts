import { type Basis, type BasisValues, evaluateBasis, roomFor } from './basis';

/** Height, slopes and second slopes of a surface: sag z(x, y) in mm, positive into the eye. */
export interface SurfacePoint {
  z: number;
  zx: number;
  zy: number;
}

/** A sphere plus a sum of basis terms over a disc. */
export interface Surface {
  /** The sphere's centre and radius. */
  sphere: { x: number; y: number; z: number; radiusMm: number };
  basis: Basis;
  /** Where u = v = 0 lies, and what length is 1. */
  middle: { x: number; y: number };
  reachMm: number;
  coefficients: Float64Array;
}

/** Evaluates a surface; keeps its own room, so one is needed for each caller. */
export class SurfaceReader {
  readonly room: BasisValues;

  constructor(readonly surface: Surface) {
    this.room = roomFor(surface.basis);
  }

  at(x: number, y: number): SurfacePoint {
    const { sphere, basis, middle, reachMm, coefficients } = this.surface;
    const dx = x - sphere.x;
    const dy = y - sphere.y;
    const root = Math.sqrt(Math.max(1e-6, sphere.radiusMm ** 2 - dx * dx - dy * dy));
    let z = sphere.z - root;
    let zx = dx / root;
    let zy = dy / root;
    evaluateBasis(basis, (x - middle.x) / reachMm, (y - middle.y) / reachMm, this.room);
    const { value, du, dv } = this.room;
    for (let k = 0; k < coefficients.length; k++) {
      z += coefficients[k] * value[k];
      zx += (coefficients[k] * du[k]) / reachMm;
      zy += (coefficients[k] * dv[k]) / reachMm;
    }
    return { z, zx, zy };
  }
}
