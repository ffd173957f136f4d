import sharp from 'sharp';
import { wristScene } from '../src/lib/core/phantom/bones/wrist';
import { bodyPicture } from '../src/lib/core/phantom/foreign/bodyPicture';
import { eyePhotograph } from '../src/lib/core/phantom/foreign/eyePhotograph';
import { markerPicture } from '../src/lib/core/phantom/foreign/markerPicture';
import { roundJoint } from '../src/lib/core/phantom/foreign/roundJoint';
import { toothRoot } from '../src/lib/core/phantom/foreign/toothRoot';
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

/** How writing is laid over pictures. */
const manners = [
  'plain',
  'grey',
  'outlined',
  'in a box',
  'packed as JPEG',
  'turned',
  'tiny',
  'in rows',
  'coloured',
  'in steps'
] as const;
type Manner = (typeof manners)[number];

const eightBit = (raster: Raster): Raster => {
  let most = 1;
  for (const value of raster.data) most = Math.max(most, value);
  const data = Uint8Array.from(raster.data, (value) => Math.round((255 * value) / most));
  return { ...raster, data, bitsStored: 8, offset: 0 };
};

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
    if (!neighbours.includes('letter')) return eightBit(raster);
  }
}

/** The same of more kinds: joints, roots of teeth, wrists, photographs of eyes. */
function anyGround(k: number, random: SeededRandom): Raster {
  const transfer = transfers[Math.floor(4 * random.uniform())];
  switch (k % 5) {
    case 0:
      return eightBit(roundJoint(transfer, random).raster);
    case 1:
      return eightBit(toothRoot(transfer, random).raster);
    case 2: {
      const wrist = { inclinationDeg: 24, volarTiltDeg: 9, ulnarVarianceMm: 1 };
      const scene = wristScene({ seed: k, side: 'right', ...wrist }, k % 2 ? 'front' : 'side');
      return eightBit(bodyPicture(scene, transfer, random).raster);
    }
    case 3:
      return eyePhotograph(random).raster;
    default:
      return ground(k, random);
  }
}

