import {
  type DataElement,
  type Dataset,
  type Encapsulated,
  dataset,
  firstText,
  isEncapsulated,
  isSequence
} from './dataset';
import { pixelDataTag } from './dictionary';
import { longForm } from './representations';

export const explicitLittleEndian = '1.2.840.10008.1.2.1';
/** Ours, made from a UUID once: it says which software wrote the file. */
export const implementationClassUid = '2.25.271396270284519120473514287361932540717';
const text = new TextEncoder();

/**
 * A DICOM file (PS3.10): preamble, file meta information, then the data set in Explicit VR Little Endian; pixel data that
 * another standard codes says by which transfer syntax, and is written as it is.
 * Text is UTF-8, so the data set must say SpecificCharacterSet ISO_IR 192.
 * @throws RangeError when the SOP class or instance is missing, or a value does not fit its representation
 */
export function writeDicomFile(set: Dataset): Uint8Array {
  const sopClass = firstText(set, 'SOPClassUID');
  const sopInstance = firstText(set, 'SOPInstanceUID');
  if (!sopClass || !sopInstance) throw new RangeError('a DICOM file needs SOPClassUID and SOPInstanceUID');
  return joined([
    fileStart({ classUid: sopClass, instanceUid: sopInstance, transferSyntax: transferSyntaxOf(set) }),
    ...encode(set)
  ]);
}

/** The transfer syntax that a data set is written in. */
export function transferSyntaxOf(set: Dataset): string {
  const pixels = set.find(({ tag }) => tag === pixelDataTag)?.value;
  return pixels && isEncapsulated(pixels) ? pixels.syntax : explicitLittleEndian;
}

/** What stands before a data set in a file: preamble and file meta information (PS3.10 7.1). */
export function fileStart(of: { classUid: string; instanceUid: string; transferSyntax: string }): Uint8Array {
  const meta = encode(
    dataset({
      FileMetaInformationVersion: Uint8Array.of(0, 1),
      MediaStorageSOPClassUID: of.classUid,
      MediaStorageSOPInstanceUID: of.instanceUid,
      TransferSyntaxUID: of.transferSyntax,
      ImplementationClassUID: implementationClassUid,
      ImplementationVersionName: 'YONDER_TRAY_1'
    })
  );
  const length = encode(
    dataset({ FileMetaInformationGroupLength: meta.reduce((sum, part) => sum + part.length, 0) })
  );
  const preamble = new Uint8Array(132);
  preamble.set(text.encode('DICM'), 128);
  return joined([preamble, ...length, ...meta]);
}

/** A data set by itself, in Explicit VR Little Endian, without what stands before it in a file. */
export const writtenSet = (set: Dataset): Uint8Array => joined(encode(set));

/** Bytes one after the other. */
export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

function encode(set: Dataset): Uint8Array[] {
  return set.flatMap((element) => {
    if (isEncapsulated(element.value)) return encapsulated(element, element.value);
    const body = encodeValue(element);
    return [header(element, body.length), body];
  });
}

const undefinedLength = 0xffffffff;

/** An empty table of offsets, an item a fragment, and what ends them (PS3.5 A.4). */
function encapsulated(element: DataElement, { fragments }: Encapsulated): Uint8Array[] {
  return [
    header(element, undefinedLength),
    itemHead(0xe000, 0),
    ...fragments.flatMap((fragment) => {
      const body = even(fragment, 0);
      return [itemHead(0xe000, body.length), body];
    }),
    itemHead(0xe0dd, 0)
  ];
}

/** The head of an item, or what ends a sequence of them (PS3.5 7.5). */
function itemHead(element: 0xe000 | 0xe0dd, length: number): Uint8Array {
  const start = new Uint8Array(8);
  const view = new DataView(start.buffer);
  view.setUint16(0, 0xfffe, true);
  view.setUint16(2, element, true);
  view.setUint32(4, length, true);
  return start;
}

