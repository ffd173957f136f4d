import { placesInWords } from '../anatomy/place';
import type { Notation } from '../anatomy/teeth';
import { scaleInUse } from './pictureLayers';
import { type PictureView, aspectOf, pictureName, placesOf } from './pictureView';
import { isReading, readingsOf } from './readings';
import { layerKindOf } from './layers/all';

export const readingColumns = [
  'picture',
  'places',
  'taken',
  'reading',
  'kind',
  'what',
  'value',
  'plus_minus',
  'unit',
  'scale',
  'prepared_by',
  'confirmed_by',
  'repeat_of'
] as const;
export type ReadingRow = Record<(typeof readingColumns)[number], string>;

/** So many digits keep every value as exact as its ± can tell. */
const digits = 7;
const figure = (value: number) => String(Number(value.toPrecision(digits)));

/**
 * The readings of some pictures as rows of a table: one a value, in full, with its expanded uncertainty (k = 2) in the same
 * unit. What gives no value has a row that says why.
 */
export function readingsTable(pictures: readonly PictureView[], notation: Notation): ReadingRow[] {
  return pictures.flatMap((view) => {
    const scale = scaleInUse(view.layers, view.fileScale);
    const readings = readingsOf(view.layers, scale, aspectOf(view));
    const names = new Map(readings.map(({ item, name }) => [item.id, name]));
    return readings
      .filter(({ item }) => isReading(item.kind))
      .flatMap(({ item, name, note, values, refused, confirmedBy }): ReadingRow[] => {
        const row = {
          picture: pictureName(view),
          places: placesInWords(placesOf(view), notation),
          taken: view.takenAt,
          reading: name,
          kind: layerKindOf(item.kind).words,
          scale: scale?.description ?? 'none: pixels',
          prepared_by: view.people[item.by] ?? '',
          confirmed_by: confirmedBy === null ? '' : (view.people[confirmedBy] ?? ''),
          repeat_of: note.repeatOf === null ? '' : (names.get(note.repeatOf) ?? '')
        };
        const none = {
          what: refused ?? 'read from the picture on screen',
          value: '',
          plus_minus: '',
          unit: ''
        };
        if (values.length === 0) return [{ ...row, ...none }];
        return values.map(({ words, value: { value, plusMinus, unit } }) => ({
          ...row,
          what: words,
          value: figure(value),
          plus_minus: figure(plusMinus),
          unit
        }));
      });
  });
}
