/** Sums of a least-squares problem: J'WJ, lower triangle row by row, and J'Wr. */
export class NormalEquations {
  readonly matrix: Float64Array;
  readonly right: Float64Array;

  constructor(readonly size: number) {
    this.matrix = new Float64Array(size * size);
    this.right = new Float64Array(size);
  }

  /** Adds one observation: its slopes, what is left of it, its weight. */
  add(row: Float64Array, residual: number, weight: number): void {
    const { size, matrix, right } = this;
    for (let i = 0; i < size; i++) {
      const scaled = row[i] * weight;
      if (scaled === 0) continue;
      right[i] += scaled * residual;
      const at = i * size;
      for (let j = 0; j <= i; j++) matrix[at + j] += scaled * row[j];
    }
  }

  /** Adds a wish that one parameter stays near a value: `weight` times the square of the distance. */
  hold(parameter: number, off: number, weight: number): void {
    this.matrix[parameter * this.size + parameter] += weight;
    this.right[parameter] += weight * off;
  }

  /** The step that least squares asks for, by Cholesky's factors; null where the sums do not determine it. */
  step(): Float64Array | null {
    const factors = this.factored();
    return factors && substituted(factors, this.right, this.size);
  }

  /** Variances of the parameters for observations of variance 1; null as above. */
  variances(of: readonly Float64Array[]): number[] | null {
    const factors = this.factored();
    if (!factors) return null;
    return of.map((row) => {
      const solved = substituted(factors, row, this.size);
      return solved.reduce((sum, value, i) => sum + value * row[i], 0);
    });
  }

  private factored(): Float64Array | null {
    const { size, matrix } = this;
    const factors = matrix.slice();
    for (let i = 0; i < size; i++) {
      for (let j = 0; j <= i; j++) {
        let sum = factors[i * size + j];
        for (let k = 0; k < j; k++) sum -= factors[i * size + k] * factors[j * size + k];
        if (i === j) {
          if (!(sum > 1e-12 * (matrix[i * size + i] || 1))) return null;
          factors[i * size + i] = Math.sqrt(sum);
        } else factors[i * size + j] = sum / factors[j * size + j];
      }
    }
    return factors;
  }
}

function substituted(factors: Float64Array, right: Float64Array, size: number): Float64Array {
  const out = right.slice();
  for (let i = 0; i < size; i++) {
    for (let k = 0; k < i; k++) out[i] -= factors[i * size + k] * out[k];
    out[i] /= factors[i * size + i];
  }
  for (let i = size - 1; i >= 0; i--) {
    for (let k = i + 1; k < size; k++) out[i] -= factors[k * size + i] * out[k];
    out[i] /= factors[i * size + i];
  }
  return out;
}
