import { z } from 'zod';
import { type FilmSize, type Medium, filmOf } from '../../core/print/film';
import { type FilmWish, filmKept, filmWish } from '../../core/print/filmWish';
import { packing, plainPacking } from '../../core/parcel/packing';
import type { Address } from '../../core/parcel/destination';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { letterheadOf } from '../clinics/letterhead';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { type FilmsLaidOut, filmPlaces, filmsLaidOut } from '../report/filmOut';
import type { PaperMade } from '../report/made';
import { namesIn } from '../report/namesIn';
import { unlettered } from '../takenOut/lettering';
import { bandOf, visitHead } from '../visits/visitHead';
import { filmShownOutside, printOutside } from '../work/processes';
import { Destination } from './destinationModel';
import { destinationOf, settingsOf } from './destinations';
import { announceParcel } from './parcelRow';
import { sendSoon } from './queueing';

export const filmSend = z.strictObject({
  film: filmWish,
  /** Whoever sends has read that a film tells of a person. */
  warned: z.literal(true, 'Say first that you know what goes along.')
});

/** A film printer as whoever prints chooses it. */
export interface FilmPrinterView {
  destinationId: string;
  name: string;
  sizes: readonly FilmSize[];
  medium: Medium;
  colour: boolean;
}
type FilmAddress = Extract<Address, { kind: 'film' }>;

export const filmPrinters = (caller: Caller): Promise<FilmPrinterView[]> =>
  inClinic(caller.clinicId, async (tx) => {
    const all = await Destination.findAll({
      where: { droppedAt: null, kind: 'film' },
      order: [['name', 'asc']],
      ...within(tx)
    });
    return all.flatMap((row) => {
      const { address } = settingsOf(row);
      if (address.kind !== 'film') return [];
      const { sizes, medium, colour } = address;
      return [{ destinationId: row.destinationId, name: row.name, sizes, medium, colour }];
    });
  });

/** @throws Problem where it is no film printer, or has no such film */
export async function filmPrinter(tx: Tx, { destinationId, size }: FilmWish): Promise<FilmAddress> {
  const row = await destinationOf(tx, destinationId);
  const { address } = settingsOf(row);
  if (address.kind !== 'film')
    throw new Problem('no-film', `${row.name} is no film printer.`, 'Choose another.', 422);
  if (!address.sizes.includes(size))
    throw new Problem(
      'no-such-film',
      `${row.name} has no film of this size.`,
      'Choose one of those that it has, or have this one added in Settings.',
      422
    );
  return address;
}

async function laidOut(caller: Caller, visitId: string, wish: FilmWish) {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const printer = await filmPrinter(tx, wish);
    const films = await filmsLaidOut(tx, visitId, wish, { colour: printer.colour, by: caller.userId });
    return { films, printer, patient: bandOf((await visitHead(tx, visitId)).patient) };
  });
}

/** Films as they will be, to be looked at before: the very dots that the printer is given, in the places it gives them. */
export async function filmsShown(caller: Caller, visitId: string, wish: FilmWish): Promise<PaperMade> {
  const { films, printer, patient } = await laidOut(caller, visitId, wish);
  const boxes = films.films.flat();
  const jpegs = await Promise.all(boxes.map((each) => filmShownOutside(each.wish)));
  const sheet = filmOf(wish.size, wish.lying);
  const made = await printOutside({
    sheet,
    correction: { width: 1, height: 1 },
    sheets: filmPlaces(films, sheet),
    pictures: Object.fromEntries(
      boxes.map(({ pictureId }, i) => [pictureId, { jpeg: jpegs[i], caption: [] }])
    ),
    head: { ...films.head, ...(await letterheadOf(caller)), clinic: films.clinic, when: films.when },
    foot: '',
    ruler: false,
    what: 'Films',
    bare: printer.medium === 'PAPER' ? 'light' : 'dark'
  });
  return {
    bytes: made.bytes,
    unwritable: unlettered(films.words.join(' ')),
    names: wish.names,
    named: wish.names === 'initials' ? namesIn(patient, captionsOf(films)) : []
  };
}

/** What is written under the pictures beside the head, which says as much as was asked for. */
const captionsOf = ({ films }: FilmsLaidOut) =>
  films.flatMap((boxes) => boxes.flatMap(({ wish }) => wish.lines.slice(2))).join('\n');

/** Puts films of a visit's pictures on their way to a printer, each film a delivery of its own. */
export async function sendFilms(
  caller: Caller,
  visitId: string,
  key: string,
  { film: wish }: Pick<z.infer<typeof filmSend>, 'film'>
): Promise<{ parcelId: string; films: number }> {
  const { films } = await laidOut(caller, visitId, wish);
  return inClinic(caller.clinicId, async (tx) => {
    const { patient } = await visitHead(tx, visitId);
    return once(tx, caller.userId, key, async () => {
      const parcelId = newId();
      const pictureIds = films.films.flat().map(({ pictureId }) => pictureId);
      await tx.sql(
        `insert into parcel (parcel_id, clinic_id, visit_id, destination_id, identity, made_by, key, rule_id, packing, film, state)
         values ($1, $2, $3, $4, 'identified', $5, $6, null, $7::jsonb, $8::jsonb, 'open')`,
        parcelId,
        tx.clinicId,
        visitId,
        wish.destinationId,
        caller.userId,
        key,
        JSON.stringify({ version: packing.version, body: plainPacking }),
        JSON.stringify({ version: filmKept.version, body: { ...wish, pictureIds } })
      );
      await tx.sql(
        `insert into parcel_item (clinic_id, parcel_id, picture_id, position)
         select $1, $2, id, at from unnest($3::uuid[]) with ordinality of (id, at)`,
        tx.clinicId,
        parcelId,
        pictureIds
      );
      const ids = films.films.map(() => newId());
      for (const [i, deliveryId] of ids.entries())
        await tx.sql(
          `insert into delivery (delivery_id, clinic_id, parcel_id, picture_id, film, state)
           values ($1, $2, $3, null, $4, 'waiting')`,
          deliveryId,
          tx.clinicId,
          parcelId,
          i + 1
        );
      await sendSoon(tx, ids);
      await announceParcel(tx, parcelId);
      await writeAudit(tx, caller, 'sending asked', visitId, {
        patientId: patient.patientId,
        pictures: pictureIds.length,
        identity: 'identified',
        films: films.films.length
      });
      return { parcelId, films: films.films.length };
    });
  });
}
