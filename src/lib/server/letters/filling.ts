import { placeWords, placesInWords } from '../../core/anatomy/place';
import { placeKeyWords } from '../../core/anatomy/placeOfKey';
import { placesOfLetter } from '../../core/letter/letterBody';
import { type LetterFacts, fieldValues } from '../../core/letter/letterFields';
import { letterMissing } from '../../core/letter/letterMissing';
import type { PicturePlace, PlaceWant } from '../../core/letter/letterPlace';
import type { AboutOffered, Letter, LetterFilling, LetterSaid } from '../../core/letter/letterView';
import { keptOf } from '../../core/picture/keptViews';
import { findingsOf } from '../../core/picture/pictureLayers';
import { everyPicture } from '../../core/picture/pictureSearch';
import { type PictureView, orientationOf, pictureName, placesOf } from '../../core/picture/pictureView';
import { turnWords } from '../../core/raster/orientation';
import { type ResultsPaper, resultsPaper } from '../../core/report/resultsPaper';
import { type PictureOnPaper, shownNow } from '../../core/report/visitReport';
import { visitResults } from '../../core/report/visitResults';
import { dateInWords, dayOf } from '../../core/time/clinicTime';
import { standingPictures } from '../../core/visit/standing';
import type { VisitView } from '../../core/visit/visitView';
import { headSeen } from '../clinics/letterhead';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { allCategories } from '../pictures/categoryQueries';
import { earlierWithGuides } from '../pictures/earlierGuides';
import { picturesByIds } from '../pictures/queries';
import { searchPictures } from '../pictures/search';
import { viewsOf } from '../pictures/views';
import { paperClock } from '../report/visitPaper';
import { visitView } from '../visits/visits';
import { colleagueOf } from './colleagues';

/** A picture that a place takes: how it is seen on paper, and what it is called. */
export interface Taken {
  view: PictureView;
  shown: PictureOnPaper;
  name: string;
}

/** A letter with all that fills it. */
export interface Filled {
  visit: VisitView;
  filling: LetterFilling;
  /** What of the visit it can be about. */
  offered: AboutOffered;
  taken: Record<string, Taken | null>;
}

/** What of a visit a letter can be about. */
export async function aboutOffered(caller: Caller, visitId: string): Promise<AboutOffered> {
  await demand(caller, 'view charts', visitId);
  return offeredBy(await visitView(caller, visitId), caller.language);
}

function offeredBy(visit: VisitView, language: string): AboutOffered {
  const { texts } = visit.story;
  return {
    reasons: distinct([texts.reason?.body ?? '', visit.reason]),
    procedures: distinct([
      ...visit.trays.map(({ tray }) => tray.laid?.name ?? ''),
      ...visitResults(standingPictures(visit.trays, visit.pictures), [], language).guides.map(
        ({ name }) => name
      )
    ])
  };
}
const distinct = (words: readonly string[]): string[] => [
  ...new Set(words.map((each) => each.trim()).filter(Boolean))
];

/** What a letter is filled with, as it would be now. */
export async function filled(
  caller: Caller,
  visitId: string,
  letter: Pick<Letter, 'body'> & LetterSaid
): Promise<Filled> {
  await demand(caller, 'view charts', visitId);
  const [visit, earlier] = await Promise.all([
    visitView(caller, visitId),
    earlierWithGuides(caller, visitId)
  ]);
  const clock = paperClock(caller);
  const results = resultsPaper(
    visitResults(standingPictures(visit.trays, visit.pictures), earlier, caller.language),
    clock.day
  );
  return inClinic(caller.clinicId, async (tx) => {
    const facts = await factsOf(tx, caller, visit, letter);
    const fields = fieldValues(facts, letter.names);
    const taken: Record<string, Taken | null> = {};
    for (const place of placesOfLetter(letter.body))
      taken[place.id] = await takenBy(tx, caller, visit, place);
    const readings = readingLines(results);
    const places = Object.fromEntries(
      Object.entries(taken).map(([id, each]) => [id, each && seen(each, caller, clock.day)])
    );
    const missing = letterMissing(letter.body, {
      fields,
      places,
      readings: readings.length,
      names: letter.names,
      now: new Date(),
      placeWords: (key) => placeKeyWords(key, caller.notation)
    });
    return {
      visit,
      offered: offeredBy(visit, caller.language),
      taken,
      filling: { fields, places, readings, missing }
    };
  });
}

