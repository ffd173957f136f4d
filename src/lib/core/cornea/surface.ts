import { type Bumps, type Grid, bumpsAt, roomForBumps, touching } from './spline';

/** Height and slopes of a surface: sag z(x, y) in mm, positive into the eye. */
export interface SurfacePoint {
  z: number;
  zx: number;
  zy: number;
}

/** What maps and lens values are read from. */
export interface Heights {
  at(x: number, y: number): SurfacePoint;
}

/** A sphere plus a sum of bumps over a square. */
export interface Surface {
  /** The sphere's centre and radius. */
  sphere: { x: number; y: number; z: number; radiusMm: number };
  /** Where the data's middle lies, and how far from it the outermost data are. */
  middle: { x: number; y: number };
  reachMm: number;
  grid: Grid;
  coefficients: Float64Array;
}

/** Evaluates a surface; keeps its own room, so one is needed for each caller. */
export class SurfaceReader implements Heights {
  readonly room: Bumps = roomForBumps();
  /** The place that was read last, from the sphere's middle. */
  private readonly last = { dx: 0, dy: 0 };

  constructor(readonly surface: Surface) {}

  at(x: number, y: number): SurfacePoint {
    const { sphere, grid, coefficients } = this.surface;
    const dx = (this.last.dx = x - sphere.x);
    const dy = (this.last.dy = y - sphere.y);
    const root = Math.sqrt(Math.max(1e-6, sphere.radiusMm ** 2 - dx * dx - dy * dy));
    let z = sphere.z - root;
    let zx = dx / root;
    let zy = dy / root;
    bumpsAt(grid, x, y, this.room);
    const { which, value, dx: bx, dy: by } = this.room;
    for (let k = 0; k < touching; k++) {
      const c = coefficients[which[k]];
      z += c * value[k];
      zx += c * bx[k];
      zy += c * by[k];
    }
    return { z, zx, zy };
  }

  /** Second slopes at the place that was read last. */
  bend(): { zxx: number; zxy: number; zyy: number } {
    const { sphere, coefficients } = this.surface;
    const { dx, dy } = this.last;
    const root2 = Math.max(1e-6, sphere.radiusMm ** 2 - dx * dx - dy * dy);
    const root = Math.sqrt(root2);
    let zxx = (1 + (dx * dx) / root2) / root;
    let zxy = (dx * dy) / (root2 * root);
    let zyy = (1 + (dy * dy) / root2) / root;
    const { which, dxx, dxy, dyy } = this.room;
    for (let k = 0; k < touching; k++) {
      const c = coefficients[which[k]];
      zxx += c * dxx[k];
      zxy += c * dxy[k];
      zyy += c * dyy[k];
    }
    return { zxx, zxy, zyy };
  }
}
