import { z } from 'zod';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { endIntake, intakeHead, senderOfCaller } from './intakes';
import type { Sender } from './keeping';
import { gatherSeries } from './series';

export const endWish = z.strictObject({ kind: z.enum(['end', 'cancel']) });

/** All that an intake brings is here: numbered pictures become series, and it is over. */
export async function finishIntake(from: Sender, intakeId: string, cancelled: boolean): Promise<void> {
  await gatherSeries(from, intakeId);
  await inClinic(from.clinicId, async (tx) => {
    await endIntake(tx, intakeId, cancelled);
    await writeAudit(tx, from.by, 'intake ended', intakeId, { cancelled });
  });
}

/** A page says that it has brought everything, or that no more shall come. What came in stays. */
export async function endAsked(
  caller: Caller,
  intakeId: string,
  key: string,
  { kind }: z.infer<typeof endWish>
): Promise<object> {
  await demand(caller, 'bring in files', intakeId);
  const open = await inClinic(caller.clinicId, async (tx) => {
    const head = await intakeHead(tx, intakeId);
    if (kind === 'cancel') await endIntake(tx, intakeId, true);
    return !head.ended;
  });
  if (open) await finishIntake(senderOfCaller(caller, 'drop'), intakeId, kind === 'cancel');
  return inClinic(caller.clinicId, (tx) => once(tx, caller.userId, key, async () => ({})));
}
