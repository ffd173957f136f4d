/** A rectangle in pixels of a picture. */
export interface Area {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** The least area that holds both. */
export function around(a: Area, b: Area): Area {
  const [left, top] = [Math.min(a.left, b.left), Math.min(a.top, b.top)];
  return {
    left,
    top,
    width: Math.max(a.left + a.width, b.left + b.width) - left,
    height: Math.max(a.top + a.height, b.top + b.height) - top
  };
}

/** The share of the smaller of two areas that lies in both. */
export function overlap(a: Area, b: Area): number {
  const w = Math.min(a.left + a.width, b.left + b.width) - Math.max(a.left, b.left);
  const h = Math.min(a.top + a.height, b.top + b.height) - Math.max(a.top, b.top);
  return w > 0 && h > 0 ? (w * h) / Math.min(a.width * a.height, b.width * b.height) : 0;
}
