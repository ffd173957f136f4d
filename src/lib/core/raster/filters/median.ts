import { type Patch, type Window, cutOut, madeFor } from '../patch';

/**
 * The median of a square of 3 x 3 or 5 x 5 samples.
 * 3 x 3: columns are sorted once and shared by three neighbours; the median is the middle of the greatest low, the
 * middle middle and the least high (Smith, 1996, as min and max only). 5 x 5: quickselect on the 25.
 */
export function median(patch: Patch, radiusPx: 1 | 2, window: Window = patch): Patch {
  if (radiusPx !== 1 && radiusPx !== 2) throw new RangeError(`radius must be 1 or 2, got ${radiusPx}`);
  const padded = cutOut(patch, window, radiusPx);
  const out = radiusPx === 1 ? ofNine(padded, window) : ofTwentyFive(padded, window);
  return madeFor(patch, window, out);
}

function ofNine(padded: Float32Array, { width, height }: Window): Float32Array {
  const wide = width + 2;
  const out = new Float32Array(width * height);
  const low = new Float32Array(wide);
  const middle = new Float32Array(wide);
  const high = new Float32Array(wide);
  for (let y = 0; y < height; y++) {
    const top = y * wide;
    for (let x = 0; x < wide; x++) {
      let a = padded[top + x];
      let b = padded[top + wide + x];
      let c = padded[top + 2 * wide + x];
      let t = a;
      if (a > b) {
        a = b;
        b = t;
      }
      if (b > c) {
        t = b;
        b = c;
        c = t;
        if (a > b) {
          t = a;
          a = b;
          b = t;
        }
      }
      low[x] = a;
      middle[x] = b;
      high[x] = c;
    }
    const to = y * width;
    for (let x = 0; x < width; x++) {
      let a = low[x];
      if (low[x + 1] > a) a = low[x + 1];
      if (low[x + 2] > a) a = low[x + 2];
      let c = high[x];
      if (high[x + 1] < c) c = high[x + 1];
      if (high[x + 2] < c) c = high[x + 2];
      let b = between(middle[x], middle[x + 1], middle[x + 2]);
      b = between(a, b, c);
      out[to + x] = b;
    }
  }
  return out;
}

function between(a: number, b: number, c: number): number {
  if (a > b) {
    const t = a;
    a = b;
    b = t;
  }
  return c < a ? a : c > b ? b : c;
}

function ofTwentyFive(padded: Float32Array, { width, height }: Window): Float32Array {
  const wide = width + 4;
  const out = new Float32Array(width * height);
  const held = new Float32Array(25);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      for (let dy = 0; dy < 5; dy++) {
        const from = (y + dy) * wide + x;
        for (let dx = 0; dx < 5; dx++) held[dy * 5 + dx] = padded[from + dx];
      }
      out[y * width + x] = select(held, 12);
    }
  }
  return out;
}

/** The k-th smallest, in place (Hoare, 1961). */
function select(held: Float32Array, k: number): number {
  let left = 0;
  let right = held.length - 1;
  while (left < right) {
    const pivot = held[k];
    let i = left;
    let j = right;
    do {
      while (held[i] < pivot) i++;
      while (held[j] > pivot) j--;
      if (i <= j) {
        const t = held[i];
        held[i++] = held[j];
        held[j--] = t;
      }
    } while (i <= j);
    if (j < k) left = i;
    if (i > k) right = j;
  }
  return held[k];
}
