import type { Point } from '../../raster/orientation';
import type { Unit } from '../measured';
import type { Sharpening } from './sharpening';

/** A place somebody points at, told so that who has never done it gets it right. */
export interface Landmark {
  key: string;
  name: string;
  /** Where it is, in words. */
  where: string;
  /** Its place on the view's schematic, 0..1 from the left and from the top. */
  onSchematic: Point;
  /** Results that need it are left out where it is not placed. */
  optional?: true;
  /** It lies beside the body, on either side of it: its place and those of the others tell nothing of one another. */
  beside?: true;
}

export interface GuideView {
  key: string;
  name: string;
  landmarks: Landmark[];
  /** Landmarks that a thin line joins in the picture: the axes and surfaces that results are measured by. */
  lines?: (readonly [string, string])[];
  /** Two landmarks on a line that hangs: from the first to the second is down. Without them the picture's own down is. */
  vertical?: readonly [string, string];
  /** The drawing it is shown on where that is another guide's: by guide and view. */
  drawing?: string;
  /** What makes rough presses sharper. */
  sharpens?: readonly Sharpening[];
  /** What the computer proposes by itself in this view. */
  finds?: 'plumb line and markers' | 'limbus and pupil';
}

/** Where a number or a range comes from. */
export interface Source {
  author: string;
  year: number;
  title: string;
  /** Written from memory: nobody has held it against the print yet. It is said wherever the source is. */
  fromMemory?: true;
}

export interface NormalRange {
  /** Null where the source names no limit on this side. */
  low: number | null;
  high: number | null;
  /** What the limits are, where they are not those of healthy people: a mean with its deviations, say. */
  means?: string;
  source: Source;
}

/** Steps of a disease, none of which is health: each up to a value, the last without an end. */
export interface Stages {
  upTo: { value: number; name: string }[];
  beyond: string;
  source: Source;
}

/** A source as it is shown. Worked value: "Wheeler 2020, A title (from memory, unchecked)". */
export const sourceInWords = ({ author, year, title, fromMemory }: Source): string =>
  `${author} ${year}, ${title}${fromMemory ? ' (from memory, unchecked)' : ''}`;

/**
 * One result of a guide. `of` gets points in the plane (equal units along both axes, y down), each by `view.landmark`;
 * it is free of units unless `power` is 1 (a length).
 */
export interface Formula {
  key: string;
  name: string;
  unit: Unit;
  /** How the result grows with the scale: 1 a length, 0 an angle, ratio or share. */
  power: 0 | 1;
  needs: string[];
  /** It divides a length in one picture by one in another: both have to be in mm. */
  compares?: true;
  /** @throws RangeError with words where the points contradict what they are called: a mirrored picture, sides swapped */
  of: (at: (key: string) => Point) => number;
  source: Source;
  normal?: NormalRange;
  stages?: Stages;
  /** What a positive and a negative result mean. */
  sign?: string;
  /** What it can be wrong by beyond placement and scale. */
  mind?: string;
}

export interface Guide {
  key: string;
  version: number;
  name: string;
  trade: 'teeth' | 'bones' | 'animals' | 'eyes';
  views: GuideView[];
  formulas: Formula[];
  /** Formulas that depend on which landmarks were placed: the curves of a spine. */
  further?: (at: (key: string) => Point | undefined) => Formula[];
}

/** A way to write landmarks in one line: key, name, where, x and y on the schematic. */
export const landmark = (key: string, name: string, where: string, x: number, y: number): Landmark => ({
  key,
  name,
  where,
  onSchematic: { x, y }
});

export const optional = (each: Landmark): Landmark => ({ ...each, optional: true });
