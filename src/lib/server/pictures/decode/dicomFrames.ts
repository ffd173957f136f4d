import dicomParser, { type DataSet } from 'dicom-parser';
import type { Raster } from '../../../core/raster/raster';
import { decoders } from './codecs';
import { Unusable, cutOff } from './opened';
import { type Palette, coloured, paletteOf } from './palette';

const plain = ['1.2.840.10008.1.2', '1.2.840.10008.1.2.1', '1.2.840.10008.1.2.1.99', '1.2.840.10008.1.2.2'];
const bigEndian = '1.2.840.10008.1.2.2';
const runLength = '1.2.840.10008.1.2.5';

const syntaxNames: Record<string, string> = {
  '1.2.840.10008.1.2.4.51': 'JPEG extended, 12 bit',
  '1.2.840.10008.1.2.4.100': 'MPEG-2 video',
  '1.2.840.10008.1.2.4.102': 'MPEG-4 video',
  '1.2.840.10008.1.2.4.103': 'MPEG-4 video'
};

/** How the pixel data of a file is laid out, the same for all its frames. */
export interface PixelLayout {
  syntax: string;
  width: number;
  height: number;
  frames: number;
  /** As stored: 1 where a palette makes three of it. */
  channels: 1 | 3;
  bitsAllocated: 8 | 16;
  bitsStored: number;
  highBit: number;
  signed: boolean;
  photometric: string;
  planar: boolean;
  palette: Palette | null;
}

/** @throws Unusable in words for what can't be shown */
export function layoutOf(set: DataSet, frames: number): PixelLayout {
  const bitsAllocated = set.uint16('x00280100') ?? 0;
  const bitsStored = set.uint16('x00280101') ?? bitsAllocated;
  const channels = set.uint16('x00280002') === 3 ? 3 : 1;
  const photometric = set.string('x00280004') ?? 'MONOCHROME2';
  const syntax = set.string('x00020010') ?? '1.2.840.10008.1.2';
  if ((bitsAllocated !== 8 && bitsAllocated !== 16) || bitsStored > bitsAllocated || bitsStored < 1) {
    throw new Unusable(
      'unsupported-depth',
      `This DICOM file has ${bitsAllocated} bits a sample, which can’t be shown.`,
      'Export it with 8 or 16 bits.'
    );
  }
  if (channels === 3 && bitsAllocated !== 8) {
    throw new Unusable(
      'unsupported-colour',
      `This DICOM file codes its colours in a way that can’t be shown (${photometric}, ${bitsAllocated} bits).`,
      'Export it as 8-bit RGB.'
    );
  }
  if (!plain.includes(syntax) && !decoders[syntax]) {
    throw new Unusable(
      'unsupported-compression',
      `This DICOM file is compressed in a way that can’t be opened (${syntaxNames[syntax] ?? syntax}).`,
      'Export it uncompressed, or as JPEG lossless, JPEG-LS, JPEG 2000 or RLE.'
    );
  }
  return {
    syntax,
    width: set.uint16('x00280011') ?? 0,
    height: set.uint16('x00280010') ?? 0,
    frames,
    channels,
    bitsAllocated,
    bitsStored,
    highBit: set.uint16('x00280102') ?? bitsStored - 1,
    signed: set.uint16('x00280103') === 1,
    photometric,
    planar: set.uint16('x00280006') === 1,
    palette: photometric === 'PALETTE COLOR' ? paletteOf(set) : null
  };
}