const readingLines = ({ readings, guides }: ResultsPaper): { name: string; value: string }[] => [
  ...guides.flatMap(({ name: guide, lines }) =>
    lines.map(({ name, value }) => ({ name: `${guide}: ${name}`, value }))
  ),
  ...readings.map(({ name, value }) => ({ name, value }))
];

const seen = ({ view, name }: Taken, { notation }: Caller, day: (at: string) => string) => ({
  pictureId: view.pictureId,
  takenAt: view.takenAt,
  name,
  caption: [name, placesInWords(placesOf(view), notation), day(view.takenAt)]
    .filter(
      (each, i, all) =>
        each && !all.slice(0, i).some((before) => before.toLowerCase().includes(each.toLowerCase()))
    )
    .join(', '),
  preview: `/api/pictures/${view.pictureId}/preview?seq=${view.seq}&turn=${turnWords(orientationOf(view))}`
});

async function factsOf(tx: Tx, caller: Caller, visit: VisitView, said: LetterSaid): Promise<LetterFacts> {
  const clock = paperClock(caller);
  const { texts, plannedOn } = visit.story;
  const textOf = (part: keyof typeof texts) => (texts[part]?.body ?? '').trim();
  const dateWords = (date: string) => dateInWords(date, caller.language);
  const planned = plannedOn?.body ? `for ${dateWords(plannedOn.body)}` : '';
  return {
    patient: visit.patient,
    to: said.colleagueId ? await colleagueOf(tx, said.colleagueId) : null,
    today: clock.today(),
    todayDate: dayOf(new Date(), caller.timeZone),
    visitDay: clock.day(visit.openedAt),
    room: visit.room,
    reasons: said.reasons,
    procedures: said.procedures,
    texts: {
      question: textOf('question'),
      history: textOf('history'),
      plan: [textOf('plan'), planned].filter(Boolean).join(', '),
      colleague: textOf('colleague')
    },
    findings: visit.pictures.flatMap((picture) =>
      findingsOf(picture.layers).map(
        ({ finding }) =>
          `${finding.place ? placeWords(finding.place, caller.notation) : pictureName(picture)}: ${finding.words}`
      )
    ),
    clinic: caller.clinicName,
    clinicAddress: (await headSeen(tx)).address,
    author: caller.name,
    dateWords
  };
}

/** The picture that a place takes, of the whole chart; null where nothing fits. */
async function takenBy(
  tx: Tx,
  caller: Caller,
  visit: VisitView,
  { want, drawn }: PicturePlace
): Promise<Taken | null> {
  const { patientId } = visit.patient;
  if (want.kind === 'kept view') {
    const kept = keptOf(visit.pictures)
      .filter(({ kept: each }) => !want.name || each.name.toLowerCase() === want.name.toLowerCase())
      .at(-1);
    if (!kept) return null;
    const { frame, look, orientation, window, drawings } = kept.kept;
    return {
      view: kept.picture,
      name: kept.kept.name || pictureName(kept.picture),
      shown: {
        pictureId: kept.picture.pictureId,
        frame,
        look,
        orientation,
        window,
        drawings: drawn && kept.kept.drawn ? drawings : []
      }
    };
  }
  const view =
    want.kind === 'picked'
      ? await picked(tx, caller, patientId, want.pictureId)
      : await newest(tx, caller, patientId, want);
  return view && { view, name: pictureName(view), shown: shownNow(view, caller, drawn) };
}

async function picked(
  tx: Tx,
  caller: Caller,
  patientId: string,
  pictureId: string | null
): Promise<PictureView | null> {
  if (!pictureId) return null;
  const [view] = await viewsOf(tx, await picturesByIds(tx, [pictureId]), caller.userId);
  // A letter about somebody shows nobody else's pictures.
  return view?.patientId === patientId ? view : null;
}

async function newest(
  tx: Tx,
  caller: Caller,
  patientId: string,
  { category, place, pictureKind }: Extract<PlaceWant, { kind: 'newest' }>
): Promise<PictureView | null> {
  const filedUnder = category
    ? (await allCategories(tx)).find(({ name }) => name.toLowerCase() === category.toLowerCase())
    : null;
  if (category && !filedUnder) return null;
  const search = {
    ...everyPicture,
    kinds: pictureKind ? [pictureKind] : [],
    places: place ? [place] : [],
    categoryId: filedUnder?.categoryId ?? null
  };
  const { pictures } = await searchPictures(tx, caller, patientId, search, null, 1);
  return pictures[0] ?? null;
}
