import { keyedCode } from '../anatomy/code';
import { guideMeaning } from './objects/measurementReport';
import { type LayerName, layerKindOf, layerKinds } from '../picture/layers/all';
import { type Crop, cropBetween } from '../picture/layers/crop/crop';
import { mostTextLetters } from '../picture/layers/text/text';
import { type ItemNote, noNote } from '../picture/layers/note/note';
import { type GuidePoints, guideViewOf } from '../picture/layers/guide/guide';
import { windowLook } from '../raster/look/look';
import { type Orientation, type Point, type Size, upright } from '../raster/orientation';
import { uuidOfUid } from '../identity/uuid7';
import { type ReadLayer, carriedLayers } from './carried';
import type { ReadSet } from './readSet';
import { binary, code, countOf, decimal, utf8 } from './readValues';

export interface ReadBack {
  /** The SOP Instance UIDs of the pictures it is about. */
  about: string[];
  layers: ReadLayer[];
  /** What it says that can't be shown here, in words. */
  leftOut: string[];
}

const tags = {
  sopClass: '00080016',
  instance: '00081155',
  codeValue: '00080100',
  images: '00081199',
  referencedSeries: '00081115',
  referencedImages: '00081140',
  annotations: '00700001',
  annotationUnits: '00700005',
  anchorUnits: '00700004',
  boxUnits: '00700003',
  texts: '00700008',
  graphics: '00700009',
  words: '00700006',
  anchor: '00700014',
  box: '00700010',
  graphicData: '00700022',
  graphicType: '00700023',
  flip: '00700041',
  rotation: '00700042',
  areas: '0070005A',
  areaFrom: '00700052',
  areaTo: '00700053',
  windows: '00283110',
  center: '00281050',
  width: '00281051',
  lutShape: '20500020',
  content: '0040A730',
  valueType: '0040A040',
  concept: '0040A043',
  text: '0040A160',
  uid: '0040A124',
  measured: '0040A300',
  numeric: '0040A30A'
} as const;

export const isReport = (sopClass: string): boolean => sopClass.startsWith('1.2.840.10008.5.1.4.1.1.88.');
export const sopClassOf = (set: ReadSet): string => code(set, tags.sopClass) ?? '';

const itemsOf = (set: ReadSet, tag: string): ReadSet[] => set.elements.get(tag)?.items ?? [];

/**
 * What a softcopy presentation state (PS3.3 A.33.1) says of a picture. One of ours is read as it was kept; of any other
 * what the standard tells: turn and flip, the part that is shown, the window, polylines, circles, ellipses and words that
 * are placed in pixels.
 * @param newId gives each thing that has none an id
 * @param size of the picture that it is to be shown on
 */
export function presentationRead(set: ReadSet, newId: () => string, size: Size): ReadBack {
  const about = itemsOf(set, tags.referencedSeries).flatMap((series) =>
    referenced(series, tags.referencedImages)
  );
  const carried = carriedLayers(set);
  if (carried) return { about, ...carried };
  const layers: ReadLayer[] = [];
  const leftOut = new Set<string>();
  const orientation = orientationRead(set);
  if (orientation) layers.push({ kind: 'orientation', item: null, body: orientation });
  const crop = cropRead(set, size, orientation ?? upright);
  if (crop) layers.push({ kind: 'crop', item: null, body: crop });
  const [window] = itemsOf(set, tags.windows);
  const [center, width] = window ? [decimal(window, tags.center), decimal(window, tags.width)] : [];
  if (center !== undefined && width !== undefined && width >= 1)
    layers.push({
      kind: 'look',
      item: null,
      body: windowLook({ center, width }, code(set, tags.lutShape) === 'INVERSE')
    });
  for (const annotation of itemsOf(set, tags.annotations)) {
    for (const graphic of itemsOf(annotation, tags.graphics)) {
      if (code(graphic, tags.annotationUnits) !== 'PIXEL')
        leftOut.add('graphics that are placed on the screen, not on the picture');
      else pushValid(layers, drawnRead(graphic, newId), leftOut);
    }
    for (const words of itemsOf(annotation, tags.texts)) {
      pushValid(layers, wordsRead(words, newId), leftOut);
      if (utf8(words, tags.words).trim().length > mostTextLetters) leftOut.add('the ends of long words');
    }
  }
  return { about, layers, leftOut: [...leftOut] };
}

function pushValid(layers: ReadLayer[], layer: ReadLayer | string, leftOut: Set<string>): void {
  if (typeof layer === 'string') leftOut.add(layer);
  else if (layerKindOf(layer.kind).schema.safeParse(layer.body).success) layers.push(layer);
  else leftOut.add('a drawing without usable points, or words that are empty');
}

function referenced(set: ReadSet, tag: string): string[] {
  return itemsOf(set, tag).flatMap((each) => code(each, tags.instance) ?? []);
}

