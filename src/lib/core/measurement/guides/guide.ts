import type { Point } from '../../raster/orientation';
import type { Unit } from '../measured';

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
}

export interface GuideView {
  key: string;
  name: string;
  landmarks: Landmark[];
  /** What the computer proposes by itself in this view. */
  finds?: 'plumb line and markers' | 'limbus and pupil';
}

/** Where a number or a range comes from. */
export interface Source {
  author: string;
  year: number;
  title: string;
}

export interface NormalRange {
  low: number;
  high: number;
  source: Source;
}

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
  of: (at: (key: string) => Point) => number;
  source: Source;
  normal?: NormalRange;
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
