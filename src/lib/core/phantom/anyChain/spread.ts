/**
 * Spreads values by a Gaussian of some pixels, tap by tap; edges are continued. In place. Not the product's own Gaussian:
 * what is learned from must not share its faults with what it is judged by.
 */
export function gaussianSpread(data: Float32Array, width: number, height: number, sdPx: number): void {
  if (sdPx < narrowestPx) return;
  const taps = Array.from({ length: Math.ceil(4 * sdPx) + 1 }, (_, i) =>
    Math.exp(-(i * i) / (2 * sdPx * sdPx))
  );
  spreadBy(data, width, height, taps);
}

/** As a square that is half as bright in its middle spreads them: the focal spot of a tube is no Gaussian. */
export function focalSpread(data: Float32Array, width: number, height: number, sdPx: number): void {
  const half = sdPx * Math.sqrt(3);
  const reach = Math.max(0, Math.ceil(half - 0.5));
  const taps = [2 * Math.min(0.5, half)];
  for (let i = 1; i <= reach; i++) taps.push(2 * Math.max(0, Math.min(i + 0.5, half) - (i - 0.5)));
  spreadBy(data, width, height, taps);
}

const narrowestPx = 0.12;

/** @param taps weights of the middle and of one side; their sum need not be one */
function spreadBy(data: Float32Array, width: number, height: number, taps: readonly number[]): void {
  const sum = taps.reduce((total, tap, i) => total + (i > 0 ? 2 * tap : tap), 0);
  const shares = Float64Array.from(taps, (tap) => tap / sum);
  const n = taps.length - 1;
  const across = new Float32Array(width * height);
  const line = new Float64Array(width + 2 * n);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < line.length; x++) line[x] = data[row + Math.min(width - 1, Math.max(0, x - n))];
    for (let x = 0; x < width; x++) {
      let value = shares[0] * line[x + n];
      for (let i = 1; i <= n; i++) value += shares[i] * (line[x + n - i] + line[x + n + i]);
      across[row + x] = value;
    }
  }
  const column = new Float64Array(width);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) column[x] = shares[0] * across[row + x];
    for (let i = 1; i <= n; i++) {
      const above = Math.max(0, y - i) * width;
      const below = Math.min(height - 1, y + i) * width;
      for (let x = 0; x < width; x++) column[x] += shares[i] * (across[above + x] + across[below + x]);
    }
    for (let x = 0; x < width; x++) data[row + x] = column[x];
  }
}
