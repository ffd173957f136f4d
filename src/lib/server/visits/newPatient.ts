import { z } from 'zod';
import type { FoundPatient } from '../../core/people/foundPatient';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { type FreshPatient, doublesOf, freshPatient } from './finding';
import { Patient } from './patientModel';

/** Who the one that is being entered may be already. */
export async function likelyDoubles(caller: Caller, fresh: FreshPatient): Promise<FoundPatient[]> {
  await demand(caller, 'enter patients', 'new patient');
  return inClinic(caller.clinicId, (tx) => doublesOf(tx, fresh));
}

export const enterWish = z.strictObject({
  patient: freshPatient,
  /** The likely doubles were looked at: it is somebody else. */
  somebodyElse: z.boolean().default(false)
});

/** Enters a patient, unless the clinic seems to have that patient already and nobody has said that it is another. */
export async function enterPatient(
  caller: Caller,
  key: string,
  { patient, somebodyElse }: z.infer<typeof enterWish>
): Promise<{ patientId: string }> {
  await demand(caller, 'enter patients', 'new patient');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const doubles = await doublesOf(tx, patient);
      const [same] = doubles.filter(({ why }) => why.includes('the same number'));
      if (same) {
        throw new Problem(
          'number-taken',
          `${same.name} (${same.recordNumber}) has this number already.`,
          'Open that chart, or give another number.',
          409
        );
      }
      if (doubles.length > 0 && !somebodyElse) {
        throw new Problem(
          'likely-double',
          `${doubles.length === 1 ? 'Somebody' : `${doubles.length} patients`} here may be the same: ${doubles[0].name}.`,
          'Open that chart, or say that it is somebody else.',
          409
        );
      }
      const patientId = newId();
      await Patient.create({ patientId, clinicId: tx.clinicId, ...patient }, within(tx));
      await writeAudit(tx, caller, 'patient entered', patientId, {
        patientId,
        doubles: doubles.map((each) => each.patientId).join(' ')
      });
      return { patientId };
    })
  );
}
