import { type DataElement, type Dataset, isEncapsulated, isSequence } from './dataset';

/** An attribute in the DICOM JSON Model. */
interface JsonAttribute {
  vr: string;
  Value?: unknown[];
  InlineBinary?: string;
  BulkDataURI?: string;
}
export type DicomJson = Record<string, JsonAttribute>;

const asNumber: ReadonlySet<string> = new Set(['DS', 'FD', 'FL', 'IS', 'SL', 'SS', 'SV', 'UL', 'US', 'UV']);

/**
 * A data set in the DICOM JSON Model (PS3.18 Annex F): attributes by tag, numbers as numbers, a name by its groups, bytes
 * in base 64.
 * @param bulk attributes whose values lie elsewhere, by tag: what they are and where
 */
export function dicomJson(set: Dataset, bulk: Record<string, { vr: string; uri: string }> = {}): DicomJson {
  const attributes: [string, JsonAttribute][] = set
    .filter(({ tag }) => !bulk[tag])
    .map((element) => [element.tag, attributeOf(element)]);
  for (const [tag, { vr, uri }] of Object.entries(bulk)) attributes.push([tag, { vr, BulkDataURI: uri }]);
  return Object.fromEntries(attributes.sort(([a], [b]) => (a < b ? -1 : 1)));
}

function attributeOf({ tag, vr, value }: DataElement): JsonAttribute {
  if (!Array.isArray(value)) {
    if (isEncapsulated(value)) throw new RangeError(`${tag} is coded, and can only travel by itself`);
    return { vr, InlineBinary: base64(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)) };
  }
  if (value.length === 0) return { vr };
  if (isSequence(value)) return { vr, Value: value.map((item) => dicomJson(item)) };
  return { vr, Value: (value as (string | number)[]).map((each) => valueOf(vr, each)) };
}

function valueOf(vr: string, value: string | number): unknown {
  if (value === '') return null;
  if (asNumber.has(vr)) return Number(value);
  if (vr === 'PN') return nameGroups(String(value));
  return String(value);
}

/** Alphabetic, ideographic and phonetic; a group that is empty is left out. */
function nameGroups(name: string): Record<string, string> {
  const [alphabetic = '', ideographic = '', phonetic = ''] = name.split('=');
  return Object.fromEntries(
    Object.entries({ Alphabetic: alphabetic, Ideographic: ideographic, Phonetic: phonetic }).filter(
      ([, group]) => group !== ''
    )
  );
}

function base64(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}
