/** Radial order n and angular frequency m of an OSA/ANSI index (Z80.28). */
export function zernikeIndices(index: number): { n: number; m: number } {
  const n = Math.ceil((-3 + Math.sqrt(9 + 8 * index)) / 2);
  return { n, m: 2 * index - n * (n + 2) };
}

/** What stands before rho^n, rho^(n-2) and so on down to rho^m. */
export const zernikeRadial = (n: number, m: number): number[] =>
  Array.from(
    { length: (n - m) / 2 + 1 },
    (_, k) =>
      ((k % 2 === 0 ? 1 : -1) * factorial(n - k)) /
      (factorial(k) * factorial((n + m) / 2 - k) * factorial((n - m) / 2 - k))
  );

/** Makes the rms over the circle 1. */
export const zernikeNorm = (n: number, m: number): number => Math.sqrt((m === 0 ? 1 : 2) * (n + 1));

/**
 * A Zernike circle polynomial by its OSA/ANSI index (Z80.28), normalised to rms 1: n and m from the index, radial part
 * by its factorial sum. Worked value: index 4 (defocus) at the rim is sqrt(3).
 */
export function zernike(index: number, rho: number, phi: number): number {
  const { n, m } = zernikeIndices(index);
  const am = Math.abs(m);
  const radial = zernikeRadial(n, am).reduce((sum, factor, k) => sum + factor * rho ** (n - 2 * k), 0);
  return zernikeNorm(n, m) * radial * (m >= 0 ? Math.cos(am * phi) : Math.sin(am * phi));
}

function factorial(n: number): number {
  let product = 1;
  for (let i = 2; i <= n; i++) product *= i;
  return product;
}
