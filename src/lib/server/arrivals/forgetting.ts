import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';

/** What was put away on the sorting desk is kept so long, then removed for good. */
export const putAwayDays = 30;

/** Removes what was put away long enough ago, with its bytes where nothing else has the same; each is written down. */
export const forgetPutAway = (clinicId: string): Promise<void> =>
  inClinic(clinicId, async (tx) => {
    const gone = await tx.sql<{ arrival_id: string; from_name: string }>(
      'select * from forget_arrivals($1, $2)',
      tx.clinicId,
      putAwayDays
    );
    for (const { arrival_id, from_name } of gone)
      await writeAudit(tx, { system: 'upkeep' }, 'arrival removed', arrival_id, { from: from_name });
  });
