import { z } from 'zod';
import { mapsInUse, mapsOfTrade } from '../../core/anatomy/maps';
import type { BodyMap } from '../../core/anatomy/placeKind';
import type { JoinedChart } from '../../core/people/joinedChart';
import {
  type ListedPicture,
  type PictureFacets,
  type PictureSearch,
  everyPicture,
  isLimited
} from '../../core/picture/pictureSearch';
import type { Trade } from '../../core/tray/pattern';
import type { PatientBand } from '../../core/visit/visitView';
import { writeAudit } from '../audit/write';
import { Room } from '../clinics/roomModel';
import { type Tx, inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Recent } from '../people/recentModel';
import { binCount, sentToDesk } from '../pictures/awayQueries';
import { type MovedPicture, movesOf } from '../pictures/moving';
import { type RuledCategory, allCategories } from '../pictures/categoryQueries';
import { placesSeen } from '../pictures/queries';
import { type PicturePage, countFound, facetsOf, searchPictures } from '../pictures/search';
import { notFound } from '../problem';
import type { PaperView } from '../../core/papers/paper';
import { papersOfPatient } from '../papers/papers';
import { joinsOf, standing } from './joining';
import { Patient } from './patientModel';
import { bandOf } from './visitHead';
import { type ListedVisit, visitsOf } from './visitList';

export interface Chart {
  patient: PatientBand;
  visits: ListedVisit[];
  pictures: ListedPicture[];
  /** How many pictures there are of what was asked for. */
  found: number;
  /** How many there are in all, and of what. */
  facets: PictureFacets;
  categories: RuledCategory[];
  /** How many pictures show each place, over all of them, by the place's key. */
  counts: Record<string, number>;
  /** When the newest picture of each place was taken. */
  newest: Record<string, string>;
  /** The drawings that say where pictures are, the one that says most first. */
  maps: BodyMap[];
  rooms: { roomId: string; name: string; trade: Trade }[];
  /** Pictures that were moved out of this chart, or into it. */
  moves: MovedPicture[];
  /** How many pictures lie in its bin. */
  inBin: number;
  /** Pictures that were taken out of it and wait on the sorting desk. */
  onDesk: { at: string; by: string; reason: string }[];
  /** Charts that were joined into this one, and parted from it. */
  joins: JoinedChart[];
  /** Of all visits, the newest first. */
  papers: PaperView[];
  /** Where the next page of pictures begins; null where there is none. */
  older: string | null;
}

const picturesOnPage = 60;

/** The drawings of those trades that the patient was in, or has pictures of. */
function mapsOf(patient: Patient, visits: readonly ListedVisit[], counts: Record<string, number>): BodyMap[] {
  return mapsInUse(counts, [
    ...new Set(visits.flatMap(({ trade }) => mapsOfTrade(trade, patient).slice(0, 1)))
  ]);
}

/** Who was joined into another chart is looked for there. */
export async function patientOf(tx: Tx, patientId: string): Promise<Patient> {
  const patient = z.uuid().safeParse(patientId).success
    ? await Patient.findByPk(patientId, within(tx))
    : null;
  if (!patient) throw notFound('This patient');
  return standing(tx, patient);
}

/** A patient's chart: visits, pictures newest first, and where on the body they are. Opening it is in the audit. */
export async function chart(
  caller: Caller,
  asked: string,
  search: PictureSearch = everyPicture
): Promise<Chart> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const patient = await patientOf(tx, asked);
    const { patientId } = patient;
    const visits = await visitsOf(tx, patientId);
    const page = await searchPictures(tx, caller, patientId, search, null, picturesOnPage);
    const facets = await facetsOf(tx, patientId);
    const seen = await placesSeen(tx, patientId);
    const counts = Object.fromEntries(Object.entries(seen).map(([key, { count }]) => [key, count]));
    const rooms = await Room.findAll({ order: [['place', 'asc']], ...within(tx) });
    await Recent.upsert(
      { userId: caller.userId, patientId, clinicId: tx.clinicId, openedAt: new Date() },
      within(tx)
    );
    await writeAudit(tx, caller, 'chart viewed', patientId, { patientId });
    return {
      patient: bandOf(patient),
      visits,
      ...page,
      found: isLimited(search) ? await countFound(tx, patientId, search) : totalOf(facets),
      facets,
      categories: await allCategories(tx),
      counts,
      newest: Object.fromEntries(Object.entries(seen).map(([key, { newest }]) => [key, newest])),
      moves: await movesOf(tx, patientId),
      inBin: await binCount(tx, patientId),
      onDesk: (await sentToDesk(tx, patientId, 20))
        .filter(({ back_at, removed_at }) => !back_at && !removed_at)
        .map(({ at, by, reason }) => ({ at: at.toISOString(), by, reason })),
      joins: await joinsOf(tx, patientId),
      papers: await papersOfPatient(tx, patientId),
      maps: mapsOf(patient, visits, counts),
      rooms: rooms.map(({ roomId, name, trade }) => ({ roomId, name, trade }))
    };
  });
}

const totalOf = ({ kinds }: PictureFacets): number =>
  Object.values(kinds).reduce((sum, count) => sum + count, 0);

/** A page of a chart's pictures as they are searched for; the first says how many there are. */
export async function chartPictures(
  caller: Caller,
  asked: string,
  search: PictureSearch,
  after: string | null
): Promise<PicturePage & { found: number | null }> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const { patientId } = await patientOf(tx, asked);
    const page = await searchPictures(tx, caller, patientId, search, after, picturesOnPage);
    return { ...page, found: after === null ? await countFound(tx, patientId, search) : null };
  });
}
