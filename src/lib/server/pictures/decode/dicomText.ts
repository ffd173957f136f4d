import { convertBytes } from 'dicom-character-set';
import type dicomParser from 'dicom-parser';
import type { DataSet } from 'dicom-parser';

/** Longer values are shown by their size. */
const longestText = 300;
const worded = new Set(['LO', 'LT', 'PN', 'SH', 'ST', 'UC', 'UT']);

/** A text value in the file's own character set, which may be several (Japanese, Korean). */
export function words(set: DataSet, tag: string, vr: string): string {
  const element = set.elements[tag];
  if (!element || element.length === 0) return '';
  if (!worded.has(vr)) return set.string(tag) ?? '';
  const bytes = (set.byteArray as Uint8Array).subarray(
    element.dataOffset,
    element.dataOffset + element.length
  );
  const text = convertBytes(set.string('x00080005') ?? 'ISO_IR 6', bytes, { vr });
  return text.replace(/[\0 ]+$/, '');
}

/** Every attribute for people to read: text as text, numbers as numbers, binary by size, items inside sequences too. */
export function attributeList(set: DataSet): { tag: string; text: string }[] {
  return Object.values(set.elements).map((element) => ({
    tag: element.tag.slice(1).toUpperCase(),
    text: textOf(set, element)
  }));
}

const numberReaders: Record<string, (set: DataSet, tag: string) => number | undefined> = {
  US: (set, tag) => set.uint16(tag),
  SS: (set, tag) => set.int16(tag),
  UL: (set, tag) => set.uint32(tag),
  SL: (set, tag) => set.int32(tag),
  FL: (set, tag) => set.float(tag),
  FD: (set, tag) => set.double(tag)
};

function textOf(set: DataSet, element: dicomParser.Element): string {
  if (element.items) {
    const items = element.items.map((item) =>
      item.dataSet
        ? attributeList(item.dataSet)
            .map((each) => each.text)
            .filter(Boolean)
            .join(', ')
        : ''
    );
    return items
      .map((item) => `{ ${item} }`)
      .join(' ')
      .slice(0, longestText);
  }
  const size = `${element.length.toLocaleString('en')} bytes`;
  const reader = numberReaders[element.vr ?? ''];
  try {
    if (reader) return String(reader(set, element.tag) ?? '');
    if (element.length > longestText || /^O[BDFLWV]$|^UN$/.test(element.vr ?? '')) return size;
    return words(set, element.tag, element.vr ?? 'LO');
  } catch {
    return size;
  }
}
