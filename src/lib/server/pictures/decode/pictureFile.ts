import readExif from 'exif-reader';
import sharp, { type Metadata, type OutputInfo } from 'sharp';
import { windowLook } from '../../../core/raster/look/look';
import type { Raster } from '../../../core/raster/raster';
import { firstLook } from '../../../core/raster/statistics';
import {
  type Announce,
  type OpenFile,
  type OpenedFile,
  Unusable,
  checkSize,
  cutOff,
  mostPixels
} from './opened';
import type { FileKind } from './sniff';

const names = { png: 'PNG', jpeg: 'JPEG', tiff: 'TIFF' } as const;

/** PNG, JPEG and TIFF, 8 and 16 bit, grey and colour. Turned as the file's own orientation mark says. */
export async function openPictureFile(
  bytes: Uint8Array,
  kind: Exclude<FileKind, 'dicom'>,
  announce: Announce
): Promise<OpenFile> {
  const open = () => sharp(bytes, { limitInputPixels: mostPixels, failOn: 'warning', sequentialRead: true });
  let meta: Metadata;
  try {
    // The header alone is read: however large a picture says it is, it is refused by its own numbers.
    meta = await sharp(bytes, { limitInputPixels: false, failOn: 'warning' }).metadata();
  } catch {
    throw cutOff(names[kind]);
  }
  checkSize(meta.width, meta.height);
  announce(meta.width * meta.height * (meta.channels ?? 3) * (meta.depth === 'uchar' ? 1 : 2));
  if ((meta.pages ?? 1) > 1) {
    throw new Unusable(
      'several-pages',
      `This ${names[kind]} file holds ${meta.pages} pages.`,
      'Save each page as a file of its own and bring those in.'
    );
  }
  const deep = meta.depth === 'ushort' || meta.depth === 'short';
  if (!deep && meta.depth !== 'uchar') {
    throw new Unusable(
      'unsupported-depth',
      `This ${names[kind]} file has samples of a kind that can’t be shown (${meta.depth}).`,
      'Export it with 8 or 16 bits a sample.'
    );
  }
  const grey = meta.space === 'b-w' || meta.space === 'grey16';
  const space = grey ? (deep ? 'grey16' : 'b-w') : deep ? 'rgb16' : 'srgb';
  let data: Buffer;
  let info: OutputInfo;
  try {
    ({ data, info } = await open()
      .autoOrient()
      .removeAlpha()
      .toColourspace(space)
      .raw({ depth: deep ? 'ushort' : 'uchar' })
      .toBuffer({ resolveWithObject: true }));
  } catch {
    throw cutOff(names[kind]);
  }
  const raster = asRaster(data, info, deep);
  const { width, height, channels, bitsStored, offset } = raster;
  return {
    opened: {
      mediaType: `image/${kind}`,
      // Colour comes from a camera; grey may be anything.
      kind: channels === 3 ? 'photograph' : 'other',
      width,
      height,
      channels,
      bitsStored,
      offset,
      frames: 1,
      frameMs: null,
      firstLook: bitsStored === 8 ? windowLook({ center: 128, width: 256 }) : firstLook(raster),
      origin: { manufacturer: '', model: '', fileAttributes: [] },
      remarks:
        deep && channels === 3 ? ['16-bit colour is shown with 8 bits a colour; the original is kept.'] : [],
      takenAt: cameraTime(meta.exif),
      patient: null,
      says: null
    },
    frame: () => Promise.resolve(raster)
  };
}

/** When a camera says it took a picture (EXIF DateTimeOriginal, else DateTime); where it was taken is not read. */
function cameraTime(exif: Buffer | undefined): OpenedFile['takenAt'] {
  if (!exif) return null;
  try {
    const { Photo, Image } = readExif(exif);
    const at = Photo?.DateTimeOriginal ?? Image?.DateTime;
    if (!(at instanceof Date) || Number.isNaN(at.getTime())) return null;
    const [date, time] = at.toISOString().split(/[T.]/);
    return { date: date.replaceAll('-', ''), time: time.replaceAll(':', '') };
  } catch {
    return null;
  }
}

function asRaster(data: Buffer, info: OutputInfo, deep: boolean): Raster {
  const { width, height } = info;
  const channels = info.channels >= 3 ? 3 : 1;
  const count = width * height * info.channels;
  const samples = deep
    ? new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + 2 * count))
    : new Uint8Array(data.subarray(0, count));
  const kept = keepChannels(samples, info.channels, channels);
  if (channels === 3 && kept instanceof Uint16Array) {
    return { width, height, channels, bitsStored: 8, offset: 0, data: Uint8Array.from(kept, (v) => v >> 8) };
  }
  return { width, height, channels, bitsStored: deep ? 16 : 8, offset: 0, data: kept };
}

/** Drops what is neither grey nor colour (an alpha channel that stayed). */
function keepChannels<T extends Uint8Array | Uint16Array>(samples: T, has: number, wanted: number): T {
  if (has === wanted) return samples;
  const pixels = samples.length / has;
  const out = samples.slice(0, pixels * wanted) as T;
  for (let i = 0; i < pixels; i++)
    for (let c = 0; c < wanted; c++) out[i * wanted + c] = samples[i * has + c];
  return out;
}
