import { z } from 'zod';
import { mapsInUse, mapsOfTrade } from '../../core/anatomy/maps';
import type { BodyMap } from '../../core/anatomy/placeKind';
import type { JoinedChart } from '../../core/people/joinedChart';
import type { PictureView } from '../../core/picture/pictureView';
import type { Trade } from '../../core/tray/pattern';
import type { PatientBand } from '../../core/visit/visitView';
import { writeAudit } from '../audit/write';
import { Room } from '../clinics/roomModel';
import { type Tx, inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Recent } from '../people/recentModel';
import { type MovedPicture, movesOf } from '../pictures/moving';
import { picturesOfPatient, placeCounts } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { Problem, notFound } from '../problem';
import type { PaperView } from '../../core/papers/paper';
import { papersOfPatient } from '../papers/papers';
import { joinsOf, standing } from './joining';
import { Patient } from './patientModel';
import { bandOf } from './visitHead';
import { type ListedVisit, visitsOf } from './visitList';

export interface Chart {
  patient: PatientBand;
  visits: ListedVisit[];
  pictures: PictureView[];
  /** How many pictures show each place, over all of them, by the place's key. */
  counts: Record<string, number>;
  /** The drawings that say where pictures are, the one that says most first. */
  maps: BodyMap[];
  rooms: { roomId: string; name: string; trade: Trade }[];
  /** Pictures that were moved out of this chart, or into it. */
  moves: MovedPicture[];
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

const cursorSchema = z.tuple([z.iso.datetime(), z.uuid()]);

function cursorOf(text: string | null): { takenAt: Date; pictureId: string } | null {
  if (text === null) return null;
  const read = cursorSchema.safeParse(text.split('_'));
  if (!read.success)
    throw new Problem('not-understood', 'There is no such page of pictures.', 'Open the chart again.', 400);
  return { takenAt: new Date(read.data[0]), pictureId: read.data[1] };
}

/** One page of a patient's pictures, newest first. */
async function picturePage(
  tx: Tx,
  caller: Caller,
  patientId: string,
  after: string | null
): Promise<{ pictures: PictureView[]; older: string | null }> {
  const rows = await picturesOfPatient(tx, patientId, picturesOnPage + 1, cursorOf(after));
  const page = rows.slice(0, picturesOnPage);
  const last = page.at(-1);
  const more = rows.length > picturesOnPage && last;
  return {
    pictures: await viewsOf(tx, page, caller.userId),
    older: more ? `${last.taken_at.toISOString()}_${last.picture_id}` : null
  };
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
export async function chart(caller: Caller, asked: string): Promise<Chart> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const patient = await patientOf(tx, asked);
    const { patientId } = patient;
    const visits = await visitsOf(tx, patientId);
    const page = await picturePage(tx, caller, patientId, null);
    const counts = await placeCounts(tx, patientId);
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
      counts,
      moves: await movesOf(tx, patientId),
      joins: await joinsOf(tx, patientId),
      papers: await papersOfPatient(tx, patientId),
      maps: mapsOf(patient, visits, counts),
      rooms: rooms.map(({ roomId, name, trade }) => ({ roomId, name, trade }))
    };
  });
}

/** The next page of a chart's pictures. */
export async function olderPictures(
  caller: Caller,
  asked: string,
  after: string
): Promise<{ pictures: PictureView[]; older: string | null }> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const { patientId } = await patientOf(tx, asked);
    return picturePage(tx, caller, patientId, after);
  });
}
