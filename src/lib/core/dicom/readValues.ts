import type { ReadSet } from './readSet';

/** Bytes as letters of Latin-1. */
export const latinText = (bytes: Uint8Array): string => {
  let text = '';
  for (let i = 0; i < bytes.length; i += 8_192) text += String.fromCharCode(...bytes.subarray(i, i + 8_192));
  return text;
};

export function valueBytes(set: ReadSet, tag: string): Uint8Array | null {
  const element = set.elements.get(tag);
  return element ? set.bytes.subarray(element.from, element.from + element.length) : null;
}

/** A text element written in UTF-8, without the padding; empty for one that is absent. */
export function utf8(set: ReadSet, tag: string): string {
  const bytes = valueBytes(set, tag);
  return bytes ? new TextDecoder().decode(bytes).replace(/[\0 ]+$/, '') : '';
}

/** The values of a text element as Latin letters, without the padding; none for one that is absent or empty. */
export function codes(set: ReadSet, tag: string): string[] {
  const bytes = valueBytes(set, tag);
  if (!bytes) return [];
  const text = latinText(bytes).replace(/[\0 ]+$/, '');
  return text === '' ? [] : text.split('\\').map((each) => each.trim());
}

export const code = (set: ReadSet, tag: string, index = 0): string | undefined => codes(set, tag)[index];

const sizes: Record<string, number> = {
  US: 2,
  SS: 2,
  UL: 4,
  SL: 4,
  FL: 4,
  FD: 8,
  UV: 8,
  SV: 8,
  AT: 2,
  OW: 2
};

/** One binary number of an element; by its own representation, or by another where the standard allows two. */
export function binary(set: ReadSet, tag: string, index = 0, as?: string): number | undefined {
  const element = set.elements.get(tag);
  const vr = as ?? element?.vr ?? '';
  const size = sizes[vr];
  if (!element || !size || (index + 1) * size > element.length) return undefined;
  const view = new DataView(set.bytes.buffer, set.bytes.byteOffset + element.from, element.length);
  const [at, little] = [index * size, set.littleEndian];
  switch (vr) {
    case 'SS':
      return view.getInt16(at, little);
    case 'UL':
      return view.getUint32(at, little);
    case 'SL':
      return view.getInt32(at, little);
    case 'FL':
      return view.getFloat32(at, little);
    case 'FD':
      return view.getFloat64(at, little);
    case 'UV':
      return Number(view.getBigUint64(at, little));
    case 'SV':
      return Number(view.getBigInt64(at, little));
    default:
      return view.getUint16(at, little);
  }
}

/** An unsigned short, whatever representation the file gives it: `US or SS` of implicit files, or one written as text. */
export function short(set: ReadSet, tag: string, index = 0): number | undefined {
  const vr = set.elements.get(tag)?.vr;
  if (vr === 'IS' || vr === 'DS') {
    const value = decimal(set, tag, index);
    return value !== undefined && value >= 0 && value < 65_536 ? Math.round(value) : undefined;
  }
  if (vr === 'UL' || vr === 'SL') return binary(set, tag, index);
  return binary(set, tag, index, 'US');
}

/** How many numbers or texts an element holds. */
export function countOf(set: ReadSet, tag: string): number {
  const element = set.elements.get(tag);
  if (!element) return 0;
  const size = sizes[element.vr];
  return size ? Math.floor(element.length / size) : codes(set, tag).length;
}

const written = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/** A decimal or integer string as a finite number; undefined for one that is none (`N/A`, 1e999, blank). */
export function decimal(set: ReadSet, tag: string, index = 0): number | undefined {
  const element = set.elements.get(tag);
  if (element && element.vr !== 'DS' && element.vr !== 'IS' && sizes[element.vr]) {
    const value = binary(set, tag, index);
    return value !== undefined && Number.isFinite(value) ? value : undefined;
  }
  const text = code(set, tag, index);
  if (text === undefined || !written.test(text)) return undefined;
  const value = Number(text);
  return Number.isFinite(value) ? value : undefined;
}
