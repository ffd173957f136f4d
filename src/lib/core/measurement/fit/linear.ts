/**
 * Solves a small square system by elimination with row exchange.
 * @returns null when the rows depend on one another
 */
export function solved(matrix: readonly (readonly number[])[], right: readonly number[]): number[] | null {
  const n = right.length;
  const rows = matrix.map((row, i) => [...row, right[i]]);
  const size = Math.max(...matrix.map((row) => Math.max(...row.map(Math.abs))));
  for (let i = 0; i < n; i++) {
    let best = i;
    for (let k = i + 1; k < n; k++) if (Math.abs(rows[k][i]) > Math.abs(rows[best][i])) best = k;
    if (!(Math.abs(rows[best][i]) > size * 1e-14)) return null;
    [rows[i], rows[best]] = [rows[best], rows[i]];
    for (let k = i + 1; k < n; k++) {
      const by = rows[k][i] / rows[i][i];
      if (by === 0) continue;
      for (let j = i; j <= n; j++) rows[k][j] -= by * rows[i][j];
    }
  }
  const out = new Array<number>(n);
  for (let i = n - 1; i >= 0; i--) {
    let value = rows[i][n];
    for (let j = i + 1; j < n; j++) value -= rows[i][j] * out[j];
    out[i] = value / rows[i][i];
  }
  return out;
}

/** Weighted least squares: the parameters for which the rows' sums come nearest to the right sides. */
export function leastSquares(
  rows: readonly (readonly number[])[],
  right: readonly number[],
  weights?: readonly number[]
): number[] | null {
  if (rows.length === 0) return null;
  const n = rows[0].length;
  const normal = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const pull = new Array<number>(n).fill(0);
  rows.forEach((row, k) => {
    const weight = weights?.[k] ?? 1;
    for (let i = 0; i < n; i++) {
      pull[i] += weight * row[i] * right[k];
      for (let j = 0; j <= i; j++) normal[i][j] += weight * row[i] * row[j];
    }
  });
  for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) normal[i][j] = normal[j][i];
  return solved(normal, pull);
}

/** Root mean square; 0 for none. */
export const rootMeanSquare = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / Math.max(1, values.length));

/** The middle value; of an even number the mean of the two middle ones. NaN for none. */
export function medianOf(values: ArrayLike<number>): number {
  if (values.length === 0) return NaN;
  const sorted = values.length <= few ? insertionSorted(values) : Float64Array.from(values).sort();
  return (sorted[(sorted.length - 1) >> 1] + sorted[sorted.length >> 1]) / 2;
}

/** So few are put in order faster one by one. */
const few = 24;

function insertionSorted(values: ArrayLike<number>): number[] {
  const out: number[] = [];
  for (let i = 0; i < values.length; i++) {
    const value = values[i];
    let at = i;
    // What is no number comes last, as in the sort above.
    for (; at > 0 && (out[at - 1] > value || Number.isNaN(out[at - 1])); at--) out[at] = out[at - 1];
    out[at] = value;
  }
  return out;
}
