import { writeAudit } from '../audit/write';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, inClinic, within } from '../database/connection';

/** For how many days a clinic keeps what it put away on the sorting desk; then it is removed for good. */
export const putAwayDays = async (tx: Tx): Promise<number> =>
  (await Clinic.findByPk(tx.clinicId, within(tx)))!.putAwayDays;

/** Removes what was put away long enough ago, with its bytes where nothing else has the same; each is written down. */
export const forgetPutAway = (clinicId: string): Promise<void> =>
  inClinic(clinicId, async (tx) => {
    const gone = await tx.sql<{ arrival_id: string; from_name: string }>(
      'select * from forget_arrivals($1, $2)',
      tx.clinicId,
      await putAwayDays(tx)
    );
    for (const { arrival_id, from_name } of gone)
      await writeAudit(tx, { system: 'upkeep' }, 'arrival removed', arrival_id, { from: from_name });
  });
