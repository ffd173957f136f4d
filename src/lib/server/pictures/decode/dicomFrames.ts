import { pixelDataTag } from '../../../core/dicom/dictionary';
import type { ReadElement, ReadSet } from '../../../core/dicom/readSet';
import { code, short } from '../../../core/dicom/readValues';
import type { Raster } from '../../../core/raster/raster';
import { canDecode, decodedFrame } from './codecs';
import { fromPlanes, fromYbr, spread422 } from './colour';
import { isNative } from './syntaxByLooks';
import { Unusable, cutOff } from './opened';
import { type LookUpTable, type Palette, coloured, paletteOf, tableOf } from './palette';

const jpegBaseline = '1.2.840.10008.1.2.4.50';

const syntaxNames: Record<string, string> = {
  '1.2.840.10008.1.2.4.51': 'JPEG extended, 12 bit',
  '1.2.840.10008.1.2.4.92': 'JPEG 2000 of several components',
  '1.2.840.10008.1.2.4.93': 'JPEG 2000 of several components',
  '1.2.840.10008.1.2.4.100': 'MPEG-2 video',
  '1.2.840.10008.1.2.4.101': 'MPEG-2 video',
  '1.2.840.10008.1.2.4.102': 'MPEG-4 video',
  '1.2.840.10008.1.2.4.103': 'MPEG-4 video',
  '1.2.840.10008.1.2.4.107': 'HEVC video',
  '1.2.840.10008.1.2.4.201': 'high-throughput JPEG 2000',
  '1.2.840.10008.1.2.4.202': 'high-throughput JPEG 2000',
  '1.2.840.10008.1.2.4.203': 'high-throughput JPEG 2000'
};

/** Photometric interpretations that can be shown, with the channels they have as stored (PS3.3 C.7.6.3.1.2). */
const channelsOf: Record<string, 1 | 3> = {
  MONOCHROME1: 1,
  MONOCHROME2: 1,
  'PALETTE COLOR': 1,
  RGB: 3,
  YBR_FULL: 3,
  YBR_FULL_422: 3,
  YBR_ICT: 3,
  YBR_RCT: 3
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
  /** From stored to modality values, where the file has a table for that. */
  modality: LookUpTable | null;
  remarks: string[];
}

/** @throws Unusable in words for what can't be shown */
export function layoutOf(set: ReadSet, syntax: string, frames: number): PixelLayout {
  const remarks: string[] = [];
  const bitsAllocated = short(set, '00280100') ?? 0;
  const bitsStored = short(set, '00280101') ?? bitsAllocated;
  const said = short(set, '00280002') ?? 1;
  const photometric =
    (code(set, '00280004') ?? '')
      .toUpperCase()
      .replace(/[^A-Z0-9_ ]/g, '')
      .trim() || (said === 3 ? 'RGB' : 'MONOCHROME2');
  const known = channelsOf[photometric];
  const signed = short(set, '00280103') === 1;
  if ((bitsAllocated !== 8 && bitsAllocated !== 16) || bitsStored > bitsAllocated || bitsStored < 1) {
    throw new Unusable(
      'unsupported-depth',
      `This DICOM file has ${bitsStored === bitsAllocated ? '' : `${bitsStored} of `}${bitsAllocated} bits a sample, which can’t be shown.`,
      'Export it with 8 or 16 bits.'
    );
  }
  if (known === undefined || known !== said || (said === 3 && bitsAllocated !== 8)) {
    throw new Unusable(
      'unsupported-colour',
      `This DICOM file codes its colours in a way that can’t be shown (${photometric.slice(0, 20)}, ${said} of ${bitsAllocated} bits).`,
      'Export it as 8-bit RGB.'
    );
  }
  if (!isNative(syntax) && !canDecode(syntax)) {
    throw new Unusable(
      'unsupported-compression',
      `This DICOM file is compressed in a way that can’t be opened (${syntaxNames[syntax] ?? syntax.slice(0, 64)}).`,
      'Export it uncompressed, or as JPEG lossless, JPEG-LS, JPEG 2000 or RLE.'
    );
  }
  const high = short(set, '00280102') ?? bitsStored - 1;
  const sound = high < bitsAllocated && high + 1 >= bitsStored;
  if (!sound)
    remarks.push(`The file’s high bit (${high}) can’t be right; the lowest ${bitsStored} bits are shown.`);
  return {
    syntax,
    width: short(set, '00280011') ?? 0,
    height: short(set, '00280010') ?? 0,
    frames,
    channels: known,
    bitsAllocated,
    bitsStored,
    highBit: sound ? high : bitsStored - 1,
    signed,
    photometric,
    planar: short(set, '00280006') === 1,
    palette: photometric === 'PALETTE COLOR' ? paletteOf(set, signed) : null,
    modality: known === 1 && photometric !== 'PALETTE COLOR' ? modalityTable(set, signed) : null,
    remarks
  };
}

