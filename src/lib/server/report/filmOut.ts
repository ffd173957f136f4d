import {
  type FilmBox,
  filmCell,
  filmOf,
  filmSizes,
  fittedBox,
  perFilm,
  trueBox
} from '../../core/print/film';
import { type FilmWish, filmParted } from '../../core/print/filmWish';
import type { SizeMm } from '../../core/print/paper';
import type { PrintSheet } from '../../core/print/printSheets';
import { trueSize } from '../../core/print/trueSize';
import { pictureName, type PictureView } from '../../core/picture/pictureView';
import { seenSize } from '../../core/picture/seenSize';
import { paperHead } from '../../core/report/paperHead';
import { shownNow } from '../../core/report/visitReport';
import { dayInWords, dayOf } from '../../core/time/clinicTime';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, within } from '../database/connection';
import { picturesByIds } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { Problem } from '../problem';
import { noneLeft, unscaled } from './printProblems';
import { bandOf, visitHead } from '../visits/visitHead';
import { type FilmBoxWish, filmFineness } from './filmBox';
import { truthWords } from './truthWords';
import { momentOf } from './visitPaper';

/** Films of pictures as they are now. */
export interface FilmsLaidOut {
  /** By film, in the order of their places. */
  films: { pictureId: string; wish: FilmBoxWish }[][];
  /** How each film is parted. */
  across: number;
  down: number;
  head: { title: string; about: string };
  clinic: string;
  when: string;
  /** What is written under the pictures. */
  words: string[];
}

/**
 * Pictures of a visit laid out on films: whose each is stands under it, for a film has no head.
 * @param by whose account asks: the looks of pictures that one sets for oneself are theirs
 * @throws Problem where one has no scale and is wanted true to it, or does not fit on the film
 */
export async function filmsLaidOut(
  tx: Tx,
  visitId: string,
  wish: FilmWish,
  { colour, by }: { colour: boolean; by: string }
): Promise<FilmsLaidOut> {
  const { visit, patient, room } = await visitHead(tx, visitId);
  const clinic = (await Clinic.findByPk(tx.clinicId, within(tx)))!;
  const rows = (await picturesByIds(tx, wish.pictureIds)).filter((row) => row.visit_id === visitId);
  const byId = new Map((await viewsOf(tx, rows, by)).map((view) => [view.pictureId, view]));
  const chosen = wish.pictureIds.flatMap((id) => byId.get(id) ?? []);
  if (chosen.length === 0) throw noneLeft();
  const head = paperHead(bandOf(patient), wish.names, dayOf(new Date(), clinic.timeZone), clinic.language);
  const when = `${room.name} room, ${dayInWords(visit.openedAt, clinic)}`;
  const isTrue = wish.way === 'true';
  const without = isTrue ? chosen.filter((view) => !trueSize(view)) : [];
  if (without.length > 0) throw unscaled(without);
  const parted = filmParted(wish);
  const cell = filmCell(filmOf(wish.size, wish.lying), parted);
  const boxes = chosen.map((view) => {
    const lines = [
      [head.title, head.about].filter(Boolean).join(' · '),
      `${clinic.name}, ${when}`,
      ...(wish.captions ? [`${pictureName(view)}, ${momentOf(view.takenAt, clinic)}`] : []),
      ...(isTrue ? [truthWords(view, clinic.language)] : [])
    ];
    const at = isTrue
      ? fits(view, cell, lines.length + 1, wish)
      : fittedBox(seenSize(view), cell, lines.length);
    return {
      pictureId: view.pictureId,
      wish: {
        shown: {
          clinicId: tx.clinicId,
          ...shownNow(view, clinic, wish.drawn),
          bar: null,
          as: 'png' as const,
          ...filmFineness(at)
        },
        at,
        lines,
        ruler: isTrue,
        colour
      }
    };
  });
  return {
    films: perFilm(boxes, parted.across * parted.down),
    ...parted,
    head,
    clinic: clinic.name,
    when,
    words: boxes.flatMap(({ wish: { lines } }) => lines)
  };
}

function fits(view: PictureView, cell: SizeMm, lines: number, wish: FilmWish): FilmBox {
  try {
    return trueBox(trueSize(view)!, cell, lines);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Problem(
      'film-too-small',
      `At its true size “${pictureName(view)}” wants a film of ${error.message}, and ${filmSizes[wish.size].words} is smaller.`,
      'Choose a larger film or lay it the other way, crop the picture, or print it on paper, over several sheets.',
      409
    );
  }
}

/** Where pictures stand on films, for a sheet that shows them before. */
export const filmPlaces = ({ films, across, down }: FilmsLaidOut, film: SizeMm): PrintSheet[] =>
  films.map((boxes) => {
    const cell = { width: film.width / across, height: film.height / down };
    return {
      tile: '',
      marks: [],
      placed: boxes.map(({ pictureId, wish: { at } }, i) => ({
        key: pictureId,
        at: {
          left: (i % across) * cell.width + (cell.width - at.box.width) / 2,
          top: Math.floor(i / across) * cell.height + (cell.height - at.box.height) / 2,
          ...at.box
        },
        part: { left: 0, top: 0, width: 1, height: 1 },
        caption: null
      }))
    };
  });
