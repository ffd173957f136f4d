/** Sums over squares, a row of them at a time. */
export interface SquareSums {
  /** Sums of all columns before a place, beyond the picture's border as at it: a square's is what is before its end less what is before its start. */
  before: Float64Array;
  /** 1 / how many columns a square about each place has; fewer lie within the picture at its border. */
  share: Float64Array;
  /** Goes on to row `y`, from 0 on and one by one; answers 1 / how many rows its squares have. */
  at: (y: number) => number;
}

/** Sums over squares of 2 half + 1 pixels a side: from row to row one of the picture comes and one goes. */
export function squareSums(data: Float32Array, width: number, height: number, half: number): SquareSums {
  const columns = new Float64Array(width);
  const before = new Float64Array(width + 2 * half + 1);
  const none = new Float32Array(width);
  const rowAt = (y: number) => (y < 0 || y >= height ? none : data.subarray(y * width, (y + 1) * width));
  const withinBorder = (at: number, size: number) => Math.min(size, at + half + 1) - Math.max(0, at - half);
  const share = Float64Array.from({ length: width }, (_, x) => 1 / withinBorder(x, width));
  const moved = (comes: Float32Array, goes: Float32Array) => {
    let sum = 0;
    for (let x = 0; x < width; x++) {
      const column = columns[x] + (comes[x] - goes[x]);
      columns[x] = column;
      before[x + half] = sum;
      sum += column;
    }
    before.fill(sum, width + half);
  };
  for (let y = 0; y < half; y++) moved(rowAt(y), none);
  return {
    before,
    share,
    at: (y) => {
      moved(rowAt(y + half), rowAt(y - half - 1));
      return 1 / withinBorder(y, height);
    }
  };
}

/** Means over squares of 2 half + 1 pixels a side, smaller at the picture's border. */
export function squareMeans(data: Float32Array, width: number, height: number, half: number): Float32Array {
  const { before, share, at } = squareSums(data, width, height, half);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const ofRow = at(y);
    for (let x = 0; x < width; x++)
      out[y * width + x] = (before[x + 2 * half + 1] - before[x]) * share[x] * ofRow;
  }
  return out;
}
