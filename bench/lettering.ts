import sharp from 'sharp';
import { markerPicture } from '../src/lib/core/phantom/foreign/markerPicture';
import { eweWithLamb, joint } from '../src/lib/core/phantom/ultrasound/anatomies';
import { sectorLoop } from '../src/lib/core/phantom/ultrasound/sector';
import { type SeededRandom, seededRandom } from '../src/lib/core/random';
import { findLettering } from '../src/lib/core/raster/lettering/findLettering';
import type { Raster } from '../src/lib/core/raster/raster';
import { regionsOf } from '../src/lib/core/raster/regions';
import type { Truth } from './measuring';

const texts = ['DUNMALLOW CORIN', 'Born 17.12.1958', 'QS-1040 Vael', 'Oystergaard, Fenna', 'TIS 0.4 MI 1.1'];
/** Whatever this machine draws under these names: other letters than the devices of the demo write. */
const families = ['sans-serif', 'serif', 'monospace'] as const;
const transfers = ['linear', 'logarithmic', 'curved', 'root'] as const;
const pictures = 30;

/** A picture of no writing, 8 bit as a screen would be saved. */
function ground(k: number, random: SeededRandom): Raster {
  if (k % 3 === 0) {
    const anatomy = k % 2 ? eweWithLamb(k) : joint(k);
    return sectorLoop({ anatomy, seed: k, frames: 1, framesPerSecond: 20, depthMm: 80 }).frames[0];
  }
  for (;;) {
    const { raster, neighbours } = markerPicture(
      { transfer: transfers[k % 4], marker: k % 2 ? 'ball' : 'ruler', neighbours: 2 },
      random
    );
    if (neighbours.includes('letter')) continue;
    let most = 1;
    for (const value of raster.data) most = Math.max(most, value);
    const data = Uint8Array.from(raster.data, (value) => Math.round((255 * value) / most));
    return { ...raster, data, bitsStored: 8, offset: 0 };
  }
}

/** Writes over a picture. Returns which pixels are ink; null where the text does not fit. */
async function stamped(raster: Raster, family: string, random: SeededRandom): Promise<Uint8Array | null> {
  const { width, height, data } = raster;
  const heightPx = 9 * (48 / 9) ** random.uniform();
  const size = heightPx / 0.72;
  const text = texts[Math.floor(random.uniform() * texts.length)].slice(
    0,
    Math.floor((0.9 * width) / (0.75 * size))
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${Math.ceil(1.6 * size)}"><text x="6" y="${1.2 * size}" font-family="${family}" font-size="${size}" fill="#fff">${text}</text></svg>`;
  const written = await sharp(Buffer.from(svg))
    .extractChannel('alpha')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const rows = written.info.height;
  if (rows > height || text.length < 4) return null;
  const top = Math.floor(random.uniform() * (height - rows));
  const mask = new Uint8Array(width * height);
  const under: number[] = [];
  written.data.forEach((alpha, i) => {
    if (alpha <= 128) return;
    mask[top * width + i] = 1;
    under.push(data[top * width + i]);
  });
  const mean = under.reduce((sum, value) => sum + value, 0) / under.length;
  const value = mean < 128 ? 255 : 0;
  written.data.forEach((alpha, i) => {
    const at = top * width + i;
    data[at] = Math.round(data[at] * (1 - alpha / 255) + (value * alpha) / 255);
  });
  return mask;
}

/** How much of writing in letters of other makers is found, and how often some is seen where there is none. */
export async function truthOfLettering(): Promise<Truth[]> {
  const out: Truth[] = [];
  for (const family of families) {
    let [all, found] = [0, 0];
    for (let k = 0; k < pictures; k++) {
      const random = seededRandom(70_000 + k);
      const raster = ground(k, random);
      const mask = await stamped(raster, family, random);
      if (!mask) continue;
      const boxes = findLettering([raster]);
      for (const letter of regionsOf((at) => mask[at] === 1, raster.width, raster.height)) {
        if (letter.pixels < 4) continue;
        all++;
        if (
          boxes.some(
            ({ left, top, width, height }) =>
              letter.left >= left &&
              letter.top >= top &&
              letter.right < left + width &&
              letter.bottom < top + height
          )
        )
          found++;
      }
    }
    out.push({
      name: `Writing in ${family} letters: pieces of letters inside a box`,
      right: found,
      of: all,
      must: 0.98
    });
  }
  let quiet = 0;
  for (let k = 0; k < 2 * pictures; k++)
    if (findLettering([ground(500 + k, seededRandom(80_000 + k))]).length === 0) quiet++;
  out.push({
    name: 'Pictures without writing that are given no box',
    right: quiet,
    of: 2 * pictures,
    must: 0.97
  });
  return out;
}
