import type { PictureView } from '../../core/picture/pictureView';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { patientOf } from '../visits/patients';
import { type AwayRow, binRows } from './awayQueries';
import { viewsAsTheyLay } from './awayViews';

/** A picture that was deleted from its chart. */
export interface BinnedPicture {
  picture: PictureView;
  /** When, by whom, and why. */
  at: string;
  by: string;
  reason: string;
  /** From then on it is removed for good. */
  until: string;
}

const mostInBin = 500;

/** What lies in the bin of a patient's chart, what was deleted last first. */
export async function binOf(caller: Caller, asked: string): Promise<BinnedPicture[]> {
  await demand(caller, 'view charts', asked);
  return inClinic(caller.clinicId, async (tx) => {
    const { patientId } = await patientOf(tx, asked);
    const away = await binRows(tx, patientId, mostInBin);
    return (await viewsAsTheyLay(tx, away, caller.userId)).map(({ row, picture }) => ({
      picture,
      ...awayWords(row)
    }));
  });
}

const awayWords = ({ at, by, reason, until }: AwayRow) => ({
  at: at.toISOString(),
  by,
  reason,
  until: until.toISOString()
});

/** Removes for good what lay in the bins for their days; each is written down with what it was. */
export const emptyBins = (clinicId: string): Promise<void> =>
  inClinic(clinicId, async (tx) => {
    const gone = await tx.sql<{
      picture_id: string;
      patient_id: string;
      kind: string;
      source: string;
      taken_at: Date;
    }>('select * from empty_bins($1)', tx.clinicId);
    for (const each of gone)
      await writeAudit(tx, { system: 'upkeep' }, 'picture removed', each.picture_id, {
        patientId: each.patient_id,
        kind: each.kind,
        source: each.source,
        taken: each.taken_at.toISOString()
      });
  });
