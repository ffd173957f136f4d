import type { Point } from '../../raster/orientation';
import { between, turnDeg } from '../geometry';
import { type Formula, type Guide, landmark, optional } from './guide';

/** From the neck down. */
export const vertebrae = [
  ...Array.from({ length: 12 }, (_, i) => `T${i + 1}`),
  ...Array.from({ length: 5 }, (_, i) => `L${i + 1}`)
];

const cobb = { author: 'Cobb', year: 1948, title: 'Outline for the study of scoliosis' };
/** A curve of less than this is not called one (Scoliosis Research Society). */
const leastCurveDeg = 10;
/** Of vertebrae tilted alike the lowest is the end vertebra. */
const alikeDeg = 0.05;

const corner = (name: string, end: 'upper' | 'lower', side: 'left' | 'right') => `${name} ${end} ${side}`;

/** Tilt of an endplate against the picture's rows, in degrees, positive when its right end in the picture is lower. */
function tiltDeg(left: Point, right: Point): number {
  const [a, b] = left.x <= right.x ? [left, right] : [right, left];
  return (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
}

export interface Curve {
  upper: string;
  lower: string;
}

/**
 * End vertebrae of every curve, from the tilts of those that were placed: a curve runs from one most tilted vertebra to
 * the next one tilted most the other way. Those of less than 10 degrees are left out.
 * @param at plane points by landmark key without the view
 */
export function curvesOf(at: (key: string) => Point | undefined): Curve[] {
  const placed = vertebrae.flatMap((name) => {
    const plate = (end: 'upper' | 'lower') => {
      const [l, r] = [at(corner(name, end, 'left')), at(corner(name, end, 'right'))];
      return l && r ? tiltDeg(l, r) : null;
    };
    const [upper, lower] = [plate('upper'), plate('lower')];
    if (upper === null && lower === null) return [];
    const mean = upper === null ? lower! : lower === null ? upper : (upper + lower) / 2;
    return [{ name, mean, upper: upper ?? mean, lower: lower ?? mean }];
  });
  if (placed.length < 2) return [];
  // Turning points of the tilt, from top to bottom, that lie at least the least curve apart.
  const turns: number[] = [];
  let low = 0;
  let high = 0;
  let way: 1 | -1 | 0 = 0;
  for (const [i, { mean }] of placed.entries()) {
    if (mean < placed[low].mean + alikeDeg) low = i;
    if (mean > placed[high].mean - alikeDeg) high = i;
    if (way !== -1 && placed[high].mean - mean >= leastCurveDeg) {
      turns.push(high);
      way = -1;
      low = i;
      high = i;
    } else if (way !== 1 && mean - placed[low].mean >= leastCurveDeg) {
      turns.push(low);
      way = 1;
      low = i;
      high = i;
    }
  }
  if (turns.length === 0) return [];
  turns.push(way === 1 ? high : low);
  return turns
    .slice(1)
    .map((to, i) => ({ upper: placed[turns[i]].name, lower: placed[to].name }))
    .filter(({ upper, lower }) => upper !== lower);
}

/** Spinal curves from the front by Cobb's method: several at once, the end vertebrae proposed from the points. */
export const spineCurve: Guide = {
  key: 'spine-curve',
  version: 1,
  name: 'Spinal curves',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'Spine, standing, from the front or the back',
      lines: vertebrae.flatMap((name) =>
        (['upper', 'lower'] as const).map(
          (end) => [corner(name, end, 'left'), corner(name, end, 'right')] as const
        )
      ),
      sharpens: vertebrae.flatMap((name) =>
        (['upper', 'lower'] as const).map((end) => ({
          kind: 'edge' as const,
          ends: [corner(name, end, 'left'), corner(name, end, 'right')] as const
        }))
      ),
      landmarks: vertebrae.flatMap((name, i) => {
        const y = 0.05 + (0.9 * i) / (vertebrae.length - 1);
        const half = 0.06 + 0.002 * i;
        return (['upper', 'lower'] as const).flatMap((end) =>
          (['left', 'right'] as const).map((side) =>
            optional(
              landmark(
                corner(name, end, side),
                `${name} ${end} endplate, ${side}`,
                `The ${side} end of the ${end} surface of ${name}, the patient’s ${side}`,
                0.5 + (side === 'left' ? half : -half),
                y + (end === 'upper' ? -0.016 : 0.016)
              )
            )
          )
        );
      })
    }
  ],
  formulas: [],
  further: (at) => {
    const of = (key: string) => at(`front.${key}`);
    return curvesOf(of).map(({ upper, lower }): Formula => {
      const side = (name: string, wanted: 'upper' | 'lower') =>
        of(corner(name, wanted, 'left')) && of(corner(name, wanted, 'right'))
          ? wanted
          : wanted === 'upper'
            ? 'lower'
            : 'upper';
      const needs = [
        corner(upper, side(upper, 'upper'), 'left'),
        corner(upper, side(upper, 'upper'), 'right'),
        corner(lower, side(lower, 'lower'), 'left'),
        corner(lower, side(lower, 'lower'), 'right')
      ].map((key) => `front.${key}`);
      return {
        key: `cobb ${upper} ${lower}`,
        name: `Cobb angle ${upper} to ${lower}`,
        unit: 'deg',
        power: 0,
        needs,
        // From left to right both times, so that a curve of more than 90 degrees is told as it is.
        of: (each) =>
          Math.abs(turnDeg(between(each(needs[0]), each(needs[1])), between(each(needs[2]), each(needs[3])))),
        source: cobb,
        mind: 'Two people differ by about five degrees, most of it by the choice of end vertebrae.'
      };
    });
  }
};
