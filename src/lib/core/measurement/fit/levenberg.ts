import { solved } from './linear';

export interface FitWish {
  /** Residuals for parameters, written into `out`; as many each time. */
  residuals: (parameters: Float64Array, out: Float64Array) => void;
  count: number;
  start: readonly number[];
  /** Step of each parameter for the numeric slopes; above 0. */
  steps: readonly number[];
  lower?: readonly number[];
  upper?: readonly number[];
  mostIterations?: number;
  /** Stops when the cost shrinks by less than this share. */
  tolerance?: number;
}

export interface FitResult {
  parameters: number[];
  /** Root mean square of the residuals. */
  rms: number;
  iterations: number;
  converged: boolean;
  /** Why it stopped. */
  because: 'cost settled' | 'no step helps' | 'most iterations done' | 'residuals are not numbers';
  /** Parameter covariance, row by row, the residuals' own scatter as their variance; null where it can't be told. */
  covariance: number[][] | null;
}

/**
 * Least squares by Levenberg's and Marquardt's damped steps (Marquardt, 1963) with numeric slopes and simple bounds.
 * Never the start as if it were the answer: `converged` says whether the cost settled.
 */
export function fitted(wish: FitWish): FitResult {
  const { residuals, count, steps } = wish;
  const n = wish.start.length;
  const bound = (p: Float64Array) => {
    for (let i = 0; i < n; i++)
      p[i] = Math.min(wish.upper?.[i] ?? Infinity, Math.max(wish.lower?.[i] ?? -Infinity, p[i]));
    return p;
  };
  let at = bound(Float64Array.from(wish.start));
  const now = new Float64Array(count);
  const other = new Float64Array(count);
  const slopes = Array.from({ length: n }, () => new Float64Array(count));
  const costOf = (r: Float64Array) => r.reduce((sum, value) => sum + value * value, 0);
  residuals(at, now);
  let cost = costOf(now);
  if (!Number.isFinite(cost)) return stopped('residuals are not numbers', 0);
  let damping = 1e-3;
  const most = wish.mostIterations ?? 60;
  let normal: number[][] = [];
  for (let iteration = 1; iteration <= most; iteration++) {
    for (let i = 0; i < n; i++) {
      const moved = Float64Array.from(at);
      const forward = at[i] + steps[i] <= (wish.upper?.[i] ?? Infinity);
      moved[i] += forward ? steps[i] : -steps[i];
      residuals(moved, other);
      for (let k = 0; k < count; k++) slopes[i][k] = (other[k] - now[k]) / (forward ? steps[i] : -steps[i]);
    }
    normal = slopes.map((a) => slopes.map((b) => dot(a, b)));
    const pull = slopes.map((a) => -dot(a, now));
    let helped = false;
    for (let tries = 0; tries < 12; tries++) {
      const damped = normal.map((row, i) => row.map((v, j) => (i === j ? v * (1 + damping) + 1e-30 : v)));
      const step = solved(damped, pull);
      if (step) {
        const next = bound(at.map((value, i) => value + step[i]));
        residuals(next, other);
        const nextCost = costOf(other);
        if (nextCost < cost) {
          const shrunk = (cost - nextCost) / (cost || 1);
          at = next;
          now.set(other);
          cost = nextCost;
          damping = Math.max(1e-12, damping / 6);
          helped = true;
          if (shrunk < (wish.tolerance ?? 1e-9)) return stopped('cost settled', iteration);
          break;
        }
      }
      damping *= 5;
    }
    if (!helped) return stopped(iteration === 1 && cost > 0 ? 'no step helps' : 'cost settled', iteration);
  }
  return stopped('most iterations done', most);

  function stopped(because: FitResult['because'], iterations: number): FitResult {
    const variance = count > n ? cost / (count - n) : NaN;
    const inverse = normal.length > 0 ? inverseOf(normal) : null;
    return {
      parameters: [...at],
      rms: Math.sqrt(cost / count),
      iterations,
      converged: because === 'cost settled' || (because === 'no step helps' && inverse !== null),
      because,
      covariance:
        inverse && Number.isFinite(variance) ? inverse.map((row) => row.map((v) => v * variance)) : null
    };
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

function inverseOf(matrix: number[][]): number[][] | null {
  const columns = matrix.map((_, i) =>
    solved(
      matrix,
      matrix.map((__, k) => (k === i ? 1 : 0))
    )
  );
  if (columns.some((column) => column === null)) return null;
  return matrix.map((_, i) => columns.map((column) => column![i]));
}
