/** Products of Chebyshev polynomials T_i(u) T_j(v) with i + j up to a degree: well apart on the square from -1 to 1. */
export interface Basis {
  degree: number;
  count: number;
  /** The two degrees of each term. */
  terms: readonly (readonly [number, number])[];
}

export function basisOf(degree: number): Basis {
  const terms: [number, number][] = [];
  for (let n = 0; n <= degree; n++) for (let j = 0; j <= n; j++) terms.push([n - j, j]);
  return { degree, count: terms.length, terms };
}

/** Room for one point's values and slopes of all terms. */
export interface BasisValues {
  value: Float64Array;
  du: Float64Array;
  dv: Float64Array;
  /** Polynomials and slopes along u and along v, by degree. */
  lines: [Float64Array, Float64Array, Float64Array, Float64Array];
}

export function roomFor({ count, degree }: Basis): BasisValues {
  const line = () => new Float64Array(degree + 1);
  return {
    value: new Float64Array(count),
    du: new Float64Array(count),
    dv: new Float64Array(count),
    lines: [line(), line(), line(), line()]
  };
}

/** Values and slopes of all terms at u, v; slopes by T_n' = n U_(n-1), here by its recurrence. */
export function evaluateBasis({ degree, terms }: Basis, u: number, v: number, out: BasisValues): void {
  const [tu, tv, su, sv] = out.lines;
  chebyshev(u, degree, tu, su);
  chebyshev(v, degree, tv, sv);
  for (let k = 0; k < terms.length; k++) {
    const [i, j] = terms[k];
    out.value[k] = tu[i] * tv[j];
    out.du[k] = su[i] * tv[j];
    out.dv[k] = tu[i] * sv[j];
  }
}

function chebyshev(x: number, degree: number, t: Float64Array, slope: Float64Array): void {
  t[0] = 1;
  slope[0] = 0;
  if (degree === 0) return;
  t[1] = x;
  slope[1] = 1;
  for (let n = 2; n <= degree; n++) {
    t[n] = 2 * x * t[n - 1] - t[n - 2];
    slope[n] = 2 * t[n - 1] + 2 * x * slope[n - 1] - slope[n - 2];
  }
}