/** The table from stored to modality values (PS3.3 C.11.1), of at most sixteen bits. */
function modalityTable(set: ReadSet, signed: boolean): LookUpTable | null {
  const item = set.elements.get('00283000')?.items?.[0];
  return item ? tableOf(item, '00283002', '00283006', signed) : null;
}

/** Bytes of one frame as native pixel data holds it. */
function nativeBytes({ width, height, channels, bitsAllocated, photometric }: PixelLayout): number {
  if (photometric === 'YBR_FULL_422') return height * 2 * (width + (width % 2));
  return width * height * channels * (bitsAllocated / 8);
}

/** How many whole frames the pixel data holds; null where it is compressed. */
export function framesHeld(set: ReadSet, layout: PixelLayout): number | null {
  const element = set.elements.get(pixelDataTag)!;
  return element.fragments ? null : Math.floor(element.length / nativeBytes(layout));
}

/** One frame's samples, whatever they were stored as. */
export async function frameOf(set: ReadSet, layout: PixelLayout, index: number): Promise<Raster> {
  if (!(index >= 0 && index < layout.frames)) throw new RangeError(`there is no frame ${index}`);
  const { width, height, channels, bitsAllocated, bitsStored, signed, photometric, palette, modality } =
    layout;
  const isPlain = set.elements.get(pixelDataTag)!.fragments === null;
  if (!isPlain && isNative(layout.syntax)) throw contradicts('compressed', 'uncompressed');
  if (isPlain && !isNative(layout.syntax)) throw contradicts('uncompressed', 'compressed');
  const raw = isPlain
    ? nativeFrame(set, layout, index)
    : await decodedFrame(layout.syntax, encapsulated(set, index, layout.frames), {
        width,
        height,
        channels,
        bitsAllocated,
        rgb: photometric === 'RGB'
      });
  const samples = unpacked(raw, layout);
  const offset = signed ? -(2 ** (bitsStored - 1)) : 0;
  const size = { width, height };
  if (palette)
    return { ...size, channels: 3, bitsStored: 8, offset: 0, data: coloured(samples, offset, palette) };
  if (modality)
    return {
      ...size,
      channels: 1,
      bitsStored: modality.bits,
      offset: 0,
      data: mapped(samples, offset, modality)
    };
  if (channels === 1)
    return { ...size, channels, bitsStored: bitsAllocated === 8 ? 8 : bitsStored, offset, data: samples };
  const isYbr = photometric.startsWith('YBR_FULL') && layout.syntax !== jpegBaseline;
  const byPixel = layout.planar && isPlain ? fromPlanes(samples as Uint8Array, 3) : (samples as Uint8Array);
  return { ...size, channels, bitsStored: 8, offset: 0, data: isYbr ? fromYbr(byPixel) : byPixel };
}

const contradicts = (is: string, said: string) =>
  new Unusable(
    'contradicts-itself',
    `This DICOM file contradicts itself: its pixel data is ${is}, and its header says ${said}.`,
    'Ask the sender for it again.'
  );

/** One frame of native pixel data, little endian; without copying where nothing has to be changed. */
function nativeFrame(set: ReadSet, layout: PixelLayout, index: number): Uint8Array {
  const element = set.elements.get(pixelDataTag)!;
  const bytes = nativeBytes(layout);
  if (element.length < (index + 1) * bytes) throw cutOff('DICOM');
  const from = element.from + index * bytes;
  const ordered = inOrder(set, element, from, bytes, layout.bitsAllocated);
  return layout.photometric === 'YBR_FULL_422' ? spread422(ordered, layout.width, layout.height) : ordered;
}

/**
 * Bytes of native pixel data in little-endian order. In a big endian file words are swapped as a whole, also where each
 * holds two samples of eight bits (PS3.5 8.1.1, annex A.3).
 */
