import sharp from 'sharp';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import type { ObjectPixels } from '../../core/dicom/objects/objectFacts';
import { writeDicomFile } from '../../core/dicom/write';
import { seededRandom } from '../../core/random';
import type { Raster } from '../../core/raster/raster';

export const [width, height] = [61, 47];
const random = seededRandom(3);
/** Smooth with some noise, so that every codec has something to do. */
export const deep = Uint16Array.from({ length: width * height }, (_, i) =>
  Math.round(((i % width) * 700 + 900 * random.uniform()) % 65536)
);
export const grey8 = Uint8Array.from(deep, (v) => v >> 8);
export const colour = Uint8Array.from({ length: width * height * 3 }, (_, i) => (i * 7) % 256);
export const raster = (data: Uint8Array | Uint16Array, channels: 1 | 3, bitsStored: number): Raster => ({
  width,
  height,
  channels,
  bitsStored,
  offset: 0,
  data
});
export const greyPng16 = () =>
  sharp(deep, { raw: { width, height, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toBuffer();
export const unplaced = { slot: null, directions: null, places: [] };
export const dicom = (of: Raster, more: Partial<ObjectPixels> = {}) => {
  const { data, ...shape } = of;
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const pixels = { ...shape, frames: 1, frameMs: null, bytes, ...more };
  return Buffer.from(writeDicomFile(datasetForPicture(exampleFacts({ ...unplaced, pixels }))));
};
