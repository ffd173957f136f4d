import type { ReadSet } from '../../../core/dicom/readSet';
import { short, valueBytes, binary } from '../../../core/dicom/readValues';
import { Unusable, cutOff } from './opened';

/** Colours by sample: three tables of one length, from the first sample that is mapped (PS3.3 C.7.9). */
export interface Palette {
  first: number;
  red: Uint8Array;
  green: Uint8Array;
  blue: Uint8Array;
}

const descriptors = ['00281101', '00281102', '00281103'];
const tables = ['00281201', '00281202', '00281203'];

/** @throws Unusable for tables that are segmented or missing */
export function paletteOf(set: ReadSet, signed: boolean): Palette {
  if (tables.some((tag) => !set.elements.has(tag))) {
    throw new Unusable(
      'unsupported-colour',
      'This DICOM file colours its samples by a table that can’t be read.',
      'Export it as 8-bit RGB.'
    );
  }
  const [red, green, blue] = tables.map((tag, i) => tableOf(set, descriptors[i], tag, signed));
  return {
    first: red.first,
    red: Uint8Array.from(red.entries, (value) => value >> (red.bits - 8)),
    green: Uint8Array.from(green.entries, (value) => value >> (green.bits - 8)),
    blue: Uint8Array.from(blue.entries, (value) => value >> (blue.bits - 8))
  };
}

export interface LookUpTable {
  /** The value that the first entry is for; lower ones have it too, as higher ones have the last. */
  first: number;
  /** Bits of an entry, 8 to 16. */
  bits: number;
  entries: Uint16Array;
}

/**
 * A look-up table by its descriptor and data: as many entries as are said (0 stands for 65,536), of eight bits each in a
 * byte or of up to sixteen in a word, whichever the data's length fits (PS3.3 C.11.1.1, C.7.6.3.1.5).
 * @throws Unusable when it is shorter than it says
 */
export function tableOf(set: ReadSet, descriptor: string, data: string, signed: boolean): LookUpTable {
  const count = short(set, descriptor, 0) || 65_536;
  const first = binary(set, descriptor, 1, signed ? 'SS' : 'US') ?? 0;
  const said = short(set, descriptor, 2) ?? 16;
  const bytes = valueBytes(set, data) ?? new Uint8Array(0);
  const element = set.elements.get(data);
  if (bytes.length >= 2 * count) {
    const entries = Uint16Array.from({ length: count }, (_, i) => binary(set, data, i, 'US')!);
    // Eight bits in words stand in the lower byte, unless the upper one is used all the same.
    const bits =
      said <= 8 && !entries.some((value) => value > 255)
        ? 8
        : Math.max(9, Math.min(16, said <= 8 ? 16 : said));
    return { first, bits, entries };
  }
  if (said > 8 || bytes.length < count) throw cutOff('DICOM');
  // Bytes in words of a big endian file have changed places.
  const swapped = !set.littleEndian && element?.vr === 'OW';
  const entries = Uint16Array.from({ length: count }, (_, i) => bytes[swapped ? i ^ 1 : i]);
  return { first, bits: 8, entries };
}

/** Samples to colours by pixel. What lies before or behind the table has its first or last colour. */
export function coloured(
  samples: Uint8Array | Uint16Array,
  offset: number,
  { first, red, green, blue }: Palette
): Uint8Array {
  const out = new Uint8Array(samples.length * 3);
  const last = red.length - 1;
  for (let i = 0; i < samples.length; i++) {
    const at = Math.min(last, Math.max(0, samples[i] + offset - first));
    out[3 * i] = red[at];
    out[3 * i + 1] = green[at];
    out[3 * i + 2] = blue[at];
  }
  return out;
}
