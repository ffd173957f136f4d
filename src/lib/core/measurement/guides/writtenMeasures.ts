import type { Point } from '../../raster/orientation';
import { fittedCircle } from '../fit/circle';
import {
  angleAtDeg,
  between,
  distance,
  linesDeg,
  offLine,
  pathLength,
  smoothPath,
  turnDeg
} from '../geometry';
import type { Unit } from '../measured';

/** What a guide of a clinic's own can measure between landmarks. */
export const writtenMeasures = [
  'length',
  'path',
  'angle',
  'angle between lines',
  'tilt',
  'distance from a line',
  'ratio',
  'share along a line',
  'height',
  'circle'
] as const;
export type WrittenMeasure = (typeof writtenMeasures)[number];

export interface MeasureKind {
  /** What it is, in words. */
  words: string;
  /** What each of its landmarks is; further ones are called as the last. */
  points: readonly string[];
  least: number;
  most: number;
  unit: Unit;
  power: 0 | 1;
  /** @param points with equal units along both axes, y down and down as the view's own down */
  of: (points: readonly Point[]) => number;
}

const many = 40;
const lineDirection = { x: 1, y: 0 };

export const measureKinds: Readonly<Record<WrittenMeasure, MeasureKind>> = {
  length: {
    words: 'Length between two landmarks',
    points: ['From', 'To'],
    least: 2,
    most: 2,
    unit: 'mm',
    power: 1,
    of: ([a, b]) => distance(a, b)
  },
  path: {
    words: 'Length of a smooth curve through landmarks',
    points: ['From', 'Through', 'Through or to'],
    least: 3,
    most: many,
    unit: 'mm',
    power: 1,
    of: (points) => pathLength(smoothPath(points))
  },
  angle: {
    words: 'Angle at a corner',
    points: ['One side', 'Corner', 'Other side'],
    least: 3,
    most: 3,
    unit: 'deg',
    power: 0,
    of: ([a, corner, b]) => angleAtDeg(a, corner, b)
  },
  'angle between lines': {
    words: 'Angle between two lines, 0 to 90°',
    points: ['First line, from', 'First line, to', 'Second line, from', 'Second line, to'],
    least: 4,
    most: 4,
    unit: 'deg',
    power: 0,
    of: ([a, b, c, d]) => linesDeg(a, b, c, d)
  },
  tilt: {
    words: 'Slope of a line against the level, 0 to 90°',
    points: ['From', 'To'],
    least: 2,
    most: 2,
    unit: 'deg',
    power: 0,
    of: ([a, b]) => {
      const turn = Math.abs(turnDeg(lineDirection, between(a, b)));
      return turn > 90 ? 180 - turn : turn;
    }
  },
  'distance from a line': {
    words: 'Distance of a landmark from a line',
    points: ['Landmark', 'Line, from', 'Line, to'],
    least: 3,
    most: 3,
    unit: 'mm',
    power: 1,
    of: ([point, a, b]) => Math.abs(offLine(point, a, b))
  },
  ratio: {
    words: 'Ratio of two lengths',
    points: ['Length, from', 'Length, to', 'Divided by, from', 'Divided by, to'],
    least: 4,
    most: 4,
    unit: '',
    power: 0,
    of: ([a, b, c, d]) => distance(a, b) / distance(c, d)
  },
  'share along a line': {
    words: 'How far along a line a landmark lies, in %',
    points: ['Landmark', 'Line, from (0 %)', 'Line, to (100 %)'],
    least: 3,
    most: 3,
    unit: '%',
    power: 0,
    of: ([point, a, b]) => {
      const length = distance(a, b);
      return (100 * ((b.x - a.x) * (point.x - a.x) + (b.y - a.y) * (point.y - a.y))) / (length * length);
    }
  },
  height: {
    words: 'How much higher one landmark lies than another',
    points: ['Higher one', 'Lower one'],
    least: 2,
    most: 2,
    unit: 'mm',
    power: 1,
    of: ([upper, lower]) => lower.y - upper.y
  },
  circle: {
    words: 'Diameter of a circle through landmarks on its edge',
    points: ['On the edge'],
    least: 3,
    most: many,
    unit: 'mm',
    power: 1,
    of: (points) => 2 * (fittedCircle(points)?.radius ?? NaN)
  }
};