/** The way back from a state's turn and flip: see the orientation's own part of a state. */
function orientationRead(set: ReadSet): Orientation | null {
  const rotation = binary(set, tags.rotation);
  const flip = code(set, tags.flip);
  if (rotation === undefined && flip === undefined) return null;
  const turns = (((rotation ?? 0) / 90) % 4) + 4;
  if (!Number.isInteger(turns)) return null;
  const mirrored = flip === 'Y';
  return { quarterTurns: ((mirrored ? 8 - turns : turns) % 4) as 0 | 1 | 2 | 3, mirrored };
}

/**
 * The displayed area, told by the stored pixels at its corners as they are seen, counted from 1 (PS3.3 C.10.4); null where
 * it is all of the picture or next to nothing.
 */
function cropRead(set: ReadSet, size: Size, orientation: Orientation): Crop | null {
  const [area] = itemsOf(set, tags.areas);
  if (!area) return null;
  const [fromX, fromY] = [binary(area, tags.areaFrom, 0), binary(area, tags.areaFrom, 1)];
  const [toX, toY] = [binary(area, tags.areaTo, 0), binary(area, tags.areaTo, 1)];
  if (fromX === undefined || fromY === undefined || toX === undefined || toY === undefined) return null;
  const [left, right] = [Math.min(fromX, toX) - 1, Math.max(fromX, toX)];
  const [top, bottom] = [Math.min(fromY, toY) - 1, Math.max(fromY, toY)];
  if (left <= 0 && top <= 0 && right >= size.width && bottom >= size.height) return null;
  return cropBetween({ x: left, y: top }, { x: right, y: bottom }, size, orientation);
}

function pointsRead(set: ReadSet, tag = tags.graphicData as string): Point[] {
  const count = Math.floor(countOf(set, tag) / 2);
  return Array.from({ length: count }, (_, i) => ({
    x: binary(set, tag, 2 * i) ?? NaN,
    y: binary(set, tag, 2 * i + 1) ?? NaN
  }));
}

const roundSteps = 72;
const around = (center: Point, one: Point, other: Point): Point[] =>
  Array.from({ length: roundSteps }, (_, i) => {
    const angle = (2 * Math.PI * i) / roundSteps;
    const [u, v] = [Math.cos(angle), Math.sin(angle)];
    return {
      x: center.x + u * (one.x - center.x) + v * (other.x - center.x),
      y: center.y + u * (one.y - center.y) + v * (other.y - center.y)
    };
  });

function drawnRead(graphic: ReadSet, newId: () => string): ReadLayer | string {
  const type = code(graphic, tags.graphicType);
  const points = pointsRead(graphic);
  const way = (kind: 'outline' | 'freehand', drawn: Point[]): ReadLayer => ({
    kind,
    item: newId(),
    body: { way: drawn }
  });
  const [first, second, third] = points;
  const last = points.at(-1);
  if ((type === 'POLYLINE' || type === 'INTERPOLATED') && first && last) {
    const closed = points.length > 3 && first.x === last.x && first.y === last.y;
    return closed ? way('outline', points.slice(0, -1)) : way('freehand', points);
  }
  if (type === 'CIRCLE' && points.length === 2) {
    const square = { x: first.x - (second.y - first.y), y: first.y + (second.x - first.x) };
    return way('outline', around(first, second, square));
  }
  if (type === 'ELLIPSE' && points.length === 4) {
    const center = { x: (first.x + second.x) / 2, y: (first.y + second.y) / 2 };
    return way('outline', around(center, first, third));
  }
  return type === 'POINT' ? 'single points' : 'graphics of a kind that is not shown here';
}

function wordsRead(text: ReadSet, newId: () => string): ReadLayer | string {
  const words = utf8(text, tags.words).trim().slice(0, mostTextLetters);
  const anchored = code(text, tags.anchorUnits) === 'PIXEL';
  const boxed = code(text, tags.boxUnits) === 'PIXEL';
  const [at] = anchored ? pointsRead(text, tags.anchor) : boxed ? pointsRead(text, tags.box) : [];
  if (!at) return 'words that are placed on the screen, not on the picture';
  return { kind: 'text', item: newId(), body: { at: { ...at, uncertaintyPx: 1 }, words } };
}

/** What measures by which concept: no two kinds share one. */
const kindOfConcept = new Map<string, LayerName>(
  layerKinds.flatMap((kind): [string, LayerName][] => {
    const { measure } = layerKindOf(kind.kind);
    return measure ? [[measure.concept.meaning.toLowerCase(), kind.kind]] : [];
  })
);
const uncertaintyMeaning = 'placement uncertainty of points';
const meaning = (set: ReadSet): string =>
  utf8(itemsOf(set, tags.concept)[0] ?? set, '00080104').toLowerCase();

