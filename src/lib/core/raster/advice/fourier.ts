export interface Turns {
  cos: Float64Array;
  sin: Float64Array;
}

/** Cosines and sines of the turns that a transform of this length takes. */
export function turnsFor(n: number): Turns {
  return {
    cos: Float64Array.from({ length: n >> 1 }, (_, i) => Math.cos((2 * Math.PI * i) / n)),
    sin: Float64Array.from({ length: n >> 1 }, (_, i) => -Math.sin((2 * Math.PI * i) / n))
  };
}

/** Fourier transform of a line in place, radix two (Cooley and Tukey, 1965). Length a power of two. */
export function transform(re: Float64Array, im: Float64Array, turns = turnsFor(re.length)): void {
  const n = re.length;
  const { cos, sin } = turns;
  if ((n & (n - 1)) !== 0) throw new RangeError(`a power of two samples needed, got ${n}`);
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j], re[i]];
      [im[i], im[j]] = [im[j], im[i]];
    }
  }
  for (let length = 2; length <= n; length <<= 1) {
    const half = length >> 1;
    const stride = n / length;
    for (let start = 0; start < n; start += length) {
      for (let k = start, w = 0; k < start + half; k++, w += stride) {
        const wr = cos[w];
        const wi = sin[w];
        const tr = wr * re[k + half] - wi * im[k + half];
        const ti = wr * im[k + half] + wi * re[k + half];
        re[k + half] = re[k] - tr;
        im[k + half] = im[k] - ti;
        re[k] += tr;
        im[k] += ti;
      }
    }
  }
}

/** Of a square of `side` samples a side, rows and then columns, in place. */
export function transformSquare(re: Float64Array, im: Float64Array, side: number): void {
  const turns = turnsFor(side);
  const lineRe = new Float64Array(side);
  const lineIm = new Float64Array(side);
  for (let y = 0; y < side; y++) {
    transform(re.subarray(y * side, (y + 1) * side), im.subarray(y * side, (y + 1) * side), turns);
  }
  for (let x = 0; x < side; x++) {
    for (let y = 0; y < side; y++) {
      lineRe[y] = re[y * side + x];
      lineIm[y] = im[y * side + x];
    }
    transform(lineRe, lineIm, turns);
    for (let y = 0; y < side; y++) {
      re[y * side + x] = lineRe[y];
      im[y * side + x] = lineIm[y];
    }
  }
}
