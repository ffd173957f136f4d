/**
 * Sums of a least-squares problem: J'WJ, lower triangle row by row, and J'Wr. Observations touch few parameters, and
 * what lies left of a row's first entry stays empty in its factors too (George and Liu, 1981: the envelope).
 */
export class NormalEquations {
  readonly matrix: Float64Array;
  readonly right: Float64Array;
  private readonly first: Int32Array;
  private factors: Float64Array | null | undefined;

  constructor(readonly size: number) {
    this.matrix = new Float64Array(size * size);
    this.right = new Float64Array(size);
    this.first = Int32Array.from({ length: size }, (_, i) => i);
  }

  /** Adds one observation: the parameters it touches in rising order, its slopes by them, what is left of it, its weight. */
  add(which: Int32Array, slopes: Float64Array, count: number, residual: number, weight: number): void {
    const { size, matrix, right, first } = this;
    this.factors = undefined;
    const least = which[0];
    for (let i = 0; i < count; i++) {
      const scaled = slopes[i] * weight;
      const row = which[i];
      if (first[row] > least) first[row] = least;
      right[row] += scaled * residual;
      const at = row * size;
      for (let j = 0; j <= i; j++) matrix[at + which[j]] += scaled * slopes[j];
    }
  }

  /** Adds a wish that one parameter stays near a value: `weight` times the square of the distance. */
  hold(parameter: number, off: number, weight: number): void {
    this.factors = undefined;
    this.matrix[parameter * this.size + parameter] += weight;
    this.right[parameter] += weight * off;
  }

  /** The step that least squares asks for, by Cholesky's factors; null where the sums do not determine it. */
  step(): Float64Array | null {
    return this.solved(this.right);
  }

  /** What the inverse of J'WJ makes of a right side; null as above. */
  solved(right: Float64Array): Float64Array | null {
    const factors = this.factored();
    if (!factors) return null;
    const { size, first } = this;
    const out = right.slice();
    for (let i = 0; i < size; i++) {
      const at = i * size;
      let sum = out[i];
      for (let k = first[i]; k < i; k++) sum -= factors[at + k] * out[k];
      out[i] = sum / factors[at + i];
    }
    this.substituteBack(factors, out);
    return out;
  }

  /**
   * Parameters drawn from the spread that observations of variance 1 leave them (covariance: the inverse of J'WJ).
   * @param normal standard normal deviates
   */
  drawn(normal: () => number): Float64Array | null {
    const factors = this.factored();
    if (!factors) return null;
    const out = Float64Array.from({ length: this.size }, normal);
    this.substituteBack(factors, out);
    return out;
  }

  private substituteBack(factors: Float64Array, out: Float64Array): void {
    const { size, first } = this;
    for (let i = size - 1; i >= 0; i--) {
      const at = i * size;
      const value = (out[i] /= factors[at + i]);
      for (let k = first[i]; k < i; k++) out[k] -= factors[at + k] * value;
    }
  }

  private factored(): Float64Array | null {
    if (this.factors !== undefined) return this.factors;
    const { size, matrix, first } = this;
    const factors = new Float64Array(matrix.length);
    for (let i = 0; i < size; i++) {
      const at = i * size;
      for (let j = first[i]; j <= i; j++) {
        const to = j * size;
        let sum = matrix[at + j];
        for (let k = Math.max(first[i], first[j]); k < j; k++) sum -= factors[at + k] * factors[to + k];
        if (j < i) factors[at + j] = sum / factors[to + j];
        else if (sum > 1e-12 * (matrix[at + i] || 1)) factors[at + i] = Math.sqrt(sum);
        else return (this.factors = null);
      }
    }
    return (this.factors = factors);
  }
}
