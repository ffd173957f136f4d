import type { Patch } from '../../raster/patch';

/** A picture at half the size, four samples made one; an odd last row or column is left out. */
export function halved(patch: Patch): Patch {
  const width = Math.max(1, patch.width >> 1);
  const height = Math.max(1, patch.height >> 1);
  const data = new Float32Array(width * height);
  const { data: from, width: wide } = patch;
  const right = patch.width > 1 ? 1 : 0;
  const below = patch.height > 1 ? wide : 0;
  for (let y = 0; y < height; y++) {
    let at = 2 * y * wide;
    for (let x = 0; x < width; x++, at += 2)
      data[y * width + x] = (from[at] + from[at + right] + from[at + below] + from[at + below + right]) / 4;
  }
  return { picture: { width, height }, left: 0, top: 0, width, height, data };
}
