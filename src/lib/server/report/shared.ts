import { z } from 'zod';
import { paperNames } from '../../core/report/paperHead';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { visitHead } from '../visits/visitHead';

export const sharedWish = z.strictObject({
  what: z.enum(['report', 'print', 'letter']),
  way: z.enum(['downloaded', 'printed']),
  names: z.enum(paperNames),
  /** Whoever shares it has read that it tells of a person. */
  warned: z.literal(true, 'Say first that you know what goes along.')
});

/** A paper of a visit leaves the house: that is in the record before it does. */
export async function paperShared(
  caller: Caller,
  visitId: string,
  { what, way, names }: z.infer<typeof sharedWish>
): Promise<object> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const { visit } = await visitHead(tx, visitId);
    await writeAudit(tx, caller, 'taken out', visitId, { patientId: visit.patientId, as: what, names, way });
    return {};
  });
}
