import type { Point } from '../../raster/orientation';

/** How much a flat thing takes away at a point of the picture (natural logarithm), and where it ends. */
export interface Shape {
  at: (x: number, y: number) => number;
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Samples a side of a pixel: rims are drawn as finely as the blur that follows can show. */
const fine = 5;

/** Adds a shape to a map of attenuation; each pixel is the mean of what lies in it, of the beam that gets through. */
export function draw(map: Float32Array, width: number, height: number, shape: Shape, rough = false): void {
  const left = Math.max(0, Math.floor(shape.left));
  const right = Math.min(width, Math.ceil(shape.right));
  const top = Math.max(0, Math.floor(shape.top));
  const bottom = Math.min(height, Math.ceil(shape.bottom));
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const i = y * width + x;
      if (rough) {
        map[i] += shape.at(x + 0.5, y + 0.5);
        continue;
      }
      const corners = [
        shape.at(x, y),
        shape.at(x + 1, y),
        shape.at(x, y + 1),
        shape.at(x + 1, y + 1),
        shape.at(x + 0.5, y + 0.5)
      ];
      const low = Math.min(...corners);
      const high = Math.max(...corners);
      if (high === 0) continue;
      if (high - low < 0.02) {
        map[i] += corners[4];
        continue;
      }
      let through = 0;
      for (let v = 0; v < fine; v++)
        for (let u = 0; u < fine; u++)
          through += Math.exp(-shape.at(x + (u + 0.5) / fine, y + (v + 0.5) / fine));
      map[i] -= Math.log(through / (fine * fine));
    }
}

const around = ({ x, y }: Point, reach: number) => ({
  left: x - reach,
  right: x + reach,
  top: y - reach,
  bottom: y + reach
});

/** A ball seen a little from the side: an ellipse whose shorter way is its diameter, longer along `towards`. */
export function ballShape(
  center: Point,
  diameterPx: number,
  middle: number,
  stretch = 1,
  towards = 0
): Shape {
  const [c, s] = [Math.cos(towards), Math.sin(towards)];
  const r = diameterPx / 2;
  return {
    ...around(center, r * stretch + 1),
    at: (x, y) => {
      const [dx, dy] = [x - center.x, y - center.y];
      const along = (dx * c + dy * s) / (r * stretch);
      const across = (dy * c - dx * s) / r;
      const left = 1 - along * along - across * across;
      return left > 0 ? middle * Math.sqrt(left) : 0;
    }
  };
}

/** A flat disc, tilted about a way: the way keeps its diameter. */
export function discShape(
  center: Point,
  diameterPx: number,
  depth: number,
  tiltDeg = 0,
  about = 0,
  holePx = 0
): Shape {
  const [c, s] = [Math.cos(about), Math.sin(about)];
  const r = diameterPx / 2;
  const narrow = Math.cos((tiltDeg * Math.PI) / 180);
  return {
    ...around(center, r + 1),
    at: (x, y) => {
      const [dx, dy] = [x - center.x, y - center.y];
      const rho = Math.hypot((dx * c + dy * s) / r, (dy * c - dx * s) / (r * narrow));
      return rho < 1 && rho * r >= holePx / 2 ? depth / narrow : 0;
    }
  };
}

/** A bar of one depth between two points, with flat or round ends; a round rod when `round`. */
export function barShape(
  a: Point,
  b: Point,
  widthPx: number,
  depth: number,
  { roundEnds = false, rod = false } = {}
): Shape {
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const [c, s] = [(b.x - a.x) / length, (b.y - a.y) / length];
  const half = widthPx / 2;
  return {
    left: Math.min(a.x, b.x) - half - 1,
    right: Math.max(a.x, b.x) + half + 1,
    top: Math.min(a.y, b.y) - half - 1,
    bottom: Math.max(a.y, b.y) + half + 1,
    at: (x, y) => {
      const [dx, dy] = [x - a.x, y - a.y];
      const along = dx * c + dy * s;
      const across = dy * c - dx * s;
      if (roundEnds) {
        const beyond = along < 0 ? -along : Math.max(0, along - length);
        if (Math.hypot(beyond, across) >= half) return 0;
      } else if (along < 0 || along > length || Math.abs(across) >= half) return 0;
      return rod ? depth * Math.sqrt(Math.max(0, 1 - (across / half) ** 2)) : depth;
    }
  };
}

/** A bone: a tapering tube with a hard rim and a soft middle, its ends rounded. */
export function boneShape(
  a: Point,
  b: Point,
  radiusA: number,
  radiusB: number,
  rim: number,
  depth: number
): Shape {
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  const [c, s] = [(b.x - a.x) / length, (b.y - a.y) / length];
  const most = Math.max(radiusA, radiusB) * 1.4;
  return {
    left: Math.min(a.x, b.x) - most,
    right: Math.max(a.x, b.x) + most,
    top: Math.min(a.y, b.y) - most,
    bottom: Math.max(a.y, b.y) + most,
    at: (x, y) => {
      const [dx, dy] = [x - a.x, y - a.y];
      const along = dx * c + dy * s;
      const share = Math.min(1, Math.max(0, along / length));
      const waist = 1 - 0.28 * Math.sin(Math.PI * share);
      const r = (radiusA + (radiusB - radiusA) * share) * waist;
      const beyond = along < 0 ? -along : Math.max(0, along - length);
      const rho = Math.hypot(beyond, dy * c - dx * s);
      if (rho >= r) return 0;
      const outer = Math.sqrt(r * r - rho * rho);
      const hollow = r - rim;
      const inner = rho < hollow ? Math.sqrt(hollow * hollow - rho * rho) : 0;
      return (depth * (outer - 0.7 * inner)) / Math.max(8, r);
    }
  };
}

/** A ring of wire. */
export function ringShape(center: Point, diameterPx: number, wirePx: number, depth: number): Shape {
  const r = diameterPx / 2;
  return {
    ...around(center, r + wirePx),
    at: (x, y) => {
      const off = Math.abs(Math.hypot(x - center.x, y - center.y) - r) / (wirePx / 2);
      return off < 1 ? depth * Math.sqrt(1 - off * off) : 0;
    }
  };
}

/** One shape without another: a plate with holes. */
export const without = (shape: Shape, holes: readonly Shape[]): Shape => ({
  ...shape,
  at: (x, y) => (holes.some((hole) => hole.at(x, y) > 0) ? 0 : shape.at(x, y))
});

/** Several as one thing of one depth, where they overlap not deeper: a plate with lugs. */
export const together = (shapes: readonly Shape[]): Shape => ({
  left: Math.min(...shapes.map(({ left }) => left)),
  right: Math.max(...shapes.map(({ right }) => right)),
  top: Math.min(...shapes.map(({ top }) => top)),
  bottom: Math.max(...shapes.map(({ bottom }) => bottom)),
  at: (x, y) => Math.max(...shapes.map((shape) => shape.at(x, y)))
});
