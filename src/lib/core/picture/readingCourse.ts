import type { Unit } from '../measurement/measured';
import { type PictureNow, guideSetsOf } from './guideSets';
import { scaleInUse } from './pictureLayers';
import { type PictureView, aspectOf } from './pictureView';
import { type PictureReading, drawnItems, readingsOf } from './readings';

/** One reading of the same thing at one time. */
export interface CoursePoint {
  pictureId: string;
  visitId: string;
  readingId: string;
  takenAt: string;
  value: number;
  /** Expanded, k = 2. */
  plusMinus: number;
  confirmed: boolean;
}

export interface ReadingCourse {
  unit: Unit;
  /** The oldest first. */
  points: CoursePoint[];
  /** How many readings of the same thing are in another unit, pixels for one without a scale, and stand on no chart with these. */
  otherUnit: number;
  /** From the first to the last; null for fewer than two times. */
  change: { value: number; plusMinus: number } | null;
}

/**
 * A reading over time: all readings of its kind and of its name on pictures of the same place. One without a name goes with
 * those that have none. What changed from the first to the last has both uncertainties in it, as independent ones: the
 * root of the sum of their squares (JCGM 100:2008, 5.1.2), so that a scale that is off in both alike makes it too wide and
 * never too narrow.
 *
 * @param pictures that the reading is on, and others of the same place
 * @returns null where it gives no value
 */
export function readingCourse(
  reading: PictureReading,
  pictures: readonly PictureView[]
): ReadingCourse | null {
  const main = reading.values[0]?.value;
  if (!main) return null;
  const same = pictures.flatMap((view) => {
    const scale = scaleInUse(view.layers, view.fileScale);
    return readingsOf(view.layers, scale, aspectOf(view))
      .filter(
        ({ item, note, values }) =>
          item.kind === reading.item.kind && note.name === reading.note.name && values.length > 0
      )
      .map(({ item, values: [{ value }], confirmedBy }) => ({
        unit: value.unit,
        point: {
          pictureId: view.pictureId,
          visitId: view.visitId,
          readingId: item.id,
          takenAt: view.takenAt,
          value: value.value,
          plusMinus: value.plusMinus,
          confirmed: confirmedBy !== null
        }
      }));
  });
  return courseOf(main.unit, same);
}

/** Results of one formula of a guide over time: of all its doings on pictures of the same place, each when its last picture was taken. */
export function guideCourse(
  guide: string,
  formula: string,
  unit: Unit,
  pictures: readonly PictureNow[]
): ReadingCourse {
  const same = guideSetsOf(pictures).flatMap((set) => {
    const result = set.results.find((each) => each.formula.key === formula);
    if (set.guide.key !== guide || result?.outcome !== 'value') return [];
    const on = [...set.views.values()].toSorted((a, b) => a.picture.takenAt.localeCompare(b.picture.takenAt));
    const last = on[on.length - 1].picture;
    const confirmed = on.every(({ picture, item }) =>
      drawnItems(picture.layers).some((each) => each.item.id === item.id && each.confirmedBy !== null)
    );
    const { value, plusMinus } = result.value;
    return [
      {
        unit: result.value.unit,
        point: {
          pictureId: last.pictureId,
          visitId: last.visitId,
          readingId: set.set,
          takenAt: last.takenAt,
          value,
          plusMinus,
          confirmed
        }
      }
    ];
  });
  return courseOf(unit, same);
}

function courseOf(unit: Unit, same: readonly { unit: Unit; point: CoursePoint }[]): ReadingCourse {
  const points = same
    .filter((each) => each.unit === unit)
    .map(({ point }) => point)
    .sort((a, b) => a.takenAt.localeCompare(b.takenAt));
  const [first, last] = [points[0], points.at(-1)];
  return {
    unit,
    points,
    otherUnit: same.length - points.length,
    change:
      first && last && first.takenAt !== last.takenAt
        ? { value: last.value - first.value, plusMinus: Math.hypot(first.plusMinus, last.plusMinus) }
        : null
  };
}
