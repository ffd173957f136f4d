import { samePlace } from '../anatomy/place';
import { type GuideResult } from '../measurement/guides/evaluate';
import { type NormalRange, sourceInWords } from '../measurement/guides/guide';
import { inWords, unitWords } from '../measurement/inWords';
import type { Unit, Value } from '../measurement/measured';
import { shortIn } from '../time/language';
import { type GuideSet, type PictureNow, guideSetsOf } from '../picture/guideSets';
import { scaleInUse } from '../picture/pictureLayers';
import { type PictureView, aspectOf, pictureName, placesOf } from '../picture/pictureView';
import { drawnItems, isReading, readingsOf } from '../picture/readings';
import type { CourseStep } from './courseDrawing';
import { type PostureFigure, postureFigure } from './postureFigure';

/** One result as it stands on a page. */
export interface ResultLine {
  key: string;
  name: string;
  /** With its ± and unit. */
  value: string;
  range: string;
  standing: 'below' | 'within' | 'above' | null;
  stage: string;
  /** What has changed since it was measured before, in words; empty where it was not, or in another unit. */
  change: string;
  /** It and what it was before, the oldest first: those in another unit are left out. */
  course: CourseStep[];
  limits: { low: number | null; high: number | null } | null;
}

/** What a guide gave on the pictures of a visit. */
export interface GuidePage {
  set: string;
  name: string;
  /** The pictures that it lies on, as they were asked for. */
  pictures: PictureView[];
  lines: ResultLine[];
  /** What gives no value, and why. */
  without: { name: string; because: string }[];
  /** Results whose landmarks are not all placed. */
  leftOut: number;
  /** When the one before was taken that changes are told from; null for the first. */
  since: string | null;
  preparedBy: string[];
  /** Who confirmed every part as it is now; empty where a part waits. */
  confirmedBy: string[];
  figure: PostureFigure | null;
  sources: string[];
}

export interface ReadingLine {
  id: string;
  picture: string;
  name: string;
  value: string;
  /** Who confirmed it as it is now; null where it waits. */
  confirmedBy: string | null;
}

export interface VisitResults {
  guides: GuidePage[];
  readings: ReadingLine[];
}

const now = (pictures: readonly PictureView[]): PictureNow[] =>
  pictures.map((picture) => ({ picture, layers: picture.layers }));

/**
 * All that was measured in a visit, for a page.
 * @param pictures of the visit
 * @param earlier pictures of the patient's visits before it
 * @param language that numbers are written in
 */
export function visitResults(
  pictures: readonly PictureView[],
  earlier: readonly PictureView[],
  language: string
): VisitResults {
  const before = guideSetsOf(now(earlier));
  return {
    guides: guideSetsOf(now(pictures)).map((set) => guidePage(set, before, language)),
    readings: pictures.flatMap((picture) => {
      const scale = scaleInUse(picture.layers, picture.fileScale);
      return readingsOf(picture.layers, scale, aspectOf(picture)).flatMap(
        ({ item, name, values, confirmedBy }): ReadingLine[] =>
          isReading(item.kind) && values.length > 0
            ? [
                {
                  id: item.id,
                  picture: pictureName(picture),
                  name,
                  value: values
                    .map(({ words, value }) => [words, inWords(value, language)].filter(Boolean).join(' '))
                    .join(', '),
                  confirmedBy: confirmedBy === null ? null : nameOf(picture, confirmedBy)
                }
              ]
            : []
      );
    })
  };
}

const nameOf = ({ people }: PictureView, userId: string) => (userId ? people[userId] || 'somebody' : 'you');
const takenAt = ({ views }: GuideSet) =>
  [...views.values()]
    .map(({ picture }) => picture.takenAt)
    .toSorted()
    .at(-1)!;

