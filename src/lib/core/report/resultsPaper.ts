import { pictureName } from '../picture/pictureView';
import { type PostureFigure } from './postureFigure';
import { type CourseStep } from './courseDrawing';
import type { VisitResults } from './visitResults';

/** The results of a visit as they stand on paper: words and drawings alone, nothing that has to be looked up. */
export interface ResultsPaper {
  guides: {
    set: string;
    name: string;
    done: string;
    /** Said in bold: that nobody has confirmed it. */
    warning: string;
    figure: PostureFigure | null;
    pictures: { pictureId: string; name: string }[];
    since: string;
    lines: {
      key: string;
      name: string;
      value: string;
      /** The step of a disease that it falls into; empty where there is none. */
      stage: string;
      range: string;
      isOutside: boolean;
      change: string;
      course: CourseStep[];
      limits: { low: number | null; high: number | null } | null;
    }[];
    remarks: string[];
  }[];
  readings: { id: string; name: string; value: string; confirmed: string }[];
}

export const resultsFoot =
  '± is two standard uncertainties, of the scale and of placing the points. Ranges are of the sources named, not a judgement.';

/** How days are written: by the clinic's clock and in its way. */
type DayWords = (at: string) => string;

/** What stands on a page of results, in words. */
export function resultsPaper({ guides, readings }: VisitResults, dayWords: DayWords): ResultsPaper {
  const many = (count: number) => (count === 1 ? 'result was left out: its' : 'results were left out: their');
  return {
    guides: guides.map((guide) => ({
      set: guide.set,
      name: guide.name,
      done: `${[...new Set(guide.pictures.map(({ takenAt }) => dayWords(takenAt)))].join(', ')}, prepared by ${guide.preparedBy.join(', ')}.${
        guide.confirmedBy.length > 0 ? ` Confirmed by ${guide.confirmedBy.join(', ')}.` : ''
      }`,
      warning: guide.confirmedBy.length > 0 ? '' : 'No clinician has confirmed it yet.',
      figure: guide.figure,
      pictures: guide.pictures.map((picture) => ({
        pictureId: picture.pictureId,
        name: pictureName(picture)
      })),
      since: guide.since ? dayWords(guide.since) : '',
      lines: guide.lines.map(({ key, name, value, stage, range, standing, change, course, limits }) => ({
        key,
        name,
        value,
        stage,
        range: range && standing ? `${range}: ${standing}` : range,
        isOutside: standing !== null && standing !== 'within',
        change,
        course,
        limits
      })),
      remarks: [
        ...guide.without.map(({ name, because }) => `${name} gives no value: ${because}.`),
        ...(guide.leftOut > 0
          ? [`${guide.leftOut} ${many(guide.leftOut)} landmarks are not all placed.`]
          : []),
        ...(guide.since ? [] : ['It was not measured in an earlier visit.']),
        `${guide.sources.join('; ')}.`
      ]
    })),
    readings: readings.map(({ id, name, picture, value, confirmedBy }) => ({
      id,
      name: `${name}, ${picture}`,
      value,
      confirmed: confirmedBy === null ? 'not confirmed yet' : `confirmed by ${confirmedBy}`
    }))
  };
}
