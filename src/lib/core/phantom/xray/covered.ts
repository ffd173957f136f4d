import type { Part } from '../solid/part';
import { type Vec3, movePoint } from '../space';
import { type XrayView, projected } from './view';

/** A rectangle of a picture, in image pixels. */
export interface Rectangle {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** The rectangle outside which a part can't be met: that of a hull of corners. A pixel is added on each side. */
export function coveredBy(view: XrayView, part: Part): Rectangle {
  const out: Rectangle = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity };
  for (const corner of corners(part)) {
    const { x, y } = projected(view, corner);
    out.left = Math.min(out.left, x - 1);
    out.right = Math.max(out.right, x + 1);
    out.top = Math.min(out.top, y - 1);
    out.bottom = Math.max(out.bottom, y + 1);
  }
  return out;
}

/** Points whose hull holds the part: of the cube about an ellipsoid or box, of the cubes about a cone's two ends. */
function corners(part: Part): Vec3[] {
  const cube = (center: Vec3, r: number): Vec3[] =>
    Array.from({ length: 8 }, (_, i) =>
      movePoint(part.frame, [
        center[0] + (i & 1 ? r : -r),
        center[1] + (i & 2 ? r : -r),
        center[2] + (i & 4 ? r : -r)
      ])
    );
  return part.kind === 'cone' ? [...cube(part.a, part.ra), ...cube(part.b, part.rb)] : cube([0, 0, 0], 1);
}