function inOrder(set: ReadSet, element: ReadElement, from: number, count: number, bits: 8 | 16): Uint8Array {
  if (set.littleEndian || (bits === 8 && element.vr === 'OB')) return set.bytes.subarray(from, from + count);
  const out = new Uint8Array(count);
  // A frame of an odd number of bytes begins in the middle of a word.
  for (let i = 0; i < count; i++) out[i] = set.bytes[element.from + ((from - element.from + i) ^ 1)];
  return out;
}

/** The compressed bytes of one frame: its own fragment, or those that the offset table or the marks in it tell. */
function encapsulated(set: ReadSet, index: number, frames: number): Uint8Array {
  const [offsets, ...pieces] = set.elements.get(pixelDataTag)!.fragments!;
  if (!offsets || pieces.length === 0) throw cutOff('DICOM');
  const joined = (of: readonly { from: number; length: number }[]) =>
    of.length === 1
      ? set.bytes.slice(of[0].from, of[0].from + of[0].length)
      : Uint8Array.from(Buffer.concat(of.map(({ from, length }) => set.bytes.subarray(from, from + length))));
  if (frames === 1) return joined(pieces);
  if (pieces.length === frames) return joined(pieces.slice(index, index + 1));
  const starts =
    offsets.length === 4 * frames ? startsByTable(set, offsets.from, frames) : startsByMarks(set, pieces);
  const from = starts[index];
  const to = starts[index + 1] ?? Infinity;
  const first = pieces[0].from - 8;
  const ofFrame = pieces.filter((piece) => piece.from - 8 - first >= from && piece.from - 8 - first < to);
  if (from === undefined || ofFrame.length === 0) throw cutOff('DICOM');
  return joined(ofFrame);
}

/** Where frames begin, counted from the first item behind the offset table. */
function startsByTable(set: ReadSet, at: number, frames: number): number[] {
  const view = new DataView(set.bytes.buffer, set.bytes.byteOffset);
  return Array.from({ length: frames }, (_, i) => view.getUint32(at + 4 * i, true));
}

/** The same by the mark that every JPEG frame starts with (FFD8, or FF4F of JPEG 2000). */
function startsByMarks(set: ReadSet, pieces: readonly { from: number; length: number }[]): number[] {
  const first = pieces[0].from - 8;
  return pieces
    .filter(({ from }) => set.bytes[from] === 0xff && [0xd8, 0x4f].includes(set.bytes[from + 1]))
    .map(({ from }) => from - 8 - first);
}

/** Masks and shifts to the stored bits; signed samples are moved up so that they are unsigned. */
function unpacked(raw: Uint8Array, layout: PixelLayout): Uint8Array | Uint16Array {
  const { width, height, channels, bitsAllocated, bitsStored, highBit, signed } = layout;
  const count = width * height * channels;
  const bytes = count * (bitsAllocated / 8);
  if (raw.length < bytes) throw cutOff('DICOM');
  const shift = highBit + 1 - bitsStored;
  const mask = (1 << bitsStored) - 1;
  const flip = signed ? 1 << (bitsStored - 1) : 0;
  const aligned = bitsAllocated === 8 || raw.byteOffset % 2 === 0;
  const evenBytes = aligned ? raw : raw.slice(0, bytes);
  const samples =
    bitsAllocated === 8
      ? evenBytes.subarray(0, count)
      : new Uint16Array(evenBytes.buffer, evenBytes.byteOffset, count);
  if (shift === 0 && bitsStored === bitsAllocated && flip === 0) return samples;
  // Few bits in words are kept in bytes, as everything that reads them expects.
  if (bitsStored <= 8) return Uint8Array.from(samples, (value) => ((value >> shift) & mask) ^ flip);
  return samples.map((value) => ((value >> shift) & mask) ^ flip);
}

/** Samples through a table; what lies before or behind it has its first or last entry. */
function mapped(samples: Uint8Array | Uint16Array, offset: number, { first, bits, entries }: LookUpTable) {
  const out = bits > 8 ? new Uint16Array(samples.length) : new Uint8Array(samples.length);
  const last = entries.length - 1;
  for (let i = 0; i < samples.length; i++)
    out[i] = entries[Math.min(last, Math.max(0, samples[i] + offset - first))];
  return out;
}
