import { z } from 'zod';
import type { Notation } from '../anatomy/teeth';
import { placeWords } from '../anatomy/place';
import { drawingsToKeep, keptOf } from '../picture/keptViews';
import type { KeptDrawing } from '../picture/layers/kept/kept';
import { findingsOf, scaleInUse } from '../picture/pictureLayers';
import {
  type PictureView,
  aspectOf,
  lookOf,
  orientationOf,
  partOf,
  pictureName
} from '../picture/pictureView';
import { readingsOf, wordsOf } from '../picture/readings';
import type { Look } from '../raster/look/look';
import type { Orientation, Part } from '../raster/orientation';
import { type StoryText, storyTexts } from '../visit/story';
import { standingOnTray } from '../visit/standing';
import type { TrayView, VisitView } from '../visit/visitView';
import type { Versioned } from '../versioned';
import { type PaperNames, paperNames } from './paperHead';
import type { ResultsPaper } from './resultsPaper';

/** How many pictures stand side by side on a sheet. */
export const leastAcross = 1;
export const mostAcross = 4;

const choice = z.strictObject({
  names: z.enum(paperNames),
  /** Keys of sections, as somebody ordered them; those that are not named follow in their own order. */
  order: z.array(z.string().max(80)).max(200),
  /** Keys of sections, and of what stands in them, that somebody took out. */
  out: z.array(z.string().max(80)).max(1_000),
  across: z.number().int().min(leastAcross).max(mostAcross),
  /** Whether readings and drawings stand on the pictures. */
  drawn: z.boolean()
});
export type ReportChoice = z.infer<typeof choice>;
export const reportChoice: Versioned<ReportChoice> = { version: 1, schema: choice, upcasters: {} };

export const plainChoice: ReportChoice = { names: 'initials', order: [], out: [], across: 2, drawn: true };

/** What of a picture is put on paper, and how it is seen there. */
export interface PictureOnPaper {
  pictureId: string;
  frame: number;
  look: Look;
  orientation: Orientation;
  window: Part | null;
  drawings: KeptDrawing[];
}

export interface ReportPicture {
  key: string;
  name: string;
  /** When it was taken, and what is said of it, in lines. */
  lines: string[];
  shown: PictureOnPaper;
}

/** One part of a report. Its entries can be taken out one by one. */
export type ReportSection = { key: string; title: string } & (
  | { kind: 'words'; entries: { key: string; name: string; text: string }[] }
  | { kind: 'pictures'; entries: ReportPicture[] }
  | { kind: 'guide'; entries: { key: string; name: string }[]; guide: ResultsPaper['guides'][number] }
  | { kind: 'readings'; entries: { key: string; name: string; value: string; confirmed: string }[] }
);

/** What a report is made of: the visit as it is seen, and what was measured in it. */
export interface ReportFacts {
  visit: Pick<VisitView, 'story' | 'reason' | 'pictures'> & {
    trays: readonly Pick<TrayView, 'trayId' | 'number' | 'tray'>[];
  };
  results: ResultsPaper;
  notation: Notation;
  /** That dates and numbers are written in. */
  language: string;
  /** How a calendar day, and a day with its time, are written. */
  dateWords: (date: string) => string;
  momentWords: (at: string) => string;
}

export const reportFoot = 'Pictures on paper are for the talk and the folder, not for reading them.';

const wordsTitle: Readonly<Record<StoryText, string>> = {
  reason: 'Why',
  question: 'Question',
  history: 'Before',
  plan: 'Planned',
  colleague: 'For a colleague'
};

/**
 * All that a visit has to put into its report, in its own order; nothing that is empty. What somebody writes of the
 * patient comes first, then the pictures, then what was measured on them.
 */
