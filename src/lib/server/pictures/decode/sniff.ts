import { Unusable } from './decoded';

export type FileKind = 'dicom' | 'png' | 'jpeg' | 'tiff';

const starts = (bytes: Uint8Array, ...values: number[]) => values.every((value, i) => bytes[i] === value);

/** What a file really is, by its first bytes and never by its name. */
export function sniff(bytes: Uint8Array): FileKind {
  if (bytes.length === 0) {
    throw new Unusable('empty', 'This file is empty.', 'Copy it again from where it came.');
  }
  if (bytes.length > 132 && String.fromCharCode(...bytes.subarray(128, 132)) === 'DICM') return 'dicom';
  if (starts(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  if (starts(bytes, 0xff, 0xd8, 0xff)) return 'jpeg';
  if (starts(bytes, 0x49, 0x49, 0x2a, 0x00) || starts(bytes, 0x4d, 0x4d, 0x00, 0x2a)) return 'tiff';
  throw new Unusable(
    'unknown-kind',
    `This is ${guess(bytes)}, not a picture that can be opened.`,
    'Bring in DICOM, PNG, JPEG or TIFF.'
  );
}

function guess(bytes: Uint8Array): string {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 256)).trimStart().toLowerCase();
  if (text.startsWith('%pdf')) return 'a PDF document';
  if (text.startsWith('<!doctype html') || text.startsWith('<html')) return 'a web page';
  if (starts(bytes, 0x50, 0x4b, 0x03, 0x04)) return 'a ZIP package';
  if (text.startsWith('gif8')) return 'a GIF picture';
  if (text.startsWith('bm')) return 'a bitmap';
  return 'a file of an unknown kind';
}
