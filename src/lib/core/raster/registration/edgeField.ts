import { gaussian } from '../filters/gaussian';
import type { Patch } from '../patch';

/**
 * Which way edges run, as a number of length 0 to 1 with twice their angle: a strong edge counts no more than a middling
 * one, and one from bright to dark the same as from dark to bright. So another exposure, another curve or a picture
 * turned to its negative has the same field (gradients compared by their direction: Fitch and others, 2002).
 */
export interface EdgeField {
  width: number;
  height: number;
  /** The two parts of the number, row by row. */
  re: Float32Array;
  im: Float32Array;
}

/** @param sigmaPx how wide the picture is smoothed first */
export function edgeFieldOf(patch: Patch, sigmaPx: number): EdgeField {
  const { width, height, data } = gaussian(patch, sigmaPx);
  const [re, im] = [new Float32Array(width * height), new Float32Array(width * height)];
  const steep = new Float32Array(width * height);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const across = data[i + 1] - data[i - 1];
      const down = data[i + width] - data[i - width];
      steep[i] = Math.hypot(across, down);
      re[i] = across * across - down * down;
      im[i] = 2 * across * down;
    }
  const usual = 1.5 * middling(steep) || 1;
  for (let i = 0; i < steep.length; i++) {
    if (!(steep[i] > 0)) continue;
    const weight = 1 / (steep[i] * (steep[i] + usual));
    re[i] *= weight;
    im[i] *= weight;
  }
  return { width, height, re, im };
}

/** The middle of what is above 0, told by a third of it; 0 where nothing is. */
function middling(values: Float32Array): number {
  const some = values.filter((value, i) => i % 3 === 0 && value > 0).sort();
  return some.length > 0 ? some[some.length >> 1] : 0;
}
