import type { Raster } from '../../raster/raster';
import { dots } from '../lettering';
import { seededRandom } from '../../random';
import { ellipsoid, limb, moved } from '../solid/part';
import type { Vec3 } from '../space';
import type { Mouth } from '../teeth/dentition';
import { placeOf } from '../teeth/sizes';
import { noiseAt } from '../xray/weave';
import { type Thing, camera, photograph } from './camera';

/** A mouth with the lips held back, from the front: the crowns as they stand, gums, lips. */
export function mouthPhotograph(mouth: Mouth, seed: number): Raster {
  const teeth = mouth.teeth.map((each): Thing => {
    const dark = each.conditions.some(({ kind }) => kind === 'crown');
    return {
      parts: each.shape.crown.map((part) => moved(part, each.frame)),
      colour: dark ? [0.86, 0.8, 0.6] : [0.93, 0.89, 0.78],
      skin: ([x, y, z]) => 1 + 0.03 * noiseAt(x * 0.6, y * 0.6, z * 0.3, seed),
      shine: 0.1
    };
  });
  const gums: Thing = {
    parts: mouth.teeth.map((each) =>
      moved(
        ellipsoid([0, 0, -7.2], [each.shape.size.width / 2 + 1.6, each.shape.size.depth / 2 + 1.6, 8.4]),
        each.frame
      )
    ),
    colour: [0.82, 0.42, 0.43],
    skin: ([x, y, z]) => 1 + 0.1 * noiseAt(x * 0.5, y * 0.5, z * 0.5, seed + 1),
    shine: 0.25
  };
  const lips: Thing = {
    parts: [1, -1].flatMap((up) =>
      [-1, 1].map((side) => limb([0, -62, up * 27], 9, [side * 34, -50, up * 17], 8))
    ),
    colour: [0.72, 0.38, 0.36],
    skin: ([x, y, z]) => 1 + 0.14 * noiseAt(x * 0.9, y * 0.4, z * 0.4, seed + 2),
    shine: 0.2
  };
  const inside: Thing = { parts: [ellipsoid([0, 4, 0], [30, 30, 30])], colour: [0.3, 0.1, 0.1] };
  const view = camera({
    at: [0, -330, 4],
    towards: [0, -46, 0],
    up: [0, 0, 1],
    pxPerMmThere: 11,
    width: 1000,
    height: 700
  });
  const order = [...teeth].filter((_, i) => placeOf(mouth.teeth[i].shape.tooth) <= 8);
  return photograph(view, [...order, gums, lips, inside], () => [0.34, 0.16, 0.15], seededRandom(seed));
}

/** A wound on skin with a paper scale beside it: five-millimetre blocks, so its size is known. */
export function woundPhotograph(
  seed: number,
  lengthMm: number,
  widthMm: number
): { raster: Raster; pxPerMm: number } {
  const [width, height, pxPerMm] = [1000, 750, 12];
  const random = seededRandom(seed);
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [mx, my] = [(x - width / 2) / pxPerMm, (y - height * 0.42) / pxPerMm];
      const colour = woundColour(mx, my, lengthMm, widthMm, seed);
      const paper = scalePaper((x - 180) / pxPerMm, (y - height + 130) / pxPerMm);
      const light = 0.9 + 0.14 * (1 - Math.hypot(mx / 46, my / 36));
      for (let c = 0; c < 3; c++)
        data[3 * (y * width + x) + c] = Math.max(
          0,
          Math.min(255, 255 * (paper ?? colour)[c] * light + 2.4 * random.normal())
        );
    }
  }
  return { raster: { width, height, channels: 3, bitsStored: 8, offset: 0, data }, pxPerMm };
}

function woundColour(x: number, y: number, lengthMm: number, widthMm: number, seed: number): Vec3 {
  const ragged = 0.16 * noiseAt(x * 0.3, y * 0.3, 1, seed) + 0.06 * noiseAt(x, y, 2, seed);
  const d = Math.hypot((2 * x) / lengthMm, (2 * y) / widthMm) - 1 + ragged;
  const pore = 1 + 0.06 * noiseAt(x * 1.6, y * 1.6, 3, seed) + 0.05 * noiseAt(x * 5, y * 5, 4, seed);
  if (d > 0) {
    const red = Math.exp(-d * 4.5);
    return [(0.83 + 0.04 * red) * pore, (0.64 - 0.2 * red) * pore, (0.55 - 0.17 * red) * pore];
  }
  const grain = noiseAt(x * 0.8, y * 0.8, 5, seed);
  if (grain > 0.32) return [0.78 * pore, 0.66 * pore, 0.34 * pore];
  return [(0.6 + 0.14 * grain) * pore, (0.13 + 0.08 * grain) * pore, (0.12 + 0.05 * grain) * pore];
}

/** A strip of paper, 50 by 6 mm, with blocks of 5 mm, black and white in turn. */
function scalePaper(x: number, y: number): Vec3 | null {
  if (x < -1 || x > 51 || y < -1 || y > 7) return null;
  const block = y > 3 && x >= 0 && x < 50 && Math.floor(x / 5) % 2 === 0;
  return block ? [0.08, 0.08, 0.08] : [0.93, 0.93, 0.9];
}

/** A letter on paper, photographed at a slant, as a phone does it. */
export function paperPhotograph(seed: number, text: readonly string[], turnDeg = 4): Raster {
  const [width, height] = [900, 1200];
  const random = seededRandom(seed);
  const angle = (turnDeg * Math.PI) / 180;
  const ink = new Set<number>();
  const columns = 160;
  for (const [line, words] of text.entries())
    for (const [i, letter] of [...words].entries())
      for (const { column, row } of dots(letter))
        ink.add((14 + line * 11 + row) * columns + 10 + i * 6 + column);
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [u0, v0] = [(x - width / 2) / 5.2, (y - height / 2) / 5.2];
      const slant = 1 + v0 * 0.0006;
      const u = (u0 * Math.cos(angle) + v0 * Math.sin(angle)) * slant + columns / 2;
      const v = (-u0 * Math.sin(angle) + v0 * Math.cos(angle)) * slant + 108;
      const on = u > 0 && u < columns && v > 0 && v < 216;
      const light = 0.98 - 0.2 * (x / width) + 0.03 * noiseAt(x * 0.006, y * 0.006, 1, seed);
      let colour: Vec3 = [0.36 + 0.05 * noiseAt(x * 0.01, y * 0.12, 2, seed), 0.27, 0.19];
      if (on)
        colour = ink.has(Math.floor(v) * columns + Math.floor(u)) ? [0.13, 0.13, 0.2] : [0.95, 0.94, 0.9];
      for (let c = 0; c < 3; c++)
        data[3 * (y * width + x) + c] = Math.max(
          0,
          Math.min(255, 255 * colour[c] * light + 2 * random.normal())
        );
    }
  }
  return { width, height, channels: 3, bitsStored: 8, offset: 0, data };
}
