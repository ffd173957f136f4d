import { z } from 'zod';
import { mapsInUse, mapsOfTrade } from '../../core/anatomy/maps';
import type { BodyMap } from '../../core/anatomy/placeKind';
import {
  type PictureFacets,
  type PictureSearch,
  everyPicture,
  isLimited
} from '../../core/picture/pictureSearch';
import type { Chart, ListedVisit } from '../../core/visit/chartView';
import { writeAudit } from '../audit/write';
import { openRooms } from '../clinics/rooms';
import { type Tx, inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Recent } from '../people/recentModel';
import { binCount, sentToDesk } from '../pictures/awayQueries';
import { movesOf } from '../pictures/moving';
import { allCategories } from '../pictures/categoryQueries';
import { placesSeen } from '../pictures/queries';
import { type PicturePage, countFound, facetsOf, searchPictures } from '../pictures/search';
import { notFound } from '../problem';
import { papersOfPatient } from '../papers/papers';
import { joinsOf, standing } from './joining';
import { Patient } from './patientModel';
import { bandOf } from './visitHead';
import { visitsOf } from './visitList';

/** A chart opens with few; whoever goes on gets more at a time. */
const picturesAtFirst = 60;
const picturesLater = 240;

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
    const page = await searchPictures(tx, caller, patientId, search, null, picturesAtFirst);
    const facets = await facetsOf(tx, patientId);
    const seen = await placesSeen(tx, patientId);
    const counts = Object.fromEntries(Object.entries(seen).map(([key, { count }]) => [key, count]));
    const rooms = await openRooms(tx);
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
      bin: await binCount(tx, patientId),
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
    const page = await searchPictures(
      tx,
      caller,
      patientId,
      search,
      after,
      after === null ? picturesAtFirst : picturesLater
    );
    return { ...page, found: after === null ? await countFound(tx, patientId, search) : null };
  });
}
