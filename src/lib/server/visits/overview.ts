import { z } from 'zod';
import { mapsOfTrade } from '../../core/anatomy/maps';
import type { BodyMap } from '../../core/anatomy/placeKind';
import type { PaperView } from '../../core/papers/paper';
import type { PictureView } from '../../core/picture/pictureView';
import type { PatientBand } from '../../core/visit/visitView';
import { noteLook } from '../audit/looks';
import { type Tx, inClinic } from '../database/connection';
import { papersOfPatient } from '../papers/papers';
import { type Caller, demand } from '../people/caller';
import {
  type PictureRow,
  countBeside,
  picturesAtPlaces,
  picturesBeside,
  placeCounts
} from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { patientOf } from './patients';
import { bandOf } from './visitHead';

/** What there is of a patient, and what there is not. */
export interface Overview {
  patient: PatientBand;
  /** All drawings that belong to such a patient, whether or not there is a picture. */
  maps: BodyMap[];
  /** How many pictures show each place, by its key. */
  counts: Record<string, number>;
  loops: number;
  noPlace: number;
  papers: PaperView[];
}

export async function overview(caller: Caller, asked: string): Promise<Overview> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const patient = await patientOf(tx, asked);
    const { patientId } = patient;
    noteLook(caller, 'chart viewed', patientId, { patientId });
    const maps = (['teeth', 'bones', 'eyes'] as const).flatMap((trade) => mapsOfTrade(trade, patient));
    return {
      patient: bandOf(patient),
      maps: [...new Set(maps)],
      counts: await placeCounts(tx, patientId),
      ...(await countBeside(tx, patientId)),
      papers: await papersOfPatient(tx, patientId)
    };
  });
}

const mostPicked = 60;
export const showingWish = z.array(z.string().min(1).max(80)).min(1).max(200);

/** Pictures that show one of some places, given by their keys, or that are `loops`, or show `no place`; newest first. */
export async function picturesShowing(
  caller: Caller,
  asked: string,
  showing: z.infer<typeof showingWish>
): Promise<PictureView[]> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const { patientId } = await patientOf(tx, asked);
    const rows = new Map<string, PictureRow>();
    for (const row of await found(tx, patientId, showing)) rows.set(row.picture_id, row);
    const newest = [...rows.values()].sort((a, b) => b.taken_at.getTime() - a.taken_at.getTime());
    return viewsOf(tx, newest.slice(0, mostPicked), caller.userId);
  });
}

async function found(tx: Tx, patientId: string, showing: readonly string[]): Promise<PictureRow[]> {
  const beside = (['loops', 'no place'] as const).filter((which) => showing.includes(which));
  const rows = await picturesAtPlaces(tx, patientId, showing, mostPicked);
  for (const which of beside) rows.push(...(await picturesBeside(tx, patientId, which, mostPicked)));
  return rows;
}
