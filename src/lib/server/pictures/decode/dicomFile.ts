import { convertBytes } from 'dicom-character-set';
import dicomParser, { type DataSet } from 'dicom-parser';
import { inflateRawSync } from 'node:zlib';
import { firstLook } from '../../../core/raster/statistics';
import type { Look } from '../../../core/raster/look';
import type { Raster } from '../../../core/raster/raster';
import { decoders } from './codecs';
import { type Decoded, Unusable, checkSize, cutOff } from './decoded';

const plain = ['1.2.840.10008.1.2', '1.2.840.10008.1.2.1', '1.2.840.10008.1.2.1.99', '1.2.840.10008.1.2.2'];
const bigEndian = '1.2.840.10008.1.2.2';
/** A deflated file may grow to this and no further. */
const mostInflatedBytes = 512 * 1024 * 1024;
/** Longer values are shown by their size. */
const longestText = 300;

const syntaxNames: Record<string, string> = {
  '1.2.840.10008.1.2.4.51': 'JPEG extended, 12 bit',
  '1.2.840.10008.1.2.4.100': 'MPEG-2 video',
  '1.2.840.10008.1.2.4.102': 'MPEG-4 video',
  '1.2.840.10008.1.2.4.103': 'MPEG-4 video'
};

/** A single-frame DICOM picture, grey or colour, 8 to 16 bits, in any lossless syntax and JPEG baseline. */
export async function decodeDicomFile(bytes: Uint8Array): Promise<Decoded> {
  const set = parse(bytes);
  const rows = set.uint16('x00280010') ?? 0;
  const columns = set.uint16('x00280011') ?? 0;
  if (!set.elements.x7fe00010) {
    throw new Unusable(
      'no-picture',
      'This DICOM file holds no picture (it may be a report or an index).',
      'Bring in the picture files themselves.'
    );
  }
  checkSize(columns, rows);
  const frames = Number(set.intString('x00280008') ?? 1);
  if (frames > 1) {
    throw new Unusable(
      'several-frames',
      `This DICOM file is a loop of ${frames} frames, which can’t be opened yet.`,
      'Export single frames and bring those in.'
    );
  }
  const { raster, darkIsHigh } = await samples(set, rows, columns);
  return {
    mediaType: 'application/dicom',
    raster,
    facts: {
      manufacturer: words(set, 'x00080070', 'LO'),
      model: words(set, 'x00081090', 'LO'),
      pixelSpacing: pair(set, 'x00280030'),
      pixelSpacingCalibration: calibration(set),
      imagerPixelSpacing: pair(set, 'x00181164'),
      magnification: set.floatString('x00181114'),
      kv: set.floatString('x00180060'),
      exposureMas: undefined,
      firstLook: openingLook(set, raster, darkIsHigh),
      fileAttributes: attributeList(set)
    },
    remarks: [],
    takenAt: takenAt(set),
    patient: {
      name: words(set, 'x00100010', 'PN').replaceAll('^', ' ').trim(),
      id: set.string('x00100020') ?? '',
      birthDate: set.string('x00100030') ?? ''
    }
  };
}

function parse(bytes: Uint8Array): DataSet {
  try {
    return dicomParser.parseDicom(bytes, {
      inflater: (whole: Uint8Array, position: number) => {
        const rest = inflateRawSync(whole.subarray(position), { maxOutputLength: mostInflatedBytes });
        const joined = new Uint8Array(position + rest.length);
        joined.set(whole.subarray(0, position));
        joined.set(rest, position);
        return joined;
      }
    } as Parameters<typeof dicomParser.parseDicom>[1]);
  } catch (error) {
    if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') {
      throw new Unusable(
        'too-large',
        'This DICOM file unpacks to more than Yonder Tray opens.',
        'Export it again uncompressed or smaller.'
      );
    }
    throw cutOff('DICOM');
  }
}