export function reportSections(
  facts: ReportFacts,
  { drawn, names }: Pick<ReportChoice, 'drawn' | 'names'>
): ReportSection[] {
  const { results } = facts;
  const sections: ReportSection[] = [
    { key: 'story', title: 'The visit', kind: 'words', entries: storyWords(facts) },
    { key: 'findings', title: 'Findings', kind: 'words', entries: findings(facts) },
    ...pictureSections(facts, drawn),
    ...results.guides.map((guide): ReportSection => ({
      key: `guide:${guide.set}`,
      title: guide.name,
      kind: 'guide',
      entries: guide.lines.map(({ key, name }) => ({ key: `${guide.set}:${key}`, name })),
      guide
    })),
    {
      key: 'readings',
      title: 'Readings',
      kind: 'readings',
      entries: results.readings.map(({ id, ...reading }) => ({ key: id, ...reading }))
    },
    { key: 'papers', title: 'Papers that lie with it', kind: 'words', entries: papers(facts, names) }
  ];
  return sections.filter(({ entries }) => entries.length > 0);
}

/** The sections in the order that was chosen. */
export function inOrder<Section extends { key: string }>(
  sections: readonly Section[],
  order: readonly string[]
): Section[] {
  const place = new Map(order.map((key, i) => [key, i]));
  // What has no place yet stays behind what it follows by itself.
  let last = -1;
  return sections
    .map((section, i) => {
      last = place.get(section.key) ?? last;
      return { section, at: last, own: place.has(section.key) ? -1 : i };
    })
    .toSorted((a, b) => a.at - b.at || a.own - b.own)
    .map(({ section }) => section);
}

/** What stands on paper: the sections in their order, without what was taken out. */
export function reportPaper(facts: ReportFacts, choice: ReportChoice): ReportSection[] {
  const gone = new Set(choice.out);
  return inOrder(reportSections(facts, choice), choice.order).flatMap((section): ReportSection[] => {
    if (gone.has(section.key)) return [];
    const stays = ({ key }: { key: string }) => !gone.has(key);
    switch (section.kind) {
      case 'words':
        return withEntries(section, section.entries.filter(stays));
      case 'pictures':
        return withEntries(section, section.entries.filter(stays));
      case 'readings':
        return withEntries(section, section.entries.filter(stays));
      case 'guide': {
        const { guide } = section;
        const lines = guide.lines.filter(({ key }) => !gone.has(`${guide.set}:${key}`));
        return withEntries({ ...section, guide: { ...guide, lines } }, section.entries.filter(stays));
      }
    }
  });
}

const withEntries = <Section extends ReportSection>(
  section: Section,
  entries: Section['entries']
): ReportSection[] => (entries.length > 0 ? [{ ...section, entries } as Section] : []);

/** All words of a report that people wrote freely: a name may stand in them. */
export const freeWords = (sections: readonly ReportSection[]): string[] =>
  sections.flatMap((section) =>
    section.kind === 'words'
      ? section.entries.flatMap(({ name, text }) => [name, text])
      : section.kind === 'pictures'
        ? section.entries.flatMap(({ name, lines, shown }) => [
            name,
            ...lines,
            ...shown.drawings.map(({ words }) => words)
          ])
        : section.kind === 'readings'
          ? section.entries.map(({ name }) => name)
          : [section.title]
  );

function storyWords({ visit: { story, reason }, dateWords }: ReportFacts) {
  return storyTexts.flatMap((part) => {
    const text = (story.texts[part]?.body ?? (part === 'reason' ? reason : '')).trim();
    const planned = part === 'plan' ? story.plannedOn?.body : null;
    if (text === '' && !planned) return [];
    const name = planned ? `${wordsTitle[part]} for ${dateWords(planned)}` : wordsTitle[part];
    return [{ key: `story:${part}`, name, text }];
  });
}

const findings = ({ visit: { pictures }, notation }: ReportFacts) =>
  pictures.flatMap((picture) =>
    findingsOf(picture.layers).map(({ id, finding }) => ({
      key: id,
      name: finding.place ? placeWords(finding.place, notation) : pictureName(picture),
      text: finding.words
    }))
  );

