/**
 * A Zernike circle polynomial by its OSA/ANSI index (Z80.28), normalised to rms 1: n and m from the index, radial part
 * by its factorial sum. Worked value: index 4 (defocus) at the rim is sqrt(3).
 */
export function zernike(index: number, rho: number, phi: number): number {
  const n = Math.ceil((-3 + Math.sqrt(9 + 8 * index)) / 2);
  const m = 2 * index - n * (n + 2);
  const am = Math.abs(m);
  let radial = 0;
  for (let k = 0; k <= (n - am) / 2; k++) {
    radial +=
      ((k % 2 === 0 ? 1 : -1) * factorial(n - k) * rho ** (n - 2 * k)) /
      (factorial(k) * factorial((n + am) / 2 - k) * factorial((n - am) / 2 - k));
  }
  const norm = Math.sqrt((m === 0 ? 1 : 2) * (n + 1));
  return norm * radial * (m >= 0 ? Math.cos(am * phi) : Math.sin(am * phi));
}

function factorial(n: number): number {
  let product = 1;
  for (let i = 2; i <= n; i++) product *= i;
  return product;
}
