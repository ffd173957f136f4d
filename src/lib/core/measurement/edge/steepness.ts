import type { Patch } from '../../raster/patch';

export interface Steepness {
  /** How much a picture rises over two pixels, to the right and down; 0 along its rim. */
  dx: Float32Array;
  dy: Float32Array;
  /** Both together. */
  slope: Float32Array;
}

/** How steep a picture is at each pixel, and which way. */
export function steepness({ data, width, height }: Patch): Steepness {
  const [dx, dy, slope] = [0, 0, 0].map(() => new Float32Array(width * height));
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      dx[i] = data[i + 1] - data[i - 1];
      dy[i] = data[i + width] - data[i - width];
      slope[i] = Math.hypot(dx[i], dy[i]);
    }
  return { dx, dy, slope };
}
