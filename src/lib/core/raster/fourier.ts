import FFT from 'fft.js';

/** Fourier transform of a square of `side` samples a side, in place. The side is a power of two, above 1. */
export function transformSquare(re: Float64Array, im: Float64Array, side: number): void {
  const line = new LineTransform(side);
  for (let y = 0; y < side; y++) line.inPlace(re, im, y * side, 1);
  for (let x = 0; x < side; x++) line.inPlace(re, im, x, side);
}

/** One line of a picture or one column, real and imaginary parts side by side as the package wants them. */
class LineTransform {
  private readonly of: FFT;
  private readonly from: Float64Array;
  private readonly to: Float64Array;

  constructor(private readonly length: number) {
    this.of = new FFT(length);
    this.from = new Float64Array(2 * length);
    this.to = new Float64Array(2 * length);
  }

  inPlace(re: Float64Array, im: Float64Array, start: number, stride: number): void {
    const { from, to, length } = this;
    for (let i = 0, at = start; i < length; i++, at += stride) {
      from[2 * i] = re[at];
      from[2 * i + 1] = im[at];
    }
    this.of.transform(to, from);
    for (let i = 0, at = start; i < length; i++, at += stride) {
      re[at] = to[2 * i];
      im[at] = to[2 * i + 1];
    }
  }
}