/**
 * The readings of a structured report (PS3.16 TID 1500): each measurement group that holds a measure this program knows,
 * by the coordinates it was inferred from. What it says in numbers is not taken over: the points are measured anew by the
 * picture's own scale.
 */
export function reportRead(set: ReadSet, newId: () => string): ReadBack {
  const about = new Set<string>();
  const layers: ReadLayer[] = [];
  const leftOut = new Set<string>();
  const walk = (each: ReadSet): void => {
    for (const id of referenced(each, tags.images)) about.add(id);
    if (code(itemsOf(each, tags.concept)[0] ?? each, tags.codeValue) === '125007') {
      const read = groupRead(each, newId);
      if (typeof read === 'string') leftOut.add(read);
      else layers.push(...read);
    }
    itemsOf(each, tags.content).forEach(walk);
  };
  walk(set);
  return { about: [...about], layers, leftOut: [...leftOut] };
}

/** A report closes an outline with its first point once more; here the last joins the first by itself. */
function openedFor(kind: LayerName, points: Point[]): Point[] {
  const [first, last] = [points[0], points.at(-1)];
  const repeats = points.length > 3 && first.x === last!.x && first.y === last!.y;
  return kind === 'area' && repeats ? points.slice(0, -1) : points;
}

/** Landmarks of a guide, told by their codes; what it says follows from them is worked out anew. */
function guideRead(parts: readonly ReadSet[], which: string, newId: () => string): ReadLayer[] | string {
  const [guide, version, view] = which.split('/');
  const known = guideViewOf({ guide, version: Number(version), view });
  if (!known) return 'landmarks of a guide that this program does not have';
  const codes = new Map(
    known.landmarks.map(({ key, name }) => [keyedCode(`${guide} ${view} ${key}`, name).value, key])
  );
  const uncertainties = parts.flatMap((part) =>
    itemsOf(part, tags.content)
      .filter((each) => meaning(each).startsWith(uncertaintyMeaning))
      .flatMap((each) => decimal(itemsOf(each, tags.measured)[0] ?? each, tags.numeric) ?? [])
  );
  const points: GuidePoints['points'] = {};
  for (const part of parts) {
    const key = codes.get(code(itemsOf(part, tags.concept)[0] ?? part, tags.codeValue) ?? '');
    const [point] = code(part, tags.valueType) === 'SCOORD' ? pointsRead(part) : [];
    if (key && point) points[key] = { ...point, uncertaintyPx: uncertainties[0] ?? 1 };
  }
  const tracked = parts.find((each) => code(each, tags.valueType) === 'UIDREF');
  const set = uuidOfUid(tracked ? (code(tracked, tags.uid) ?? '') : '') ?? newId();
  const body: GuidePoints = { set, guide, version: Number(version), view, points };
  const usable = Object.keys(points).length > 0 && layerKindOf('guide').schema.safeParse(body).success;
  return usable ? [{ kind: 'guide', item: set, body }] : 'landmarks of a guide that say no place';
}

function groupRead(group: ReadSet, newId: () => string): ReadLayer[] | string {
  const parts = itemsOf(group, tags.content);
  const valueType = (part: ReadSet) => code(part, tags.valueType);
  const guided = parts.find(
    (each) => valueType(each) === 'TEXT' && meaning(each) === guideMeaning.toLowerCase()
  );
  if (guided) return guideRead(parts, utf8(guided, tags.text), newId);
  for (const part of parts.filter((each) => valueType(each) === 'NUM')) {
    const kind = kindOfConcept.get(meaning(part));
    const shape = itemsOf(part, tags.content).find((each) => valueType(each) === 'SCOORD');
    if (!kind || !shape) continue;
    const said = itemsOf(part, tags.content).find((each) => meaning(each).startsWith(uncertaintyMeaning));
    const uncertaintyPx = (said && decimal(itemsOf(said, tags.measured)[0] ?? said, tags.numeric)) ?? 1;
    const { made } = layerKindOf(kind).placed!;
    const body = made?.(openedFor(kind, pointsRead(shape)).map((point) => ({ ...point, uncertaintyPx })));
    if (!body || !layerKindOf(kind).schema.safeParse(body).success) continue;
    const tracked = parts.find((each) => valueType(each) === 'UIDREF');
    const item = uuidOfUid(tracked ? (code(tracked, tags.uid) ?? '') : '') ?? newId();
    const named = parts.find((each) => valueType(each) === 'TEXT' && meaning(each) === 'tracking identifier');
    const name = named ? utf8(named, tags.text).slice(0, 60) : '';
    const usual = new RegExp(`^${layerKindOf(kind).words} \\d+$`);
    const note: ReadLayer[] =
      name && !usual.test(name) ? [{ kind: 'note', item, body: { ...noNote, name } satisfies ItemNote }] : [];
    return [{ kind, item, body }, ...note];
  }
  return 'measures that this program does not know, or that say no place';
}
