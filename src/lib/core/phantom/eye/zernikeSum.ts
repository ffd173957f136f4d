import { zernikeIndices, zernikeNorm, zernikeRadial } from '../../cornea/zernike';

/** Sums of powers: factors[i][j] stands before x^i y^j. */
type Powers = number[][];

/** A value with its slopes. */
export interface Sum {
  value: number;
  dx: number;
  dy: number;
}

/**
 * A sum of Zernike terms written out in powers of x and y, so that it and its slopes cost a few multiplications.
 * @param terms OSA/ANSI index and coefficient
 * @param radiusMm of the circle they are normalised to; x to the picture's right, y down, mm
 */
export function zernikeSum(
  terms: readonly (readonly [number, number])[],
  radiusMm: number
): (x: number, y: number) => Sum {
  let sum: Powers = [[0]];
  for (const [index, coefficient] of terms) {
    const { n, m } = zernikeIndices(index);
    const am = Math.abs(m);
    // r^m cos(m phi) and r^m sin(m phi) are the real and imaginary part of (x + i up)^m.
    const turned = powersOfDirection(am)[m >= 0 ? 0 : 1];
    zernikeRadial(n, am).forEach((factor, k) => {
      const evens = raised([[0, 0, 1], [0], [1]], (n - am) / 2 - k);
      sum = added(sum, times(evens, turned), coefficient * zernikeNorm(n, m) * factor);
    });
  }
  const flat = sum.flatMap((row, i) =>
    row.flatMap((factor, j) => (factor === 0 ? [] : [{ i, j, factor: factor * (j % 2 === 0 ? 1 : -1) }]))
  );
  const [is, js] = [Int32Array.from(flat, ({ i }) => i), Int32Array.from(flat, ({ j }) => j)];
  const factors = Float64Array.from(flat, ({ factor }) => factor / radiusMm);
  const order = Math.max(0, ...is, ...js);
  const xs = new Float64Array(order + 1);
  const ys = new Float64Array(order + 1);
  return (x, y) => {
    xs[0] = ys[0] = 1;
    for (let k = 1; k <= order; k++) {
      xs[k] = (xs[k - 1] * x) / radiusMm;
      ys[k] = (ys[k - 1] * y) / radiusMm;
    }
    let [value, dx, dy] = [0, 0, 0];
    for (let k = 0; k < factors.length; k++) {
      const [i, j, factor] = [is[k], js[k], factors[k]];
      value += factor * xs[i] * ys[j];
      if (i > 0) dx += factor * i * xs[i - 1] * ys[j];
      if (j > 0) dy += factor * j * xs[i] * ys[j - 1];
    }
    return { value: value * radiusMm, dx, dy };
  };
}

function powersOfDirection(m: number): [Powers, Powers] {
  let [real, imaginary]: [Powers, Powers] = [[[1]], [[0]]];
  for (let k = 0; k < m; k++)
    [real, imaginary] = [
      added(times(real, [[0], [1]]), times(imaginary, [[0, 1]]), -1),
      added(times(imaginary, [[0], [1]]), times(real, [[0, 1]]), 1)
    ];
  return [real, imaginary];
}

function raised(base: Powers, exponent: number): Powers {
  let out: Powers = [[1]];
  for (let k = 0; k < exponent; k++) out = times(out, base);
  return out;
}

function times(p: Powers, q: Powers): Powers {
  const out: Powers = [];
  p.forEach((row, i) =>
    row.forEach((a, j) =>
      q.forEach((other, k) =>
        other.forEach((b, l) => {
          out[i + k] ??= [];
          out[i + k][j + l] = (out[i + k][j + l] ?? 0) + a * b;
        })
      )
    )
  );
  return filled(out);
}

function added(p: Powers, q: Powers, share: number): Powers {
  return Array.from({ length: Math.max(p.length, q.length) }, (_, i) =>
    Array.from(
      { length: Math.max(p[i]?.length ?? 0, q[i]?.length ?? 0) },
      (_, j) => (p[i]?.[j] ?? 0) + share * (q[i]?.[j] ?? 0)
    )
  );
}

/** Rows without gaps. */
const filled = (powers: Powers): Powers =>
  Array.from(powers, (row) => Array.from(row ?? [], (factor) => factor ?? 0));
