import { entryFor } from './dictionary';

/** Pixel data as another standard codes it, a fragment a frame (PS3.5 A.4). */
export interface Encapsulated {
  /** The transfer syntax that says how. */
  syntax: string;
  fragments: Uint8Array[];
}
export type ElementValue = string[] | number[] | Uint8Array | Uint16Array | Encapsulated | Dataset[];

export interface DataElement {
  tag: string;
  vr: string;
  value: ElementValue;
}

/** Data elements in ascending order of tag, each tag once. */
export type Dataset = DataElement[];

type Scalar = string | number;
/** What {@link dataset} takes: keyword to value. Undefined leaves the attribute out, an empty string writes it empty. */
export interface Attributes {
  [keyword: string]: Scalar | Scalar[] | Uint8Array | Uint16Array | Encapsulated | Attributes[] | undefined;
}

/**
 * A data set from keywords, with the dictionary's value representations.
 * @param vrs representations for attributes that may have several (PixelData: OW or OB)
 */
export function dataset(attributes: Attributes, vrs: Record<string, string> = {}): Dataset {
  const elements: Dataset = [];
  for (const [keyword, given] of Object.entries(attributes)) {
    if (given === undefined) continue;
    const entry = entryFor(keyword);
    elements.push({ tag: entry.tag, vr: vrs[keyword] ?? entry.vr, value: valueOf(given, vrs) });
  }
  return inOrder(elements);
}

/** Data elements in ascending order of tag, as a new data set. */
export const inOrder = (elements: readonly DataElement[]): Dataset =>
  [...elements].sort((a, b) => (a.tag < b.tag ? -1 : 1));

/** A new data set that holds these elements, in place of its own of the same tags. */
export function withElements(set: Dataset, own: readonly DataElement[]): Dataset {
  const tags = new Set(own.map(({ tag }) => tag));
  return inOrder([...set.filter(({ tag }) => !tags.has(tag)), ...own]);
}

function valueOf(given: NonNullable<Attributes[string]>, vrs: Record<string, string>): ElementValue {
  if (typeof given === 'object' && !Array.isArray(given)) return given;
  if (!Array.isArray(given)) return given === '' ? [] : ([given] as string[] | number[]);
  if (given.length > 0 && typeof given[0] === 'object') {
    return (given as Attributes[]).map((item) => dataset(item, vrs));
  }
  return given as string[] | number[];
}

export function isSequence(value: ElementValue): value is Dataset[] {
  return Array.isArray(value) && value.length > 0 && Array.isArray(value[0]);
}

export const isEncapsulated = (value: ElementValue): value is Encapsulated => 'fragments' in value;

export function find(set: Dataset, keyword: string): DataElement | undefined {
  const { tag } = entryFor(keyword);
  return set.find((element) => element.tag === tag);
}

export function firstText(set: Dataset, keyword: string): string | undefined {
  const value = find(set, keyword)?.value;
  if (!value || !Array.isArray(value) || value.length === 0 || typeof value[0] === 'object') return undefined;
  return String(value[0]);
}

/** A value for people to read; long binary values by their size. */
export function inText(element: DataElement): string {
  const { value } = element;
  if (!Array.isArray(value)) {
    const parts = isEncapsulated(value) ? value.fragments : [value];
    return `${parts.reduce((sum, part) => sum + part.byteLength, 0).toLocaleString('en')} bytes`;
  }
  if (isSequence(value)) {
    return value
      .map(
        (item) =>
          `{ ${item
            .map((inner) => inText(inner))
            .filter(Boolean)
            .join(', ')} }`
      )
      .join(' ');
  }
  return value.join(' \\ ');
}
