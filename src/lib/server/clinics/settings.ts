import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { notations } from '../../core/anatomy/teeth';
import { type Caller, demand } from './caller';

export const settingsForm = z.object({ notation: z.enum(notations) });

export async function changeSettings(caller: Caller, wish: z.infer<typeof settingsForm>): Promise<void> {
  await demand(caller, 'change settings', 'settings');
  await inClinic(caller.clinicId, async (tx) => {
    await tx.sql('update clinic set notation = $1', wish.notation);
    await writeAudit(tx, caller.name, 'setting changed', 'notation', wish);
  });
}