/** What a paper is called may name the patient. */
const papers = ({ visit: { story } }: ReportFacts, names: PaperNames) =>
  story.papers
    .filter(({ putAwayBy }) => putAwayBy === null)
    .map(({ paperId, title, pages }, i) => ({
      key: paperId,
      name: names === 'full' ? title : `Paper ${i + 1}`,
      text: pages === 1 ? '1 page' : `${pages} pages`
    }));

function pictureSections(facts: ReportFacts, drawn: boolean): ReportSection[] {
  const { visit } = facts;
  const byId = new Map(visit.pictures.map((picture) => [picture.pictureId, picture]));
  const one = (key: string, picture: PictureView, own: Partial<PictureOnPaper>, first: string[]) => ({
    key,
    name: pictureName(picture),
    lines: [...first, ...captionOf(picture, facts)].filter(Boolean),
    shown: { ...shownNow(picture, facts, drawn), ...own }
  });
  const told = visit.story.pictures.flatMap(({ id, pictureId, as, words }) => {
    const picture = byId.get(pictureId);
    return picture
      ? [one(id, picture, as ? { look: as.look, orientation: as.orientation } : {}, [words])]
      : [];
  });
  // What the story shows already does not stand there a second time.
  const toldOf = new Set(visit.story.pictures.map(({ pictureId }) => pictureId));
  const ofTrays = visit.trays.map(({ trayId, number, tray }): ReportSection => {
    const shown = standingOnTray(tray).flatMap((id) => (toldOf.has(id) ? [] : (byId.get(id) ?? [])));
    const name = tray.laid?.name ?? 'Pictures';
    return {
      key: `tray:${trayId}`,
      title: visit.trays.length > 1 ? `${name}, tray ${number}` : name,
      kind: 'pictures',
      entries: shown.map((picture) => one(picture.pictureId, picture, {}, []))
    };
  });
  const kept = keptOf(visit.pictures).map(({ id, picture, kept }) => ({
    key: id,
    name: kept.name || pictureName(picture),
    lines: [kept.name ? pictureName(picture) : '', facts.momentWords(picture.takenAt), kept.remark].filter(
      Boolean
    ),
    shown: {
      pictureId: picture.pictureId,
      frame: kept.frame,
      look: kept.look,
      orientation: kept.orientation,
      window: kept.window,
      drawings: drawn && kept.drawn ? kept.drawings : []
    }
  }));
  return [
    ...(told.length > 0
      ? [{ key: 'told', title: 'Pictures of the story', kind: 'pictures' as const, entries: told }]
      : []),
    ...ofTrays,
    { key: 'kept', title: 'Kept views', kind: 'pictures', entries: kept }
  ];
}

/** A picture as it is seen now. */
export function shownNow(
  picture: PictureView,
  { notation, language }: Pick<ReportFacts, 'notation' | 'language'>,
  drawn: boolean
): PictureOnPaper {
  const aspect = aspectOf(picture);
  const readings = drawn
    ? readingsOf(picture.layers, scaleInUse(picture.layers, picture.fileScale), aspect)
    : [];
  return {
    pictureId: picture.pictureId,
    frame: 0,
    look: lookOf(picture),
    orientation: orientationOf(picture),
    window: partOf(picture) ?? null,
    drawings: drawingsToKeep(readings, aspect, (reading) => wordsOf(reading, notation, language))
  };
}

/** When it was taken; a remark; a grade that is not the best one, with why. */
function captionOf(
  { takenAt, layers: { about, grade } }: PictureView,
  { momentWords }: ReportFacts
): string[] {
  const graded = grade && grade.grade !== 'diagnostic' ? grade : null;
  return [
    momentWords(takenAt),
    about?.remark ?? '',
    graded ? `${graded.grade}${graded.reasons.length > 0 ? `: ${graded.reasons.join(', ')}` : ''}` : ''
  ];
}
