import { deflateRawSync } from 'node:zlib';

/** What an element holds: text, numbers of its representation, bytes, items, or compressed fragments. */
export type RawValue =
  | string
  | number[]
  | Uint8Array
  | { items: RawElement[][] }
  | { fragments: Uint8Array[]; offsets?: number[] };
export type RawElement = [tag: string, vr: string, value: RawValue];

/** How a file is written. By default as the standard likes it best: explicit little endian, preamble, lengths. */
export interface Writing {
  littleEndian?: boolean;
  explicit?: boolean;
  deflate?: boolean;
  preamble?: boolean;
  meta?: boolean;
  /** As the file meta information says; else by how it is written. */
  syntax?: string;
  /** Sequences and items without lengths, ended by marks. */
  openLengths?: boolean;
  behind?: Uint8Array;
}

const longForm = new Set(['OB', 'OD', 'OF', 'OL', 'OV', 'OW', 'SQ', 'SV', 'UC', 'UN', 'UR', 'UT', 'UV']);
const sizes: Record<string, number> = { US: 2, SS: 2, UL: 4, SL: 4, FL: 4, FD: 8, UV: 8, SV: 8, AT: 2 };
const open = 0xffffffff;

function tagBytes(tag: string, little: boolean): Buffer {
  const out = Buffer.alloc(4);
  const write = (value: number, at: number) =>
    little ? out.writeUInt16LE(value, at) : out.writeUInt16BE(value, at);
  write(parseInt(tag.slice(0, 4), 16), 0);
  write(parseInt(tag.slice(4), 16), 2);
  return out;
}

function uint32(value: number, little: boolean): Buffer {
  const out = Buffer.alloc(4);
  if (little) out.writeUInt32LE(value);
  else out.writeUInt32BE(value);
  return out;
}

function numberBytes(vr: string, values: number[], little: boolean): Buffer {
  const size = sizes[vr];
  const out = Buffer.alloc(size * values.length);
  const view = new DataView(out.buffer, out.byteOffset, out.length);
  values.forEach((value, i) => {
    const at = i * size;
    if (vr === 'FL') view.setFloat32(at, value, little);
    else if (vr === 'FD') view.setFloat64(at, value, little);
    else if (size === 8) view.setBigInt64(at, BigInt(value), little);
    else if (size === 4) view.setInt32(at, value, little);
    else view.setInt16(at, value, little);
  });
  return out;
}

const even = (bytes: Buffer, by: number) =>
  bytes.length % 2 ? Buffer.concat([bytes, Buffer.of(by)]) : bytes;

function itemBytes(body: Buffer, little: boolean, openLengths: boolean): Buffer {
  const length = uint32(openLengths ? open : body.length, little);
  const end = openLengths ? [tagBytes('FFFEE00D', little), uint32(0, little)] : [];
  return Buffer.concat([tagBytes('FFFEE000', little), length, body, ...end]);
}

function elementBytes(
  [tag, vr, value]: RawElement,
  how: Required<Pick<Writing, 'littleEndian' | 'explicit' | 'openLengths'>>
): Buffer {
  const { littleEndian: little, explicit, openLengths } = how;
  const head = (length: number) => {
    if (!explicit) return Buffer.concat([tagBytes(tag, little), uint32(length, little)]);
    const letters = Buffer.from(vr);
    if (longForm.has(vr))
      return Buffer.concat([tagBytes(tag, little), letters, Buffer.alloc(2), uint32(length, little)]);
    return Buffer.concat([tagBytes(tag, little), letters, numberBytes('US', [length], little)]);
  };
  if (typeof value === 'string') {
    const body = even(Buffer.from(value, 'latin1'), vr === 'UI' ? 0 : 32);
    return Buffer.concat([head(body.length), body]);
  }
  if (Array.isArray(value)) {
    const body = numberBytes(vr, value, little);
    return Buffer.concat([head(body.length), body]);
  }
  if (value instanceof Uint8Array) {
    const body = even(Buffer.from(value), 0);
    return Buffer.concat([head(body.length), body]);
  }
  const sequenceEnd = Buffer.concat([tagBytes('FFFEE0DD', little), uint32(0, little)]);
  if ('fragments' in value) {
    const table = Buffer.concat((value.offsets ?? []).map((each) => uint32(each, true)));
    const pieces = [table, ...value.fragments].map((each) =>
      itemBytes(even(Buffer.from(each), 0), true, false)
    );
    return Buffer.concat([head(open), ...pieces, sequenceEnd]);
  }
  const body = Buffer.concat(
    value.items.map((each) =>
      itemBytes(Buffer.concat(each.map((one) => elementBytes(one, how))), little, openLengths)
    )
  );
  return Buffer.concat([head(openLengths ? open : body.length), body, ...(openLengths ? [sequenceEnd] : [])]);
}

