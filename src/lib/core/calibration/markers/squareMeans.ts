/**
 * Sums over everything above and to the left, one wider and one higher than the picture: the sum over any rectangle is
 * four of them (Crow, 1984).
 */
export function summed(data: ArrayLike<number>, width: number, height: number): Float64Array {
  const wide = width + 1;
  const sums = new Float64Array(wide * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    const at = (y + 1) * wide + 1;
    for (let x = 0; x < width; x++) {
      row += data[y * width + x];
      sums[at + x] = sums[at + x - wide] + row;
    }
  }
  return sums;
}

/** Means over squares of 2 half + 1 pixels a side, smaller at the picture's border, from the sums above. */
export function squareMeans(sums: Float64Array, width: number, height: number, half: number): Float32Array {
  const wide = width + 1;
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const top = Math.max(0, y - half);
    const bottom = Math.min(height, y + half + 1);
    for (let x = 0; x < width; x++) {
      const left = Math.max(0, x - half);
      const right = Math.min(width, x + half + 1);
      const sum =
        sums[bottom * wide + right] -
        sums[bottom * wide + left] -
        sums[top * wide + right] +
        sums[top * wide + left];
      out[y * width + x] = sum / ((right - left) * (bottom - top));
    }
  }
  return out;
}
