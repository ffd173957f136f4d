import { joined } from './write';

/** A JPEG as it can stand inside a DICOM object without one of its samples touched. */
export interface JpegBody {
  /** From its start to its end of image, without what a camera or a program wrote beside the picture. */
  bytes: Uint8Array;
  width: number;
  height: number;
  channels: 1 | 3;
  /** What its channels are (PS3.3 C.7.6.3.1.2), as its own marks tell. */
  photometric: 'MONOCHROME2' | 'YBR_FULL_422' | 'YBR_FULL' | 'RGB';
}

/** JPEG Baseline, Process 1 (PS3.5 A.4.1). */
export const jpegBaseline = '1.2.840.10008.1.2.4.50';

const marks = {
  start: 0xd8,
  end: 0xd9,
  scan: 0xda,
  baseline: 0xc0,
  jfif: 0xe0,
  profile: 0xe2,
  colour: 0xee
} as const;

interface Segment {
  marker: number;
  /** With its two bytes of mark. */
  bytes: Uint8Array;
}

/**
 * The body of a baseline JPEG of one or three channels of 8 bits (ISO/IEC 10918-1 B.2); null for all other kinds, and for
 * what does not read as one. Where it was taken, who took it and small pictures of it (EXIF, XMP, IPTC, comments) stay
 * behind; a colour profile stays in, as samples mean nothing else without it.
 */
export function jpegBody(file: Uint8Array): JpegBody | null {
  const head = segmentsOf(file);
  if (!head) return null;
  const frame = head.segments.find(({ marker }) => isFrame(marker));
  if (frame?.marker !== marks.baseline || frame.bytes.length < 10 || frame.bytes[4] !== 8) return null;
  const { bytes } = frame;
  const count = bytes[9];
  if ((count !== 1 && count !== 3) || bytes.length < 10 + 3 * count) return null;
  const end = endOf(file, head.scanAt);
  if (end === 0) return null;
  const kept = head.segments.filter(({ marker, bytes: of }) => marker < 0xe0 || tellsOfSamples(marker, of));
  return {
    bytes: joined([
      Uint8Array.of(0xff, marks.start),
      ...kept.map((each) => each.bytes),
      file.subarray(head.scanAt, end)
    ]),
    width: (bytes[7] << 8) | bytes[8],
    height: (bytes[5] << 8) | bytes[6],
    channels: count,
    photometric: count === 1 ? 'MONOCHROME2' : photometricOf(bytes, head.segments)
  };
}

/** Of the segments that programs write, those without which samples can't be read; others of the same marks stay behind. */
const tellsOfSamples = (marker: number, bytes: Uint8Array): boolean =>
  (marker === marks.jfif && startsWith(bytes, 'JFIF')) ||
  (marker === marks.profile && startsWith(bytes, 'ICC_PROFILE')) ||
  marker === marks.colour;

/** Whether the name that a segment begins with, after its mark and length, is this. */
const startsWith = (bytes: Uint8Array, name: string): boolean =>
  [...name].every((letter, i) => bytes[4 + i] === letter.charCodeAt(0));

/** Start of a frame of any process; the three that look like one say something else. */
const isFrame = (marker: number): boolean =>
  marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;

/** What stands before the first scan; null where it is no JPEG, or cut off there. */
function segmentsOf(file: Uint8Array): { segments: Segment[]; scanAt: number } | null {
  if (file[0] !== 0xff || file[1] !== marks.start) return null;
  const segments: Segment[] = [];
  let at = 2;
  while (at + 4 <= file.length) {
    if (file[at] !== 0xff) return null;
    const marker = file[at + 1];
    // Marks may be led in by any number of filling bytes.
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === marks.scan) return { segments, scanAt: at };
    const length = (file[at + 2] << 8) | file[at + 3];
    if (marker < 0xc0 || length < 2 || at + 2 + length > file.length) return null;
    segments.push({ marker, bytes: file.subarray(at, at + 2 + length) });
    at += 2 + length;
  }
  return null;
}

/** Just after the end of this image; 0 where it is cut off. What follows may be another, as some cameras write it. */
function endOf(file: Uint8Array, scanAt: number): number {
  let at = scanAt;
  while (at + 4 <= file.length) {
    // A segment between scans, or the head of one; then what it codes, up to the next mark.
    at += 2 + ((file[at + 2] << 8) | file[at + 3]);
    while (at + 1 < file.length && !(file[at] === 0xff && isMark(file[at + 1]))) at += 1;
    if (file[at + 1] === marks.end) return at + 2;
  }
  return 0;
}

/** What ends coded samples: neither a stuffed byte, nor a restart, nor filling. */
const isMark = (byte: number): boolean => byte !== 0 && byte !== 0xff && !(byte >= 0xd0 && byte <= 0xd7);

/** By the mark of colours; without one three channels are luminance and two of colour, but where they are called R, G, B. */
function photometricOf(frame: Uint8Array, segments: readonly Segment[]): JpegBody['photometric'] {
  const ids = [0, 1, 2].map((i) => frame[10 + 3 * i]);
  const mark = segments.find(({ marker, bytes }) => marker === marks.colour && bytes.length >= 16)?.bytes;
  const jfif = segments.some(({ marker }) => marker === marks.jfif);
  const named = ids[0] === 0x52 && ids[1] === 0x47 && ids[2] === 0x42;
  if (jfif ? false : mark ? mark[15] === 0 : named) return 'RGB';
  const sampling = [0, 1, 2].map((i) => frame[11 + 3 * i]);
  return sampling.every((each) => each === sampling[0]) ? 'YBR_FULL' : 'YBR_FULL_422';
}
