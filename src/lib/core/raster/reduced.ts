import type { Size } from './orientation';
import type { Patch } from './patch';

/** A picture at half the size, four samples made one; an odd last row or column is left out. */
export function halved({ data, width, height }: Patch): Patch {
  const size = halfOf({ width, height });
  return { picture: size, left: 0, top: 0, ...size, data: quarters(data, width, height, meanOfFour) };
}

/**
 * A picture halved until its longer side is no longer than so many pixels.
 * @returns it, and how many pixels along a side have become one
 */
export function reducedTo(full: Patch, longestPx: number): { small: Patch; factor: number } {
  let small = full;
  let factor = 1;
  while (Math.max(small.width, small.height) > longestPx) {
    small = halved(small);
    factor *= 2;
  }
  return { small, factor };
}

export const halfOf = ({ width, height }: Size): Size => ({
  width: Math.max(1, width >> 1),
  height: Math.max(1, height >> 1)
});

export const meanOfFour = (a: number, b: number, c: number, d: number): number => (a + b + c + d) / 4;

/** Each two by two samples made one; in a picture of one column or row that one is taken twice. */
export function quarters(
  from: Float32Array,
  width: number,
  height: number,
  of: (a: number, b: number, c: number, d: number) => number
): Float32Array {
  const half = halfOf({ width, height });
  const out = new Float32Array(half.width * half.height);
  const right = width > 1 ? 1 : 0;
  const below = height > 1 ? width : 0;
  for (let y = 0; y < half.height; y++) {
    let at = 2 * y * width;
    for (let x = 0; x < half.width; x++, at += 2)
      out[y * half.width + x] = of(from[at], from[at + right], from[at + below], from[at + below + right]);
  }
  return out;
}