function header({ tag, vr }: DataElement, length: number): Uint8Array {
  const long = longForm.has(vr);
  const bytes = new Uint8Array(long ? 12 : 8);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, parseInt(tag.slice(0, 4), 16), true);
  view.setUint16(2, parseInt(tag.slice(4), 16), true);
  bytes.set(text.encode(vr), 4);
  if (long) view.setUint32(8, length, true);
  else {
    if (length > 0xffff) throw new RangeError(`${tag} is too long for ${vr}: ${length} bytes`);
    view.setUint16(6, length, true);
  }
  return bytes;
}

function encodeValue({ tag, vr, value }: DataElement): Uint8Array {
  if (value instanceof Uint8Array) return even(value, 0);
  if (value instanceof Uint16Array) return new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
  if (vr === 'SQ') return encodeItems(isSequence(value) ? value : []);
  const values = value as (string | number)[];
  switch (vr) {
    case 'US':
    case 'SS':
      return numbers(values, 2, (view, at, n) => view.setInt16(at, n, true));
    case 'UL':
    case 'SL':
      return numbers(values, 4, (view, at, n) => view.setInt32(at, n, true));
    case 'FL':
      return numbers(values, 4, (view, at, n) => view.setFloat32(at, n, true));
    case 'FD':
      return numbers(values, 8, (view, at, n) => view.setFloat64(at, n, true));
    case 'AT':
      return attributeTags(values.map(String));
    case 'DS':
      return even(text.encode(values.map(decimalString).join('\\')), 0x20);
    case 'UI':
      return even(text.encode(values.map((uid) => checkedUid(tag, String(uid))).join('\\')), 0);
    default:
      return even(text.encode(values.join('\\')), 0x20);
  }
}

function checkedUid(tag: string, uid: string): string {
  if (!/^[0-9.]{1,64}$/.test(uid)) throw new RangeError(`${tag} is no UID: ${uid}`);
  return uid;
}

function even(bytes: Uint8Array, padding: number): Uint8Array {
  if (bytes.length % 2 === 0) return bytes;
  const out = new Uint8Array(bytes.length + 1);
  out.set(bytes);
  out[bytes.length] = padding;
  return out;
}

function numbers(
  values: (string | number)[],
  size: number,
  set: (view: DataView, at: number, value: number) => void
): Uint8Array {
  const bytes = new Uint8Array(values.length * size);
  const view = new DataView(bytes.buffer);
  values.forEach((value, i) => set(view, i * size, Number(value)));
  return bytes;
}

function attributeTags(tags: string[]): Uint8Array {
  const bytes = new Uint8Array(tags.length * 4);
  const view = new DataView(bytes.buffer);
  tags.forEach((tag, i) => {
    view.setUint16(i * 4, parseInt(tag.slice(0, 4), 16), true);
    view.setUint16(i * 4 + 2, parseInt(tag.slice(4), 16), true);
  });
  return bytes;
}

function encodeItems(items: Dataset[]): Uint8Array {
  return joined(
    items.flatMap((item) => {
      const body = joined(encode(item));
      return [itemHead(0xe000, body.length), body];
    })
  );
}

/**
 * A number as a DICOM decimal string: at most 16 characters, with as many digits as fit.
 * `decimalString(1 / 3)` is "0.33333333333333", `decimalString(-1.5e-10)` is "-1.5e-10".
 */
export function decimalString(value: string | number): string {
  if (typeof value === 'string') return value;
  if (!Number.isFinite(value)) throw new RangeError(`a decimal string must be finite, got ${value}`);
  const plain = String(value);
  if (plain.length <= 16) return plain;
  for (let digits = 15; digits > 0; digits--) {
    const shorter = String(Number(value.toPrecision(digits)));
    if (shorter.length <= 16) return shorter;
  }
  throw new RangeError(`${value} does not fit into 16 characters`);
}
