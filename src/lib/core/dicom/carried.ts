import { z } from 'zod';
import { type LayerName, isLayerName, layerKindOf, readLayer } from '../picture/layers/all';
import type { PictureLayers } from '../picture/pictureLayers';
import { Unreadable } from '../versioned';
import { type DataElement, type Dataset, dataset } from './dataset';
import type { ReadSet } from './readSet';
import { code, utf8 } from './readValues';

/** One thing that an object says of a picture. */
export interface ReadLayer {
  kind: LayerName;
  item: string | null;
  body: unknown;
}

const creatorTag = '00710010';
const carriedTag = '00711001';
const unreadWords = 'something that a newer Yonder Tray wrote';
const privateCreator = 'YONDER TRAY';
const carriedSchema = z.array(
  z.strictObject({
    kind: z.string(),
    item: z.string().max(60).nullable(),
    version: z.number().int().positive(),
    body: z.unknown()
  })
);

/** What is placed on a picture or named on it, and views that were kept of it. */
const isCarried = (kind: LayerName) =>
  kind === 'note' || kind === 'kept' || layerKindOf(kind).placed !== undefined;

/**
 * Everything a presentation state tells of a picture as it is kept here, in a private element, so that it is read back as
 * it was: the standard's own graphics hold lines and words, and not what they are.
 */
export function carriedElements({ look, orientation, crop, items }: PictureLayers): DataElement[] {
  const one = (kind: LayerName, item: string | null, body: unknown) => ({
    kind,
    item,
    version: layerKindOf(kind).version,
    body
  });
  const carried = [
    ...(look ? [one('look', null, look)] : []),
    ...(orientation ? [one('orientation', null, orientation)] : []),
    ...(crop ? [one('crop', null, crop)] : []),
    ...items
      .filter(({ kind }) => isCarried(kind) && layerKindOf(kind).many)
      .map(({ kind, id, body }) => one(kind, id, body))
  ];
  return [
    { tag: creatorTag, vr: 'LO', value: [privateCreator] },
    { tag: carriedTag, vr: 'UT', value: [JSON.stringify(carried)] }
  ];
}

/** Parts of a layer's body that people wrote, and those that are numbers of other things. */
const written: ReadonlySet<string> = new Set(['name', 'remark', 'words']);
const numbers: ReadonlySet<string> = new Set(['repeatOf', 'set']);

/**
 * What of the private element may leave without an identity: what the standard's graphics tell as well, as it is kept here.
 * Words are cleaned, things are known by other numbers, and views that were kept, which say when, stay behind.
 * Nothing of an object that carries nothing of ours.
 */
export function safeCarried(
  set: Dataset,
  change: { words: (text: string) => string; number: (of: string) => string }
): DataElement[] {
  const element = set.find(({ tag }) => tag === carriedTag);
  if (!element || !Array.isArray(element.value)) return [];
  const told = carriedSchema.parse(JSON.parse(String(element.value[0])));
  const changed = (value: unknown, key = ''): unknown => {
    if (typeof value === 'string')
      return written.has(key) ? change.words(value) : numbers.has(key) ? change.number(value) : value;
    if (Array.isArray(value)) return value.map((each) => changed(each));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([inner, each]) => [inner, changed(each, inner)]));
  };
  const safe = told
    .filter(({ kind }) => kind !== 'kept')
    .map(({ item, body, ...rest }) => ({
      ...rest,
      item: item === null ? null : change.number(item),
      body: changed(body)
    }));
  return [
    { tag: creatorTag, vr: 'LO', value: [privateCreator] },
    { tag: carriedTag, vr: 'UT', value: [JSON.stringify(safe)] },
    ...dataset({
      PrivateDataElementCharacteristicsSequence: [
        {
          PrivateGroupReference: parseInt(carriedTag.slice(0, 4), 16),
          PrivateCreatorReference: privateCreator,
          BlockIdentifyingInformationStatus: 'SAFE'
        }
      ]
    })
  ];
}

/** The way back; null for an object that carries nothing of ours. */
export function carriedLayers(set: ReadSet): { layers: ReadLayer[]; leftOut: string[] } | null {
  if (code(set, creatorTag) !== privateCreator) return null;
  let told: unknown;
  try {
    told = JSON.parse(utf8(set, carriedTag));
  } catch {
    return null;
  }
  const read = carriedSchema.safeParse(told);
  if (!read.success) return null;
  let missing = false;
  const layers = read.data.flatMap(({ kind, item, version, body }): ReadLayer[] => {
    const layer = layerOf(kind, item, version, body);
    missing ||= layer === null;
    return layer ? [layer] : [];
  });
  return { layers, leftOut: missing ? [unreadWords] : [] };
}

/** Null for one that this program can't read: of a kind or a version that it does not know. */
function layerOf(kind: string, item: string | null, version: number, body: unknown): ReadLayer | null {
  if (!isLayerName(kind)) return null;
  const isOfPicture = kind === 'look' || kind === 'orientation' || kind === 'crop';
  const fits = isOfPicture ? item === null : item !== null && isCarried(kind);
  if (!fits) return null;
  try {
    return { kind, item, body: readLayer(kind, version, body) };
  } catch (error) {
    if (error instanceof Unreadable) return null;
    throw error;
  }
}