/** A DICOM file of these elements, which are sorted; written by another hand than the one that writes ours. */
export function rawFile(elements: RawElement[], writing: Writing = {}): Buffer {
  const { littleEndian = true, explicit = true, deflate = false, preamble = true, meta = true } = writing;
  const syntax =
    writing.syntax ?? `1.2.840.10008.1.2${deflate ? '.1.99' : !littleEndian ? '.2' : explicit ? '.1' : ''}`;
  const inside = { littleEndian, explicit, openLengths: writing.openLengths ?? false };
  const sorted = [...elements].sort(([a], [b]) => (a < b ? -1 : 1));
  const body = Buffer.concat(sorted.map((each) => elementBytes(each, inside)));
  const metaHow = { littleEndian: true, explicit: true, openLengths: false };
  const group = elementBytes(['00020010', 'UI', syntax], metaHow);
  const length = elementBytes(['00020000', 'UL', [group.length]], metaHow);
  return Buffer.concat([
    ...(preamble ? [Buffer.alloc(128), Buffer.from('DICM')] : []),
    ...(meta ? [length, group] : []),
    deflate ? deflateRawSync(body) : body,
    writing.behind ?? Buffer.alloc(0)
  ]);
}

export interface RawPicture {
  width: number;
  height: number;
  channels?: 1 | 3;
  allocated: 8 | 16;
  stored?: number;
  high?: number;
  signed?: boolean;
  photometric?: string;
  planar?: boolean;
  frames?: string;
  pixels: RawValue;
  pixelVr?: 'OB' | 'OW';
}

/** The elements that every picture has, with its pixels. */
export function rawPicture(of: RawPicture, more: RawElement[] = []): RawElement[] {
  const { width, height, channels = 1, allocated, stored = allocated, high = stored - 1 } = of;
  const usual: RawElement[] = [
    ['00080016', 'UI', '1.2.840.10008.5.1.4.1.1.7'],
    ['00080018', 'UI', '2.25.123456789'],
    ['00080020', 'DA', '20240301'],
    ['00080060', 'CS', 'OT'],
    ['00100010', 'PN', 'Somebody^Made Up'],
    ['00280002', 'US', [channels]],
    ['00280004', 'CS', of.photometric ?? (channels === 3 ? 'RGB' : 'MONOCHROME2')],
    ['00280010', 'US', [height]],
    ['00280011', 'US', [width]],
    ['00280100', 'US', [allocated]],
    ['00280101', 'US', [stored]],
    ['00280102', 'US', [high]],
    ['00280103', 'US', [of.signed ? 1 : 0]],
    ['7FE00010', of.pixelVr ?? (allocated === 8 ? 'OB' : 'OW'), of.pixels]
  ];
  if (channels === 3) usual.push(['00280006', 'US', [of.planar ? 1 : 0]]);
  if (of.frames !== undefined) usual.push(['00280008', 'IS', of.frames]);
  const given = new Set(more.map(([tag]) => tag));
  return [...usual.filter(([tag]) => !given.has(tag)), ...more];
}

/** Words of 16 bits as bytes, in either order. */
export function wordBytes(words: ArrayLike<number>, littleEndian = true): Uint8Array {
  const out = Buffer.alloc(2 * words.length);
  for (let i = 0; i < words.length; i++)
    if (littleEndian) out.writeUInt16LE(words[i] & 0xffff, 2 * i);
    else out.writeUInt16BE(words[i] & 0xffff, 2 * i);
  return out;
}

/** Bytes that change places in pairs, as two samples of eight bits lie in a word of a big endian file. */
export function swappedPairs(bytes: Uint8Array): Uint8Array {
  const padded = Buffer.concat([bytes, Buffer.alloc(bytes.length % 2)]);
  return padded.swap16();
}
