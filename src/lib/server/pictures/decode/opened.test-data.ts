import { openFile } from './openFile';
import { type OpenedFile, Unusable } from './opened';
import { seededRandom } from '../../../core/random';
import type { Raster } from '../../../core/raster/raster';
import type { Writing } from './rawFile.test-data';

/** A file opened here and not in a process: what it says it is, and one frame. */
export interface Found extends OpenedFile {
  raster: Raster;
}
export async function opened(bytes: Uint8Array, frame = 0): Promise<Found> {
  const file = await openFile(new Uint8Array(bytes));
  return { ...file.opened, raster: await file.frame(frame) };
}
/** The sentence with which a file is refused; one that is taken, or breaks off, throws. */
export async function refusal(bytes: Uint8Array): Promise<string> {
  const outcome = await opened(bytes).catch((refused: unknown) => refused);
  if (!(outcome instanceof Unusable)) throw outcome instanceof Error ? outcome : new Error('it was taken');
  return outcome.sentence;
}

/** Smooth with some noise, so that every codec has something to do; the whole range of the bits is used. */
export function samples(count: number, width: number, bits: number, seed: number): number[] {
  const random = seededRandom(seed);
  const top = 2 ** bits;
  return Array.from({ length: count }, (_, i) => {
    const slope = ((i % width) / width + Math.floor(i / width) / 97) * top;
    return Math.floor(slope + 0.05 * top * random.uniform()) % top;
  });
}
/** Every native way of writing a file. */
export const writings: Record<string, Writing> = {
  'explicit little endian': {},
  'implicit little endian': { explicit: false },
  'explicit big endian': { littleEndian: false },
  deflated: { deflate: true },
  'without preamble': { preamble: false },
  'a bare data set': { preamble: false, meta: false },
  'a bare implicit data set': { preamble: false, meta: false, explicit: false },
  'zeros behind it': { behind: new Uint8Array(700) },
  'padding behind it': {
    behind: Buffer.from('fcfffcff4f4200000400000000000000', 'hex')
  }
};