async function samples(
  set: DataSet,
  rows: number,
  columns: number
): Promise<{ raster: Raster; darkIsHigh: boolean }> {
  const syntax = set.string('x00020010') ?? '1.2.840.10008.1.2';
  const channels = set.uint16('x00280002') === 3 ? 3 : 1;
  const bitsAllocated = set.uint16('x00280100') ?? 0;
  const bitsStored = set.uint16('x00280101') ?? bitsAllocated;
  const highBit = set.uint16('x00280102') ?? bitsStored - 1;
  const signed = set.uint16('x00280103') === 1;
  const photometric = set.string('x00280004') ?? 'MONOCHROME2';
  if ((bitsAllocated !== 8 && bitsAllocated !== 16) || bitsStored > bitsAllocated || bitsStored < 1) {
    throw new Unusable(
      'unsupported-depth',
      `This DICOM file has ${bitsAllocated} bits a sample, which can’t be shown.`,
      'Export it with 8 or 16 bits.'
    );
  }
  if (photometric === 'PALETTE COLOR' || (channels === 3 && bitsAllocated !== 8)) {
    throw new Unusable(
      'unsupported-colour',
      `This DICOM file codes its colours in a way that can’t be shown (${photometric}, ${bitsAllocated} bits).`,
      'Export it as 8-bit RGB.'
    );
  }
  const shape = { width: columns, height: rows, channels, bitsAllocated } as const;
  const expected = columns * rows * channels * (bitsAllocated / 8);
  let raw: Uint8Array;
  if (plain.includes(syntax)) raw = plainPixels(set, expected, bitsAllocated === 16 && syntax === bigEndian);
  else {
    const decode = decoders[syntax];
    if (!decode) {
      throw new Unusable(
        'unsupported-compression',
        `This DICOM file is compressed in a way that can’t be opened (${syntaxNames[syntax] ?? syntax}).`,
        'Export it uncompressed, or as JPEG lossless, JPEG-LS, JPEG 2000 or RLE.'
      );
    }
    raw = await decode(encapsulated(set), shape);
  }
  if (raw.length < expected) throw cutOff('DICOM');
  const data = unpacked(raw, expected, bitsAllocated, bitsStored, highBit, signed);
  const planar = set.uint16('x00280006') === 1 && channels === 3 && plain.includes(syntax);
  const interleaved = planar ? byPixel(data) : data;
  const isYbr = /^YBR_FULL/.test(photometric) && (plain.includes(syntax) || syntax === '1.2.840.10008.1.2.5');
  return {
    raster: {
      width: columns,
      height: rows,
      channels,
      bitsStored: Math.max(bitsStored, bitsAllocated === 8 ? 8 : bitsStored),
      offset: signed ? -(2 ** (bitsStored - 1)) : 0,
      data: isYbr ? fromYbr(interleaved as Uint8Array) : interleaved
    },
    darkIsHigh: photometric === 'MONOCHROME1'
  };
}

function plainPixels(set: DataSet, expected: number, swap: boolean): Uint8Array {
  const { dataOffset, length } = set.elements.x7fe00010;
  const all = set.byteArray as Uint8Array;
  if (length < expected || dataOffset + expected > all.length) throw cutOff('DICOM');
  const bytes = all.slice(dataOffset, dataOffset + expected);
  if (swap) {
    for (let i = 0; i < bytes.length; i += 2) [bytes[i], bytes[i + 1]] = [bytes[i + 1], bytes[i]];
  }
  return bytes;
}

