import sharp from 'sharp';
import { markerPicture } from '../src/lib/core/phantom/foreign/markerPicture';
import { type SeededRandom, seededRandom } from '../src/lib/core/random';
import { asShown } from '../src/lib/core/raster/advice/exposure';
import { leadLetterIn } from '../src/lib/core/raster/advice/leadLetters';
import { patchOfRaster } from '../src/lib/core/raster/patch';
import type { Truth } from './measuring';

/** Whatever this machine draws under these names: other letters than those that are looked for. */
const families = ['sans-serif', 'serif', 'monospace'] as const;
const transfers = ['linear', 'logarithmic', 'curved', 'root'] as const;
const [width, height] = [560, 620];
const pictures = 48;

/** How much lead lies at a pixel: one letter, leaning, turned by quarters, mirrored or not. */
async function leadOf(letter: string, mirrored: boolean, k: number, random: SeededRandom) {
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const tall = Math.round(any(0.03, 0.09) * height);
  const side = 4 * tall;
  const words = `font-family="${families[k % families.length]}" font-weight="${k % 2 ? 'bold' : 'normal'}" font-size="${1.37 * tall}"`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}"><g transform="rotate(${any(-12, 12)} ${side / 2} ${side / 2})"><text x="${side / 2}" y="${0.62 * side}" text-anchor="middle" ${words} fill="#fff">${letter}</text></g></svg>`;
  const ink = await sharp(Buffer.from(svg)).extractChannel('alpha').raw().toBuffer();
  const middle = {
    x: any(0.1, 0.9) * width,
    y: (random.uniform() < 0.5 ? any(0.08, 0.2) : any(0.8, 0.92)) * height
  };
  const turns = Math.floor(4 * random.uniform());
  return (x: number, y: number): number => {
    let [dx, dy] = [x - middle.x, y - middle.y];
    for (let i = 0; i < turns; i++) [dx, dy] = [dy, -dx];
    const u = Math.round((mirrored ? -dx : dx) + side / 2);
    const v = Math.round(dy + side / 2);
    return u < 0 || v < 0 || u >= side || v >= side ? 0 : ink[v * side + u] / 255;
  };
}

function read(k: number, neighbours: number, lead?: (x: number, y: number) => number, depth = 0) {
  const random = seededRandom(320_000 + k);
  const picture = markerPicture(
    {
      transfer: transfers[k % 4],
      marker: (['none', 'ball', 'ruler', 'bar', 'disc'] as const)[k % 5],
      neighbours,
      width,
      height,
      imaging: { denseBright: true, counts: 10 ** (3.4 + 0.9 * random.uniform()) },
      faults: lead && { beam: (x, y) => Math.exp(-depth * lead(x, y)) }
    },
    random
  );
  // An angle of metal lies there like an L, and is read as one.
  if (picture.neighbours.includes('letter')) return 'angle';
  return leadLetterIn(patchOfRaster(asShown(picture.raster)));
}

/** Letters of lead in pictures of limbs by detectors of other makes, with metal beside them, and other letters, and none. */
export async function truthOfLeadLetters(): Promise<Truth[]> {
  const tally = { right: 0, wrong: 0, of: 0, others: 0, othersOf: 0, clean: 0, cleanOf: 0 };
  for (let k = 0; k < pictures; k++) {
    const random = seededRandom(310_000 + k);
    const letter = k % 4 < 2 ? 'R' : 'L';
    const mirrored = random.uniform() < 0.4;
    const depth = 1.5 + 3.5 * random.uniform();
    const found = read(k, k % 3, await leadOf(letter, mirrored, k, random), depth);
    if (found !== 'angle') {
      tally.of++;
      if (found?.letter === letter && found.mirrored === mirrored) tally.right++;
      else if (found) tally.wrong++;
    }
    const other = read(1000 + k, k % 3, await leadOf('BPKEDFHA'[k % 8], mirrored, k, random), depth);
    if (other !== 'angle') tally.othersOf++;
    if (other === null) tally.others++;
    const clean = read(2000 + k, 1 + (k % 5));
    if (clean !== 'angle') tally.cleanOf++;
    if (clean === null) tally.clean++;
  }
  const name = 'Lead letters in other makes';
  return [
    {
      name: `${name}: R and L read, and whether they are mirrored`,
      right: tally.right,
      of: tally.of,
      must: 0.8
    },
    { name: `${name}: none read wrongly`, right: tally.of - tally.wrong, of: tally.of, must: 0.98 },
    { name: `${name}: other letters not read as one`, right: tally.others, of: tally.othersOf, must: 0.98 },
    { name: `${name}: none seen where none is`, right: tally.clean, of: tally.cleanOf, must: 0.98 }
  ];
}
