import type { Point, Size } from '../orientation';
import { type Patch, type Window, wholeOf } from '../patch';

export interface Rotation {
  /** Clockwise as seen, in degrees. */
  angleDeg: number;
  /** What lies outside the picture gets this value. */
  background: number;
}

/** The size that holds the whole turned picture. */
export function rotatedSize({ width, height }: Size, angleDeg: number): Size {
  const [c, s] = cosSin(angleDeg);
  const room = 1e-9;
  return {
    width: Math.ceil(Math.abs(width * c) + Math.abs(height * s) - room),
    height: Math.ceil(Math.abs(width * s) + Math.abs(height * c) - room)
  };
}

/** Image point to its place in the turned picture: about the picture's middle. Undone by {@link fromRotated}. */
export function toRotated(point: Point, size: Size, angleDeg: number): Point {
  const [c, s] = cosSin(angleDeg);
  const out = rotatedSize(size, angleDeg);
  const x = point.x - size.width / 2;
  const y = point.y - size.height / 2;
  return { x: c * x - s * y + out.width / 2, y: s * x + c * y + out.height / 2 };
}

export function fromRotated(point: Point, size: Size, angleDeg: number): Point {
  const [c, s] = cosSin(angleDeg);
  const out = rotatedSize(size, angleDeg);
  const x = point.x - out.width / 2;
  const y = point.y - out.height / 2;
  return { x: c * x + s * y + size.width / 2, y: -s * x + c * y + size.height / 2 };
}

/** Quarter turns have exact cosines, so that they move samples without touching them. */
function cosSin(angleDeg: number): [number, number] {
  if (!Number.isFinite(angleDeg))
    throw new RangeError(`the angle must be a number of degrees, got ${angleDeg}`);
  const turn = ((angleDeg % 360) + 360) % 360;
  if (turn % 90 === 0)
    return [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1]
    ][turn / 90] as [number, number];
  return [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
}

/**
 * A window of the turned picture, each sample by cubic convolution of the sixteen nearest (Keys, 1981, a = -0.5).
 * Quarter turns are exact.
 * @param patch the whole picture
 * @param window in pixels of the turned picture
 */
export function rotated(patch: Patch, { angleDeg, background }: Rotation, window?: Window): Patch {
  const size = patch.picture;
  if (patch.width !== size.width || patch.height !== size.height)
    throw new RangeError('turning needs the whole picture');
  const picture = rotatedSize(size, angleDeg);
  const wish = window ?? wholeOf(picture);
  const [c, s] = cosSin(angleDeg);
  const data = new Float32Array(wish.width * wish.height);
  for (let y = 0; y < wish.height; y++) {
    for (let x = 0; x < wish.width; x++) {
      const ox = wish.left + x + 0.5 - picture.width / 2;
      const oy = wish.top + y + 0.5 - picture.height / 2;
      const px = c * ox + s * oy + size.width / 2;
      const py = -s * ox + c * oy + size.height / 2;
      data[y * wish.width + x] =
        px < 0 || py < 0 || px > size.width || py > size.height
          ? background
          : cubicAt(patch, px - 0.5, py - 0.5);
    }
  }
  return { picture, ...wish, data };
}

function cubicAt({ data, width, height }: Patch, x: number, y: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const u = x - ix;
  const v = y - iy;
  if (u === 0 && v === 0 && ix >= 0 && iy >= 0 && ix < width && iy < height) return data[iy * width + ix];
  const wx = keys(u);
  const wy = keys(v);
  let sum = 0;
  for (let j = 0; j < 4; j++) {
    const row = Math.min(height - 1, Math.max(0, iy - 1 + j)) * width;
    let line = 0;
    for (let i = 0; i < 4; i++) line += wx[i] * data[row + Math.min(width - 1, Math.max(0, ix - 1 + i))];
    sum += wy[j] * line;
  }
  return sum;
}

function keys(u: number): [number, number, number, number] {
  return [
    ((-0.5 * u + 1) * u - 0.5) * u,
    (1.5 * u - 2.5) * u * u + 1,
    ((-1.5 * u + 2) * u + 0.5) * u,
    (0.5 * u - 0.5) * u * u
  ];
}