function guidePage(set: GuideSet, before: readonly GuideSet[], language: string): GuidePage {
  const parts = [...set.views.values()];
  const former = before
    .filter((each) => each.guide.key === set.guide.key && isOfSame(set, each) && takenAt(each) < takenAt(set))
    .toSorted((a, b) => takenAt(a).localeCompare(takenAt(b)));
  const last = former.at(-1);
  const drawn = parts.flatMap(({ picture, item }) =>
    drawnItems(picture.layers)
      .filter((each) => each.item.id === item.id && each.item.kind === 'guide')
      .map(({ confirmedBy }) => ({ picture, item, confirmedBy }))
  );
  const names = (all: string[]) => [...new Set(all)];
  const valued = set.results.flatMap((result) => (result.outcome === 'value' ? [result] : []));
  return {
    set: set.set,
    name: set.guide.name,
    pictures: parts.map(({ picture }) => picture),
    lines: valued.map((result) => lineOf(result, former, takenAt(set), language)),
    without: set.results.flatMap((result) =>
      result.outcome === 'cannot' ? [{ name: result.formula.name, because: result.because }] : []
    ),
    leftOut: set.results.filter(({ outcome }) => outcome === 'missing').length,
    since: last ? takenAt(last) : null,
    preparedBy: names(drawn.map(({ picture, item }) => nameOf(picture, item.by))),
    confirmedBy: drawn.every(({ confirmedBy }) => confirmedBy !== null)
      ? names(drawn.map(({ picture, confirmedBy }) => nameOf(picture, confirmedBy!)))
      : [],
    figure: set.guide.key === 'posture' ? postureFigure(set.results) : null,
    sources: names(
      valued.flatMap(({ formula: { source, normal, stages } }) =>
        [source, normal?.source, stages?.source].flatMap((each) => (each ? [sourceInWords(each)] : []))
      )
    )
  };
}

/** Whether two doings are of one part of the body: pictures of the same place, or none of them says of what. */
function isOfSame(a: GuideSet, b: GuideSet): boolean {
  const placesIn = ({ views }: GuideSet) => [...views.values()].flatMap(({ picture }) => placesOf(picture));
  const [some, others] = [placesIn(a), placesIn(b)];
  if (some.length === 0 || others.length === 0) return some.length === others.length;
  return some.some((one) => others.some((other) => samePlace(one, other)));
}

function lineOf(
  result: GuideResult & { outcome: 'value' },
  former: readonly GuideSet[],
  at: string,
  language: string
): ResultLine {
  const { formula, value, standing, stage } = result;
  const resultIn = (set: GuideSet) => set.results.find((each) => each.formula.key === formula.key);
  const last = former.at(-1);
  const then = last && resultIn(last);
  const steps = former.flatMap((set): CourseStep[] => {
    const found = resultIn(set);
    return found?.outcome === 'value' && found.value.unit === value.unit
      ? [{ takenAt: takenAt(set), value: found.value.value, plusMinus: found.value.plusMinus }]
      : [];
  });
  return {
    key: formula.key,
    name: formula.name,
    value: inWords(value, language),
    range:
      formula.normal && value.unit === formula.unit
        ? rangeInWords(formula.normal, formula.unit, language)
        : '',
    standing,
    stage: stage ?? '',
    change:
      then?.outcome === 'value' && then.value.unit === value.unit
        ? changeInWords(then.value, value, language)
        : '',
    course: [...steps, { takenAt: at, value: value.value, plusMinus: value.plusMinus }],
    limits: value.unit === formula.unit ? (formula.normal ?? null) : null
  };
}

/** Worked value: "2 to 9°", "up to 5 mm". */
export function rangeInWords(
  { low: least, high: most, means }: NormalRange,
  unit: Unit,
  language: string
): string {
  const of = unitWords[unit];
  const [low, high] = [least, most].map((limit) => (limit === null ? null : shortIn(limit, language)));
  const limits =
    low === null ? `up to ${high}${of}` : high === null ? `from ${low}${of}` : `${low} to ${high}${of}`;
  return means ? `${limits}, ${means}` : limits;
}

/** Both uncertainties count, as independent ones: the root of the sum of their squares (JCGM 100:2008, 5.1.2). */
function changeInWords(then: Value, value: Value, language: string): string {
  const change = {
    value: value.value - then.value,
    unit: value.unit,
    plusMinus: Math.hypot(value.plusMinus, then.plusMinus)
  };
  const words = `${change.value > 0 ? '+' : ''}${inWords(change, language)}`;
  return Math.abs(change.value) > change.plusMinus ? words : `${words}, may be the measuring alone`;
}
