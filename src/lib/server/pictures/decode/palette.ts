import type { DataSet } from 'dicom-parser';
import { Unusable, cutOff } from './opened';

/** Colours by sample: three tables of one length, from the first sample that is mapped (PS3.3 C.7.9). */
export interface Palette {
  first: number;
  red: Uint8Array;
  green: Uint8Array;
  blue: Uint8Array;
}

const descriptors = ['x00281101', 'x00281102', 'x00281103'];
const tables = ['x00281201', 'x00281202', 'x00281203'];

/** @throws Unusable for tables that are segmented or missing */
export function paletteOf(set: DataSet): Palette {
  if (tables.some((tag) => !set.elements[tag])) {
    throw new Unusable(
      'unsupported-colour',
      'This DICOM file colours its samples by a table that can’t be read.',
      'Export it as 8-bit RGB.'
    );
  }
  const entries = set.uint16(descriptors[0], 0) || 65_536;
  const first = set.uint16(descriptors[0], 1) ?? 0;
  const bits = set.uint16(descriptors[0], 2) ?? 16;
  const [red, green, blue] = tables.map((tag) => colours(set, tag, entries, bits));
  return { first, red, green, blue };
}

function colours(set: DataSet, tag: string, entries: number, bits: number): Uint8Array {
  const { dataOffset, length } = set.elements[tag];
  const bytes = (set.byteArray as Uint8Array).subarray(dataOffset, dataOffset + length);
  if (bits === 8 && bytes.length < 2 * entries) {
    if (bytes.length < entries) throw cutOff('DICOM');
    return bytes.slice(0, entries);
  }
  if (bytes.length < 2 * entries) throw cutOff('DICOM');
  // Sixteen bits are shown by their upper eight; eight in sixteen stand in the lower ones.
  return Uint8Array.from({ length: entries }, (_, i) => bytes[2 * i + (bits === 8 ? 0 : 1)]);
}

/** Samples to colours by pixel. What lies before or behind the table has its first or last colour. */
export function coloured(
  samples: Uint8Array | Uint16Array,
  { first, red, green, blue }: Palette
): Uint8Array {
  const out = new Uint8Array(samples.length * 3);
  const last = red.length - 1;
  for (let i = 0; i < samples.length; i++) {
    const at = Math.min(last, Math.max(0, samples[i] - first));
    out[3 * i] = red[at];
    out[3 * i + 1] = green[at];
    out[3 * i + 2] = blue[at];
  }
  return out;
}