/** How much ink lies at each pixel of a picture: rows of text at a place, drawn by whatever this machine has. */
async function inkOf(
  { width, height }: { width: number; height: number },
  rows: readonly string[],
  at: { x: number; y: number; size: number; family: string; outlinePx?: number }
): Promise<Buffer> {
  const outline = at.outlinePx ? `stroke="#fff" stroke-width="${at.outlinePx}"` : '';
  const lines = rows.map(
    (text, i) =>
      `<text x="${at.x}" y="${at.y + (1 + 1.3 * i) * at.size}" font-family="${at.family}" font-size="${at.size}" fill="#fff" ${outline}>${text}</text>`
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${lines.join('')}</svg>`;
  return sharp(Buffer.from(svg)).extractChannel('alpha').raw().toBuffer();
}

/** Turned by a quarter, counted along its own rows; clockwise or not. */
function turnedInk(ink: Buffer, width: number, height: number, clockwise: boolean): Buffer {
  const out = Buffer.alloc(ink.length);
  // The ink lies in a picture as wide as this one is high.
  for (let v = 0; v < width; v++)
    for (let u = 0; u < height; u++)
      out[clockwise ? u * width + (width - 1 - v) : (height - 1 - u) * width + v] = ink[v * height + u];
  return out;
}

/** Lays a colour over a picture where there is ink. */
function laidOver(data: Raster['data'], channels: number, ink: Uint8Array, colour: readonly number[]): void {
  ink.forEach((alpha, i) => {
    if (alpha === 0) return;
    for (let c = 0; c < channels; c++) {
      const at = i * channels + c;
      data[at] = Math.round(data[at] * (1 - alpha / 255) + (colour[c] * alpha) / 255);
    }
  });
}

const inColours = (raster: Raster): Raster =>
  raster.channels === 3
    ? raster
    : {
        ...raster,
        channels: 3,
        data: Uint8Array.from({ length: 3 * raster.data.length }, (_, i) => raster.data[Math.floor(i / 3)])
      };
const paints = [
  [255, 255, 0],
  [0, 255, 0],
  [255, 160, 0],
  [0, 200, 255]
];

/** Writes over a picture. Returns it and which pixels are ink; null where the text does not fit. */
async function stamped(
  plain: Raster,
  family: string,
  random: SeededRandom,
  manner: Manner = 'plain'
): Promise<{ raster: Raster; mask: Uint8Array } | null> {
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const raster = manner === 'coloured' ? inColours(plain) : { ...plain, data: plain.data.slice() };
  const { width, height, channels, data } = raster;
  const [across, down] = manner === 'turned' ? [height, width] : [width, height];
  const size = (manner === 'tiny' ? any(6.5, 9) : 9 * (48 / 9) ** random.uniform()) / 0.72;
  const most = Math.floor((0.9 * across) / (0.75 * size));
  const rows = Array.from({ length: manner === 'in rows' ? 4 : 1 }, () =>
    texts[Math.floor(random.uniform() * texts.length)].slice(0, most)
  );
  const tall = (0.6 + 1.3 * rows.length) * size;
  if (tall > down || rows[0].length < 4) return null;
  const at = { x: 6, y: any(0, down - tall), size, family };
  let ink = await inkOf({ width: across, height: down }, rows, at);
  if (manner === 'in steps') ink = Buffer.from(ink.map((alpha) => (alpha > 110 ? 255 : 0)));
  if (manner === 'turned') ink = turnedInk(ink, width, height, random.uniform() < 0.5);
  const mask = Uint8Array.from(ink, (alpha) => (alpha > 128 ? 1 : 0));
  let [under, count] = [0, 0];
  mask.forEach((is, i) => {
    if (is === 0) return;
    under += data[i * channels];
    count++;
  });
  const dark = under / count < 128;
  let colour = [dark ? 255 : 0];
  if (manner === 'grey') colour = [under / count + (dark ? 100 : -100)];
  if (manner === 'outlined') {
    const outlinePx = Math.max(2, size / 7);
    laidOver(data, channels, await inkOf(raster, rows, { ...at, outlinePx }), [0, 0, 0]);
    colour = [255];
  }
  if (manner === 'in a box') {
    const box = Buffer.alloc(ink.length);
    for (let y = Math.floor(at.y); y < Math.min(height, at.y + 1.5 * size); y++)
      box.fill(255, y * width, y * width + Math.min(width, Math.round(12 + 0.7 * size * rows[0].length)));
    laidOver(data, channels, box, dark ? [0, 0, 0] : [255, 255, 255]);
  }
  if (manner === 'coloured') colour = paints[Math.floor(paints.length * random.uniform())];
  laidOver(data, channels, ink, colour.length === 3 ? colour : [colour[0], colour[0], colour[0]]);
  if (manner !== 'packed as JPEG') return { raster, mask };
  const packed = await sharp(data as Uint8Array, { raw: { width, height, channels } })
    .jpeg({ quality: Math.round(any(50, 85)) })
    .toColourspace(channels === 1 ? 'b-w' : 'srgb')
    .raw()
    .toBuffer();
  return { raster: { ...raster, data: new Uint8Array(packed) }, mask };
}

/** Pieces of letters, and how many of them lie inside a box that was found. */
function tallied(raster: Raster, mask: Uint8Array): { all: number; found: number } {
  const boxes = findLettering([raster]);
  const pieces = regionsOf((at) => mask[at] === 1, raster.width, raster.height).filter(
    ({ pixels }) => pixels >= 4
  );
  const found = pieces.filter((letter) =>
    boxes.some(
      ({ left, top, width, height }) =>
        letter.left >= left &&
        letter.top >= top &&
        letter.right < left + width &&
        letter.bottom < top + height
    )
  );
  return { all: pieces.length, found: found.length };
}

/** How much of some pictures' writing is found. */
async function truthOf(
  name: string,
  count: number,
  picture: (k: number) => ReturnType<typeof stamped>
): Promise<Truth> {
  let [all, found] = [0, 0];
  for (let k = 0; k < count; k++) {
    const made = await picture(k);
    if (!made) continue;
    const told = tallied(made.raster, made.mask);
    all += told.all;
    found += told.found;
  }
  return { name: `Writing ${name}: pieces of letters inside a box`, right: found, of: all, must: 0.98 };
}

/** How much of writing in letters of other makers is found, and how often some is seen where there is none. */
export async function truthOfLettering(): Promise<Truth[]> {
  const out: Truth[] = [];
  for (const family of families)
    out.push(
      await truthOf(`in ${family} letters`, pictures, (k) => {
        const random = seededRandom(70_000 + k);
        return stamped(ground(k, random), family, random);
      })
    );
  for (const manner of manners)
    out.push(
      await truthOf(`laid over other pictures, ${manner}`, pictures / 2, (k) => {
        const random = seededRandom(75_000 + 100 * manners.indexOf(manner) + k);
        return stamped(anyGround(k, random), families[k % 3], random, manner);
      })
    );
  for (const [name, of] of [
    ['Pictures without writing that are given no box', ground],
    ['The same, of more kinds', anyGround]
  ] as const) {
    let quiet = 0;
    for (let k = 0; k < 2 * pictures; k++)
      if (findLettering([of(500 + k, seededRandom(80_000 + k))]).length === 0) quiet++;
    out.push({ name, right: quiet, of: 2 * pictures, must: 0.97 });
  }
  return out;
}
