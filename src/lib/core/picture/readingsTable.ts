import { placesInWords } from '../anatomy/place';
import type { Notation } from '../anatomy/teeth';
import { scaleInUse } from './pictureLayers';
import { type PictureView, aspectOf, pictureName, placesOf } from './pictureView';
import { guideSetsOf } from './guideSets';
import { drawnItems, isReading, readingsOf } from './readings';
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
    const ofGuides = guideRows(view, pictures, notation);
    const own = readings
      .filter(({ item }) => isReading(item.kind) && item.kind !== 'guide')
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
    return [...own, ...ofGuides];
  });
}

/** Results of the guides whose first view is this picture: all that follow from all their pictures. */
function guideRows(view: PictureView, pictures: readonly PictureView[], notation: Notation): ReadingRow[] {
  const sets = guideSetsOf(pictures.map((picture) => ({ picture, layers: picture.layers })));
  return sets.flatMap(({ guide, views, results }) => {
    const all = [...views.values()];
    const [first] = all;
    if (first.picture.pictureId !== view.pictureId) return [];
    const confirmers = all.map(({ picture, item }) => {
      const stamp = drawnItems(picture.layers).find((each) => each.item.id === item.id)?.confirmedBy ?? null;
      return stamp === null ? '' : (picture.people[stamp] ?? '');
    });
    const makers = all.map(({ picture, item }) => picture.people[item.by] ?? '');
    const row = {
      picture: all.map(({ picture }) => pictureName(picture)).join('; '),
      places: placesInWords(placesOf(view), notation),
      taken: view.takenAt,
      reading: guide.name,
      kind: layerKindOf('guide').words,
      scale: scaleInUse(view.layers, view.fileScale)?.description ?? 'none: pixels',
      prepared_by: [...new Set(makers)].join('; '),
      // Only what was confirmed on every picture is.
      confirmed_by: confirmers.every(Boolean) ? [...new Set(confirmers)].join('; ') : '',
      repeat_of: ''
    };
    return results.flatMap((result): ReadingRow[] => {
      if (result.outcome === 'missing') return [];
      const { name } = result.formula;
      if (result.outcome === 'cannot')
        return [{ ...row, what: `${name}: ${result.because}`, value: '', plus_minus: '', unit: '' }];
      const { value, plusMinus, unit } = result.value;
      return [{ ...row, what: name, value: figure(value), plus_minus: figure(plusMinus), unit }];
    });
  });
}
