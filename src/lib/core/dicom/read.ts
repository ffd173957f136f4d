import { entryOfTag, pixelDataTag } from './dictionary';
import type { ReadElement, ReadSet } from './readSet';
import { latinText } from './readValues';
import { longForm, shortForm } from './representations';

export interface ReadFile extends ReadSet {
  transferSyntax: string;
  /** What the file does not do by the book, though it can be read; in words. */
  remarks: string[];
}

/** The bytes are no DICOM file, or end before anything of use has come. */
export class NotReadable extends Error {}

export const implicitLittle = '1.2.840.10008.1.2';
export const explicitLittle = '1.2.840.10008.1.2.1';
const deflatedLittle = '1.2.840.10008.1.2.1.99';
export const explicitBig = '1.2.840.10008.1.2.2';

const undefinedLength = 0xffffffff;
const item = 'FFFEE000';
const itemEnd = 'FFFEE00D';
const sequenceEnd = 'FFFEE0DD';
const trailingPadding = 'FFFCFFFC';
const deepest = 24;
const mostElements = 100_000;
const mostMetaBytes = 2_000;

interface Encoding {
  littleEndian: boolean;
  explicit: boolean;
}

interface Head {
  vr: string;
  length: number;
  from: number;
}

class Reader {
  at = 0;
  count = 0;
  cutOff = false;
  /** Whether something was read that is not written by the book. */
  mended = false;
  readonly view: DataView;

  constructor(
    readonly bytes: Uint8Array,
    readonly encoding: Encoding
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  uint16(at: number): number {
    return this.view.getUint16(at, this.encoding.littleEndian);
  }
  uint32(at: number): number {
    return this.view.getUint32(at, this.encoding.littleEndian);
  }
  tag(at: number): string {
    return (hex4(this.uint16(at)) + hex4(this.uint16(at + 2))).toUpperCase();
  }
  /** Two letters where an explicit representation would stand. */
  letters(at: number): string {
    return String.fromCharCode(this.bytes[at], this.bytes[at + 1]);
  }

  /** Elements until the end, or until a mark that ends an item of unknown length. */
  elements(end: number, untilMark: boolean, depth: number): Map<string, ReadElement> {
    const found = new Map<string, ReadElement>();
    while (this.at + 8 <= end && !this.cutOff) {
      const tag = this.tag(this.at);
      if (untilMark && (tag === itemEnd || tag === sequenceEnd)) {
        if (tag === itemEnd) this.at += 8;
        return found;
      }
      // Zeros behind the last element are padding that somebody's disk block left.
      if (tag === trailingPadding || tag === '00000000') break;
      const element = this.element(tag, end, depth);
      if (element && !found.has(tag)) found.set(tag, element);
    }
    if (untilMark) this.cutOff = true;
    return found;
  }

  private element(tag: string, end: number, depth: number): ReadElement | null {
    if (++this.count > mostElements) throw new NotReadable('more elements than any picture has');
    const { vr, length, from } = this.head(tag, end);
    this.at = from;
    const element: ReadElement = { tag, vr, from, length, items: null, fragments: null };
    if (tag === pixelDataTag && length === undefinedLength) {
      element.fragments = this.fragments(end);
      element.length = this.at - from;
      return element;
    }
    if (vr === 'SQ' || length === undefinedLength) {
      // What is of unknown representation and length is written implicitly (PS3.5 6.2.2).
      const inner = vr === 'UN' && this.encoding.explicit ? { littleEndian: true, explicit: false } : null;
      const reader = inner ? new Reader(this.bytes, inner) : this;
      reader.at = from;
      element.vr = 'SQ';
      element.items = reader.items(end, length, depth + 1);
      this.at = reader.at;
      this.cutOff ||= reader.cutOff;
      element.length = this.at - from;
      return element;
    }
    if (from + length > end) {
      this.cutOff = true;
      if (tag !== pixelDataTag) return null;
      element.length = end - from;
    }
    this.at = from + element.length;
    return element;
  }

  /** Representation, length and where the value begins. */
  head(tag: string, end: number): Head {
    const { at } = this;
    const known = entryOfTag(tag)?.vr ?? (tag.endsWith('0000') ? 'UL' : 'UN');
    const implicit = { vr: known, length: this.uint32(at + 4), from: at + 8 };
    if (!this.encoding.explicit) return implicit;
    const letters = this.letters(at + 4);
    if (longForm.has(letters) || shortForm.has(letters))
      return this.explicitHead(letters, longForm.has(letters), end);
    // A representation that is none: of the ways in which it can be meant, the one after which an element follows.
    this.mended = true;
    const long = longForm.has(known);
    const ways = [this.explicitHead(known, long, end), implicit, this.explicitHead(known, !long, end)];
    return ways.find((way) => this.leadsOn(way, end)) ?? ways[0];
  }

  private explicitHead(vr: string, long: boolean, end: number): Head {
    const { at } = this;
    if (long && at + 12 <= end) return { vr, length: this.uint32(at + 8), from: at + 12 };
    return { vr, length: this.uint16(at + 6), from: at + 8 };
  }

  /** Whether behind a value the end comes, or an element that the standard knows. */
  private leadsOn({ from, length }: Head, end: number): boolean {
    const next = from + length;
    return next === end || (next + 8 <= end && entryOfTag(this.tag(next)) !== undefined);
  }

  private items(end: number, length: number, depth: number): ReadSet[] {
    if (depth > deepest) throw new NotReadable('sequences in sequences without end');
    const open = length === undefinedLength;
    const stop = open ? end : Math.min(end, this.at + length);
    if (!open && this.at + length > end) this.cutOff = true;
    const found: ReadSet[] = [];
    while (this.at + 8 <= stop && !this.cutOff) {
      const tag = this.tag(this.at);
      const itemLength = this.uint32(this.at + 4);
      this.at += 8;
      if (tag === sequenceEnd) return found;
      if (tag !== item) {
        this.cutOff = true;
        break;
      }
      const until = itemLength === undefinedLength ? stop : Math.min(stop, this.at + itemLength);
      const elements = this.elements(until, itemLength === undefinedLength, depth);
      if (itemLength !== undefinedLength) this.at = until;
      found.push({ bytes: this.bytes, littleEndian: this.encoding.littleEndian, elements });
    }
    if (open) this.cutOff = true;
    else this.at = stop;
    return found;
  }

  private fragments(end: number): { from: number; length: number }[] {
    const found: { from: number; length: number }[] = [];
    while (this.at + 8 <= end) {
      const tag = this.tag(this.at);
      const length = this.uint32(this.at + 4);
      this.at += 8;
      if (tag === sequenceEnd) return found;
      if (tag !== item) break;
      const has = Math.min(length, end - this.at);
      found.push({ from: this.at, length: has });
      this.at += has;
      if (has < length) break;
    }
    this.cutOff = true;
    return found;
  }
}

const hex4 = (value: number): string => value.toString(16).padStart(4, '0');

/** Where the first element stands: behind the preamble, or at once where there is none. Null for what is no DICOM. */
export function dicomStart(bytes: Uint8Array): number | null {
  const mark = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4)) === 'DICM';
  if (bytes.length >= 140 && mark(128)) return 132;
  if (bytes.length >= 12 && mark(0)) return 4;
  return bytes.length >= 64 && encodingAt(bytes, 0) !== null ? 0 : null;
}

