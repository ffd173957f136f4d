import type { Point, Size } from '../../raster/orientation';
import { barShape, draw, together } from '../foreign/shapes';

/** A letter of lead as it lies on a detector: R on the right, L on the left, of the usual size. */
export type SideLetter = 'R' | 'L';

const heightMm = 14;
const strokeMm = 2.6;
/** Attenuation through the lead, natural logarithm. */
const leadDepth = 4.5;
/** How far from the rim, as a share of the picture's shorter side. */
const inset = 0.09;

type Line = readonly [Point, Point];
const line = (x0: number, y0: number, x1: number, y1: number): Line => [
  { x: x0, y: y0 },
  { x: x1, y: y1 }
];

/** By straight pieces, height 1, as a file cuts them. */
const pieces: Record<SideLetter, readonly Line[]> = {
  R: [
    line(0, 0, 0, 1),
    line(0, 0, 0.38, 0),
    line(0.38, 0, 0.58, 0.14),
    line(0.58, 0.14, 0.58, 0.4),
    line(0.58, 0.4, 0.38, 0.54),
    line(0.38, 0.54, 0, 0.54),
    line(0.3, 0.54, 0.62, 1)
  ],
  L: [line(0, 0, 0, 1), line(0, 1, 0.56, 1)]
};

/** The corner where least is in the way: nobody lays a letter over what is to be seen. */
function freest(map: Float32Array, { width, height }: Size, reach: number): Point {
  const corners = [reach, height - reach].flatMap((y) => [reach, width - reach].map((x) => ({ x, y })));
  const inTheWay = ({ x, y }: Point): number => {
    let sum = 0;
    for (let v = -0.6; v <= 0.6; v += 0.1)
      for (let u = -0.6; u <= 0.6; u += 0.1)
        sum += map[Math.round(y + v * reach) * width + Math.round(x + u * reach)];
    return sum;
  };
  return corners.reduce((best, each) => (inTheWay(each) < inTheWay(best) ? each : best));
}

/**
 * Lays a letter of lead into a map of attenuation, in the corner where least is in the way, a little askew.
 * @param pitchMm of the map's pixels, on the detector
 */
export function layLetter(
  map: Float32Array,
  size: Size,
  pitchMm: number,
  letter: SideLetter,
  leanDeg: number
): void {
  const { width, height } = size;
  const tall = heightMm / pitchMm;
  const reach = inset * Math.min(width, height) + tall / 2;
  const middle = freest(map, size, reach);
  const [c, s] = [Math.cos((leanDeg * Math.PI) / 180), Math.sin((leanDeg * Math.PI) / 180)];
  const at = ({ x, y }: Point): Point => {
    const [u, v] = [(x - 0.3) * tall, (y - 0.5) * tall];
    return { x: middle.x + c * u - s * v, y: middle.y + s * u + c * v };
  };
  const bars = pieces[letter].map(([a, b]) =>
    barShape(at(a), at(b), strokeMm / pitchMm, leadDepth, { roundEnds: true })
  );
  draw(map, width, height, together(bars));
}
