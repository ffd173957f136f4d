import { type Bumps, type Grid, bumpsOf, cellAt, roomForBumps, roomForCell, sideOf } from './spline';

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
  private readonly cell = roomForCell();
  private readonly room = roomForBumps();
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
    cellAt(grid, x, y, this.cell);
    const { first, across, down } = this.cell;
    const side = sideOf(grid);
    for (let b = 0; b < 4; b++) {
      const at = first + b * side;
      let [height, slope] = [0, 0];
      for (let a = 0; a < 4; a++) {
        const c = coefficients[at + a];
        height += c * across[a];
        slope += c * across[4 + a];
      }
      z += height * down[b];
      zx += slope * down[b];
      zy += height * down[4 + b];
    }
    return { z, zx, zy };
  }

  /** Second slopes at the place that was read last. */
  bend(): { zxx: number; zxy: number; zyy: number } {
    const { sphere, grid, coefficients } = this.surface;
    const { dx, dy } = this.last;
    const root2 = Math.max(1e-6, sphere.radiusMm ** 2 - dx * dx - dy * dy);
    const root = Math.sqrt(root2);
    let zxx = (1 + (dx * dx) / root2) / root;
    let zxy = (dx * dy) / (root2 * root);
    let zyy = (1 + (dy * dy) / root2) / root;
    const { first, across, down } = this.cell;
    const side = sideOf(grid);
    for (let b = 0; b < 4; b++)
      for (let a = 0; a < 4; a++) {
        const c = coefficients[first + b * side + a];
        zxx += c * across[8 + a] * down[b];
        zxy += c * across[4 + a] * down[4 + b];
        zyy += c * across[a] * down[8 + b];
      }
    return { zxx, zxy, zyy };
  }

  /** The bumps at the place that was read last; overwritten by the next call. */
  bumps(): Bumps {
    bumpsOf(this.cell, sideOf(this.surface.grid), this.room);
    return this.room;
  }
}