/** How a data set is written that begins here, by its looks: groups 0002 or 0008 first, and a length that can be. */
function encodingAt(bytes: Uint8Array, at: number): Encoding | null {
  const group = bytes[at] | (bytes[at + 1] << 8);
  const littleEndian = group === 0x0008 || group === 0x0002;
  if (!littleEndian && group !== 0x0800) return null;
  const reader = new Reader(bytes, { littleEndian, explicit: true });
  const letters = reader.letters(at + 4);
  if (shortForm.has(letters) || longForm.has(letters)) return { littleEndian, explicit: true };
  const plausible =
    littleEndian && entryOfTag(reader.tag(at)) !== undefined && reader.uint32(at + 4) < bytes.length;
  return plausible ? { littleEndian, explicit: false } : null;
}

/** The file meta information, always explicit little endian, by its elements more than by the length it names. */
function metaOf(bytes: Uint8Array, start: number): { syntax: string | null; end: number } {
  const reader = new Reader(bytes, { littleEndian: true, explicit: true });
  reader.at = start;
  let syntax: string | null = null;
  let saidEnd = 0;
  while (reader.at + 8 <= bytes.length && (reader.uint16(reader.at) === 2 || reader.at < saidEnd)) {
    const tag = reader.tag(reader.at);
    const { from, length } = reader.head(tag, bytes.length);
    if (from + length > bytes.length) break;
    // A length that can be: it holds over an element whose group is damaged.
    if (tag === '00020000' && length === 4 && reader.uint32(from) < mostMetaBytes)
      saidEnd = from + 4 + reader.uint32(from);
    if (tag === '00020010')
      syntax = latinText(bytes.subarray(from, from + length))
        .replace(/[\0 ]+$/, '')
        .trim();
    reader.at = from + length;
  }
  return { syntax, end: reader.at };
}

/**
 * Reads a DICOM file (PS3.10), or a data set without its preamble or its file meta information. Damage behind what can
 * be read ends the reading and is told in a remark.
 * @param inflate unpacks the raw deflate stream of a deflated file
 * @throws NotReadable when there is no element that could be read
 */
export function readDicom(bytes: Uint8Array, inflate: (packed: Uint8Array) => Uint8Array): ReadFile {
  const start = dicomStart(bytes);
  if (start === null) throw new NotReadable('no DICOM file');
  const remarks: string[] = [];
  if (start !== 132) remarks.push('The file lacks the preamble that DICOM asks for.');
  const { syntax, end } = metaOf(bytes, start);
  const body = syntax === deflatedLittle ? inflate(bytes.subarray(end)) : bytes;
  const at = syntax === deflatedLittle ? 0 : end;
  if (at + 8 > body.length) throw new NotReadable('nothing follows the file meta information');
  const looks = encodingAt(body, at);
  const said = syntax && {
    littleEndian: syntax !== explicitBig,
    explicit: syntax !== implicitLittle
  };
  // Where what is said and what stands there differ, what stands there is read: as its writer did.
  const encoding = looks ?? (said || { littleEndian: true, explicit: true });
  if (said && looks && said.explicit !== looks.explicit)
    remarks.push('The file is written in another way than it says; it was read as it is written.');
  const reader = new Reader(body, encoding);
  reader.at = at;
  const elements = reader.elements(body.length, false, 0);
  if (elements.size === 0) throw new NotReadable('no element can be read');
  if (reader.mended) remarks.push('The file is damaged in places; what could be read of it is shown.');
  if (reader.cutOff) remarks.push('The file is cut off or damaged towards its end.');
  return {
    bytes: body,
    littleEndian: encoding.littleEndian,
    elements,
    transferSyntax:
      syntax || (encoding.explicit ? (encoding.littleEndian ? explicitLittle : explicitBig) : implicitLittle),
    remarks
  };
}
