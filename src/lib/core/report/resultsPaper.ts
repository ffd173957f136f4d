import { pictureName } from '../picture/pictureView';
import { type PostureFigure } from './postureFigure';
import { type CourseStep } from './courseDrawing';
import type { VisitResults } from './visitResults';

/** The results of a visit as they stand on paper: words and drawings alone, nothing that has to be looked up. */
export interface ResultsPaper {
  /** How the patient is named on it, and in the document's own properties. */
  title: string;
  about: string;
  clinic: string;
  when: string;
  guides: {
    name: string;
    done: string;
    /** Said in bold: that nobody has confirmed it. */
    warning: string;
    figure: PostureFigure | null;
    pictures: { pictureId: string; name: string }[];
    since: string;
    lines: {
      name: string;
      value: string;
      range: string;
      isOutside: boolean;
      change: string;
      course: CourseStep[];
      limits: { low: number | null; high: number | null } | null;
    }[];
    remarks: string[];
  }[];
  readings: { name: string; value: string; confirmed: string }[];
  foot: string;
}

export const resultsFoot =
  '± is two standard uncertainties, of the scale and of placing the points. Ranges are of the sources named, not a judgement.';

/** How days are written: by the clinic's clock and in its way. */
type DayWords = (at: string) => string;

/** What stands on a page of results, in words. */
export function resultsPaper(
  { guides, readings }: VisitResults,
  head: Pick<ResultsPaper, 'title' | 'about' | 'clinic' | 'when'>,
  printed: string,
  dayWords: DayWords
): ResultsPaper {
  const many = (count: number) => (count === 1 ? 'result was left out: its' : 'results were left out: their');
  return {
    ...head,
    guides: guides.map((guide) => ({
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
      lines: guide.lines.map(({ name, value, stage, range, standing, change, course, limits }) => ({
        name,
        value: stage ? `${value}\n${stage}` : value,
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
    readings: readings.map(({ name, picture, value, confirmedBy }) => ({
      name: `${name}, ${picture}`,
      value,
      confirmed: confirmedBy === null ? 'not confirmed yet' : `confirmed by ${confirmedBy}`
    })),
    foot: `${resultsFoot} ${printed}`
  };
}
