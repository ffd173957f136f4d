import type { Code } from '../anatomy/code';
import type { Notation } from '../anatomy/teeth';
import type { Scale } from '../calibration/scale';
import { inWords } from '../measurement/inWords';
import { plainLanguage } from '../time/language';
import type { Value } from '../measurement/measured';
import { type Spread, spreadOf } from '../measurement/repeated';
import { type LayerName, layerKindOf } from './layers/all';
import { type Confirmed, confirmable } from './layers/confirmed/confirmed';
import { type ItemNote, noNote } from './layers/note/note';
import type { PictureItem, PictureLayers } from './pictureLayers';

/** A value of a reading: what it is in words where a reading has several, and in a code. */
export interface ReadingValue {
  words: string;
  concept: Code;
  value: Value;
}

/** Something that is drawn on a picture, with what people said of it. */
export interface DrawnItem {
  item: PictureItem;
  /** What it is called: its own name, or its kind with a number. */
  name: string;
  note: ItemNote;
  /** Who looked at it and confirmed it as it is now: a user, empty while that is on its way; null for nobody. */
  confirmedBy: string | null;
}

/** The same with what it measures. */
export interface PictureReading extends DrawnItem {
  /** Empty for a drawing that measures nothing, or that gives no value. */
  values: ReadingValue[];
  /** Why it gives no value, in words. */
  refused: string | null;
}

/**
 * All values of one thing on a picture, the main one first; none of a kind that measures nothing.
 * @throws RangeError when its points give no value
 */
export function valuesOf(kind: LayerName, body: unknown, scale: Scale | null): ReadingValue[] {
  const { measure } = layerKindOf(kind);
  if (!measure) return [];
  return [
    { words: '', concept: measure.concept, value: measure.measured(body, scale) },
    ...(measure.also ?? []).map(({ words, concept, measured }) => ({
      words,
      concept,
      value: measured(body, scale)
    }))
  ];
}

/** A body in square pixels, where nothing but the shape of the pixels is known. */
export function inSquares({ kind, body }: PictureItem, aspect: number): unknown {
  const { placed } = layerKindOf(kind);
  if (aspect === 1 || !placed) return body;
  return placed.withPoints(
    body,
    placed.pointsOf(body).map((point) => ({ ...point, y: point.y * aspect }))
  );
}

/** Everything that is drawn on a picture, in the order it was made. */
export function drawnItems(layers: PictureLayers): DrawnItem[] {
  const counts = new Map<LayerName, number>();
  const noted = new Map<string, ItemNote>();
  const confirmed = new Map<string, { as: string; by: string }>();
  for (const { id, kind, body, by } of layers.items) {
    if (kind === 'note') noted.set(id, body as ItemNote);
    if (kind === 'confirmed') confirmed.set(id, { as: (body as Confirmed).as, by });
  }
  return layers.items.flatMap((item): DrawnItem[] => {
    const { placed, words } = layerKindOf(item.kind);
    if (!placed) return [];
    const number = (counts.get(item.kind) ?? 0) + 1;
    counts.set(item.kind, number);
    const note = noted.get(item.id) ?? noNote;
    const stamp = confirmed.get(item.id);
    return [
      {
        item,
        name: note.name || `${words} ${number}`,
        note,
        confirmedBy: stamp && stamp.as === confirmable(item.body) ? stamp.by : null
      }
    ];
  });
}

/**
 * The same with what it measures.
 * @param aspect height of a pixel over its width, for values without a scale
 */
export const readingsOf = (layers: PictureLayers, scale: Scale | null, aspect = 1): PictureReading[] =>
  drawnItems(layers).map((drawn) => ({ ...drawn, ...measuredOnce(drawn.item, scale, aspect) }));

type Measured = Pick<PictureReading, 'values' | 'refused'>;

/** What bodies measured last: fits and their ± cost too much to be made anew while something else on a picture changes. */
const measuredBefore = new WeakMap<object, { by: string; measured: Measured }>();

function measuredOnce(item: PictureItem, scale: Scale | null, aspect: number): Measured {
  const body = item.body as object;
  const by = JSON.stringify([item.kind, scale, aspect]);
  const before = measuredBefore.get(body);
  if (before?.by === by) return before.measured;
  const measured = measuredOrRefused(item, scale, aspect);
  measuredBefore.set(body, { by, measured });
  return measured;
}

function measuredOrRefused(item: PictureItem, scale: Scale | null, aspect: number): Measured {
  try {
    return { values: valuesOf(item.kind, scale ? item.body : inSquares(item, aspect), scale), refused: null };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { values: [], refused: error.message };
  }
}

/**
 * What stands beside a drawing: its name where it was given one, what it says by itself, and what it measures.
 * @param language that numbers are written in
 */
export function wordsOf(
  { item, note, values }: PictureReading,
  notation: Notation,
  language: string = plainLanguage
): string {
  const said = layerKindOf(item.kind).placed?.says?.(item.body, notation);
  const measured = values.map(({ words, value }) =>
    [words, inWords(value, language)].filter(Boolean).join(' ')
  );
  return [note.name, said, ...measured].filter(Boolean).join(', ');
}

/** Whether a kind gives something to be confirmed: values, grey values, or landmarks that results follow from. */
export const isReading = (kind: LayerName): boolean => {
  const { measure, samples, confirms } = layerKindOf(kind);
  return measure !== undefined || samples !== undefined || confirms === true;
};

/** A reading with those taken again of the same thing, and how far they lie apart. */
export interface ReadingGroup {
  first: PictureReading;
  again: PictureReading[];
  /** Of the main values of all of them; null for a single one. */
  spread: Spread | null;
}

/** Readings with their repeats. A repeat of what is not there (any more) stands for itself. */
export function grouped(readings: readonly PictureReading[]): ReadingGroup[] {
  const byId = new Map(readings.map((reading) => [reading.item.id, reading]));
  const firstOf = (reading: PictureReading): PictureReading => {
    const first = reading.note.repeatOf === null ? undefined : byId.get(reading.note.repeatOf);
    return first && first.item.kind === reading.item.kind && first.note.repeatOf === null ? first : reading;
  };
  return readings
    .filter((reading) => firstOf(reading) === reading)
    .map((first) => {
      const again = readings.filter((reading) => reading !== first && firstOf(reading) === first);
      const values = [first, ...again].flatMap((reading) => reading.values[0]?.value.value ?? []);
      return { first, again, spread: spreadOf(values) };
    });
}
