import type { Point } from '../../raster/orientation';
import { type Vec3, add, cross, dot, sub, times, unit } from '../space';

/** A point source before a flat detector, in millimetres of the room. Pixel (0, 0) spans from 0 to 1 in image coordinates. */
export interface XrayView {
  source: Vec3;
  /** The outer corner of the first pixel. */
  corner: Vec3;
  /** Unit vectors along a row and down a column. */
  across: Vec3;
  down: Vec3;
  pitchMm: number;
  width: number;
  height: number;
}

export interface ViewWish {
  /** The point in the room that the central ray passes through, and that stands in the middle of the picture. */
  through: Vec3;
  /** The way of the central ray, from the source on. */
  along: Vec3;
  /** What shall point to the top of the picture, as far as it lies in the detector's plane. */
  up: Vec3;
  /** From the source to `through`, and from there to the detector. */
  toObjectMm: number;
  toDetectorMm: number;
  pitchMm: number;
  width: number;
  height: number;
  /** How far the detector is moved, in mm along its rows and columns. */
  shiftMm?: Point;
  /** Degrees by which the detector is tipped about its rows: foreshortening and stretching. */
  tipDeg?: number;
}

export function xrayView(wish: ViewWish): XrayView {
  const along = unit(wish.along);
  const up = unit(sub(wish.up, times(along, dot(wish.up, along))));
  const across = unit(cross(along, up));
  const tip = ((wish.tipDeg ?? 0) * Math.PI) / 180;
  const down = unit(add(times(up, -Math.cos(tip)), times(along, Math.sin(tip))));
  const middle = add(wish.through, times(along, wish.toDetectorMm));
  const shift = wish.shiftMm ?? { x: 0, y: 0 };
  const corner = add(
    middle,
    add(
      times(across, shift.x - (wish.width / 2) * wish.pitchMm),
      times(down, shift.y - (wish.height / 2) * wish.pitchMm)
    )
  );
  const source = sub(wish.through, times(along, wish.toObjectMm));
  return {
    source,
    corner,
    across,
    down,
    pitchMm: wish.pitchMm,
    width: wish.width,
    height: wish.height
  };
}

/** Where on the detector a point of the room is imaged, in image pixels; exact. */
export function projected(view: XrayView, point: Vec3): Point {
  const normal = cross(view.across, view.down);
  const ray = sub(point, view.source);
  const toPlane = dot(sub(view.corner, view.source), normal);
  const share = toPlane / dot(ray, normal);
  const on = sub(add(view.source, times(ray, share)), view.corner);
  return { x: dot(on, view.across) / view.pitchMm, y: dot(on, view.down) / view.pitchMm };
}

/** How much larger than itself something at this point is imaged, along the rows. */
export function magnificationAt(view: XrayView, point: Vec3): number {
  const normal = cross(view.across, view.down);
  const toPlane = dot(sub(view.corner, view.source), normal);
  return toPlane / dot(sub(point, view.source), normal);
}

/** The point of the room that lies on the ray to an image point, `share` of the way from source to detector. */
export function onRay(view: XrayView, imagePoint: Point, share: number): Vec3 {
  const end = add(
    view.corner,
    add(times(view.across, imagePoint.x * view.pitchMm), times(view.down, imagePoint.y * view.pitchMm))
  );
  return add(view.source, times(sub(end, view.source), share));
}
