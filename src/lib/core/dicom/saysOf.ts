import { calendarDay } from './dates';
import { type Says, saysSchema } from '../arrivals/says';
import { shortened } from '../text';
import type { ReadSet } from './readSet';
import { code, decimal } from './readValues';

/** Reads a text value in the set's own character set. */
export type TextOf = (set: ReadSet, tag: string) => string;

/** Longer ones are no UIDs (PS3.5 9.1); what there is of them still tells one from another. */
const longestUid = 128;

/** What a DICOM data set says of whose it is and what it shows (PS3.3 C.7.1 to C.7.3, C.7.6.1, 10.5). */
export function saysOf(set: ReadSet, textOf: TextOf): Says {
  const words = (tag: string, from = set) => shortened(textOf(from, tag), 300);
  const whole = (tag: string) => {
    const value = decimal(set, tag);
    return value !== undefined && Number.isFinite(value) ? value : null;
  };
  const items = (tag: string, from = set) => from.elements.get(tag)?.items ?? [];
  const [region] = items('00082218');
  return saysSchema.parse({
    person: {
      name: words('00100010'),
      otherNames: manyNames(words('00101001')),
      id: words('00100020'),
      issuer: words('00100021'),
      birthDate: isoDay(code(set, '00100030') ?? ''),
      sex: shortened(code(set, '00100040') ?? '', 16),
      species: words('00102201') || codeMeaning(items('00102202')[0], textOf),
      breed: words('00102292'),
      owner: words('00102297')
    },
    study: {
      uid: shortened(code(set, '0020000D') ?? '', longestUid),
      date: isoDay(code(set, '00080020') ?? ''),
      description: words('00081030'),
      from: words('00080080')
    },
    series: {
      uid: shortened(code(set, '0020000E') ?? '', longestUid),
      number: whole('00200011'),
      description: words('0008103E'),
      modality: (code(set, '00080060') ?? '').slice(0, 16)
    },
    instance: { number: whole('00200013'), ...planeOf(set) },
    shows: {
      bodyPart: shortened(code(set, '00180015') ?? '', 64),
      regionCode: region ? shortened(code(region, '00080100') ?? '', 64) : '',
      structures: items('00082228')
        .slice(0, 64)
        .map((item) => shortened(code(item, '00080100') ?? '', 64))
        .filter(Boolean),
      laterality: shortened(code(set, '00200062') || code(set, '00200060') || '', 16),
      view: shortened(code(set, '00185101') || codeMeaning(items('00540220')[0], textOf), 64),
      protocol: words('00181030') || words('00181400')
    }
  });
}

const manyNames = (text: string): string[] =>
  text
    .split('\\')
    .map((each) => each.trim())
    .filter(Boolean)
    .slice(0, 20);

const codeMeaning = (item: ReadSet | undefined, textOf: TextOf): string =>
  item ? shortened(textOf(item, '00080104'), 64) : '';

/** A DICOM date (or the old form with points) as YYYY-MM-DD; empty for what is no day. */
function isoDay(date: string): string {
  const plain = date.trim().replace(/^(\d{4})\.?(\d{2})\.?(\d{2})$/, '$1$2$3');
  return calendarDay(plain)?.toISOString().slice(0, 10) ?? '';
}

/** The plane of a slice (PS3.3 C.7.6.2.1.1): where it lies along its normal, in mm, and that; null where the file does not say. */
function planeOf(set: ReadSet): { alongMm: number | null; normal: [number, number, number] | null } {
  const at = [0, 1, 2].map((i) => decimal(set, '00200032', i));
  const plane = [0, 1, 2, 3, 4, 5].map((i) => decimal(set, '00200037', i));
  if ([...at, ...plane].some((value) => value === undefined || !Number.isFinite(value)))
    return { alongMm: null, normal: null };
  const [x, y, z] = at as number[];
  const [a, b, c, d, e, f] = plane as number[];
  const [p, q, r] = [b * f - c * e, c * d - a * f, a * e - b * d];
  const alongMm = x * p + y * q + z * r;
  const long = Math.hypot(p, q, r);
  return { alongMm, normal: long > 0 ? [p / long, q / long, r / long] : null };
}