/** One frame's samples, whatever they were stored as. */
export async function frameOf(set: DataSet, layout: PixelLayout, index: number): Promise<Raster> {
  const { width, height, channels, bitsAllocated, bitsStored, highBit, signed, syntax, photometric } = layout;
  if (!(index >= 0 && index < layout.frames)) throw new RangeError(`there is no frame ${index}`);
  const expected = width * height * channels * (bitsAllocated / 8);
  const isPlain = plain.includes(syntax);
  const raw = isPlain
    ? plainFrame(set, expected, index, bitsAllocated === 16 && syntax === bigEndian)
    : await decoders[syntax](encapsulated(set, index, layout.frames), {
        width,
        height,
        channels,
        bitsAllocated
      });
  if (raw.length < expected) throw cutOff('DICOM');
  const samples = unpacked(raw, expected, bitsAllocated, bitsStored, highBit, signed && !layout.palette);
  const size = { width, height };
  if (layout.palette) {
    return { ...size, channels: 3, bitsStored: 8, offset: 0, data: coloured(samples, layout.palette) };
  }
  const interleaved = layout.planar && channels === 3 && isPlain ? byPixel(samples) : samples;
  const isYbr = /^YBR_FULL/.test(photometric) && (isPlain || syntax === runLength);
  return {
    ...size,
    channels,
    bitsStored: bitsAllocated === 8 ? 8 : bitsStored,
    offset: signed ? -(2 ** (bitsStored - 1)) : 0,
    data: isYbr ? fromYbr(interleaved as Uint8Array) : interleaved
  };
}

function plainFrame(set: DataSet, expected: number, index: number, swap: boolean): Uint8Array {
  const { dataOffset, length } = set.elements.x7fe00010;
  const all = set.byteArray as Uint8Array;
  const from = dataOffset + index * expected;
  if (length < (index + 1) * expected || from + expected > all.length) throw cutOff('DICOM');
  const bytes = all.slice(from, from + expected);
  if (swap) {
    for (let i = 0; i < bytes.length; i += 2) [bytes[i], bytes[i + 1]] = [bytes[i + 1], bytes[i]];
  }
  return bytes;
}

/** The compressed bytes of one frame: its own fragment, or those that the offset table or the marks in it tell. */
function encapsulated(set: DataSet, index: number, frames: number): Uint8Array {
  const element = set.elements.x7fe00010;
  const { fragments, basicOffsetTable } = element;
  if (!fragments || fragments.length === 0) throw cutOff('DICOM');
  const from = (start: number, count: number) =>
    Uint8Array.from(
      dicomParser.readEncapsulatedPixelDataFromFragments(set, element, start, count, fragments) as Uint8Array
    );
  try {
    if (frames === 1) return from(0, fragments.length);
    if (fragments.length === frames) return from(index, 1);
    const offsets =
      basicOffsetTable && basicOffsetTable.length === frames
        ? basicOffsetTable
        : dicomParser.createJPEGBasicOffsetTable(set, element);
    return Uint8Array.from(
      dicomParser.readEncapsulatedImageFrame(set, element, index, offsets, fragments) as Uint8Array
    );
  } catch {
    throw cutOff('DICOM');
  }
}

/** Masks and shifts to the stored bits; signed samples are moved up so that they are unsigned. */
function unpacked(
  raw: Uint8Array,
  expected: number,
  allocated: number,
  stored: number,
  highBit: number,
  signed: boolean
): Uint8Array | Uint16Array {
  const shift = Math.max(0, highBit + 1 - stored);
  const mask = (1 << stored) - 1;
  const flip = signed ? 1 << (stored - 1) : 0;
  if (allocated === 8) {
    const out = raw.slice(0, expected);
    if (stored < 8 || flip) for (let i = 0; i < out.length; i++) out[i] = ((out[i] >> shift) & mask) ^ flip;
    return out;
  }
  const out = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + expected));
  if (stored < 16 || flip) for (let i = 0; i < out.length; i++) out[i] = ((out[i] >> shift) & mask) ^ flip;
  return out;
}

function byPixel<T extends Uint8Array | Uint16Array>(planes: T): T {
  const count = planes.length / 3;
  const out = planes.slice() as T;
  for (let i = 0; i < count; i++) for (let c = 0; c < 3; c++) out[i * 3 + c] = planes[c * count + i];
  return out;
}

/** Full-range YBR to RGB (PS3.3 C.7.6.3.1.2). */
function fromYbr(ybr: Uint8Array): Uint8Array {
  const out = new Uint8ClampedArray(ybr.length);
  for (let i = 0; i < ybr.length; i += 3) {
    const [y, b, r] = [ybr[i], ybr[i + 1] - 128, ybr[i + 2] - 128];
    out[i] = y + 1.402 * r;
    out[i + 1] = y - 0.344136 * b - 0.714136 * r;
    out[i + 2] = y + 1.772 * b;
  }
  return new Uint8Array(out.buffer);
}