function encapsulated(set: DataSet): Uint8Array {
  const element = set.elements.x7fe00010;
  const fragments = element.fragments;
  if (!fragments || fragments.length === 0) throw cutOff('DICOM');
  try {
    return Uint8Array.from(
      dicomParser.readEncapsulatedPixelDataFromFragments(
        set,
        element,
        0,
        fragments.length,
        fragments
      ) as Uint8Array
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

/** The file's own window, taken back from rescaled to stored values, else one from the samples. */
function openingLook(set: DataSet, raster: Raster, darkIsHigh: boolean): Look {
  const center = set.floatString('x00281050', 0);
  const width = set.floatString('x00281051', 0);
  const slope = set.floatString('x00281053') ?? 1;
  const intercept = set.floatString('x00281052') ?? 0;
  const usable =
    raster.channels === 1 &&
    [center, width, slope, intercept].every(Number.isFinite) &&
    width! >= 1 &&
    slope !== 0;
  if (!usable) return { ...firstLook(raster), inverted: darkIsHigh };
  return {
    window: { center: (center! - intercept) / slope, width: Math.max(1, width! / Math.abs(slope)) },
    inverted: darkIsHigh !== slope < 0
  };
}

function pair(set: DataSet, tag: string): [number, number] | undefined {
  const rows = set.floatString(tag, 0);
  const columns = set.floatString(tag, 1);
  return rows === undefined || columns === undefined || !Number.isFinite(rows) || !Number.isFinite(columns)
    ? undefined
    : [rows, columns];
}

function calibration(set: DataSet): 'GEOMETRY' | 'FIDUCIAL' | undefined {
  const type = set.string('x00280402');
  return type === 'GEOMETRY' || type === 'FIDUCIAL' ? type : undefined;
}

function takenAt(set: DataSet): Decoded['takenAt'] {
  const date = set.string('x00080022') ?? set.string('x00080023') ?? set.string('x00080020');
  if (!date || !/^\d{8}$/.test(date)) return null;
  const time = (set.string('x00080032') ?? set.string('x00080033') ?? set.string('x00080030') ?? '').slice(
    0,
    6
  );
  return { date, time: /^\d{6}$/.test(time) ? time : '000000' };
}

const worded = new Set(['LO', 'LT', 'PN', 'SH', 'ST', 'UC', 'UT']);

/** A text value in the file's own character set, which may be several (Japanese, Korean). */
function words(set: DataSet, tag: string, vr: string): string {
  const element = set.elements[tag];
  if (!element || element.length === 0) return '';
  if (!worded.has(vr)) return set.string(tag) ?? '';
  const bytes = (set.byteArray as Uint8Array).subarray(
    element.dataOffset,
    element.dataOffset + element.length
  );
  const text = convertBytes(set.string('x00080005') ?? 'ISO_IR 6', bytes, { vr });
  return text.replace(/[\0 ]+$/, '');
}

/** Every attribute for people to read: text as text, numbers as numbers, binary by size, items inside sequences too. */
function attributeList(set: DataSet): { tag: string; text: string }[] {
  return Object.values(set.elements).map((element) => ({
    tag: element.tag.slice(1).toUpperCase(),
    text: textOf(set, element)
  }));
}

const numberReaders: Record<string, (set: DataSet, tag: string) => number | undefined> = {
  US: (set, tag) => set.uint16(tag),
  SS: (set, tag) => set.int16(tag),
  UL: (set, tag) => set.uint32(tag),
  SL: (set, tag) => set.int32(tag),
  FL: (set, tag) => set.float(tag),
  FD: (set, tag) => set.double(tag)
};

function textOf(set: DataSet, element: dicomParser.Element): string {
  if (element.items) {
    const items = element.items.map((item) =>
      item.dataSet
        ? attributeList(item.dataSet)
            .map((each) => each.text)
            .filter(Boolean)
            .join(', ')
        : ''
    );
    return items
      .map((item) => `{ ${item} }`)
      .join(' ')
      .slice(0, longestText);
  }
  const size = `${element.length.toLocaleString('en')} bytes`;
  const reader = numberReaders[element.vr ?? ''];
  try {
    if (reader) return String(reader(set, element.tag) ?? '');
    if (element.length > longestText || /^O[BDFLWV]$|^UN$/.test(element.vr ?? '')) return size;
    return words(set, element.tag, element.vr ?? 'LO');
  } catch {
    return size;
  }
}
