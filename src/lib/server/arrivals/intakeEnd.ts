import { z } from 'zod';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { endIntake, intakeHead, noteLine, senderOfCaller } from './intakes';
import type { Sender } from './keeping';
import { gatherSeries } from './series';

export const endWish = z.strictObject({ kind: z.enum(['end', 'cancel']) });

/** All that an intake brings is here: numbered pictures become series, and it is over. */
export async function finishIntake(from: Sender, intakeId: string, cancelled: boolean): Promise<void> {
  await gatherSeries(from, intakeId);
  await inClinic(from.clinicId, async (tx) => {
    if (from.source === 'mail') await joinNameless(tx, intakeId);
    if (!cancelled) await noteMissing(tx, intakeId);
    await endIntake(tx, intakeId, cancelled);
    await writeAudit(tx, from.by, 'intake ended', intakeId, { cancelled });
  });
}

/** What a mail brings without a name (its letter, its photographs) belongs to the one person that it names, if it names one. */
const joinNameless = (tx: Tx, intakeId: string): Promise<unknown> =>
  tx.sql(
    `with of_mail as (select bundle_id, bundle_key from arrival where intake_id = $1 and part_of is null),
       named as (select distinct bundle_id from of_mail where bundle_key !~ '^[|]*$')
     update arrival set bundle_id = (select bundle_id from named)
     where intake_id = $1 and bundle_key ~ '^[|]*$' and (select count(*) from named) = 1`,
    intakeId
  );

/** What the disc's own index names and that did not come: each with its reason. */
async function noteMissing(tx: Tx, intakeId: string): Promise<void> {
  const row = await tx.one<{ named: { path: string; outside: boolean }[]; came: string[] }>(
    `select named, (select coalesce(array_agg(name), '{}') from intake_line l where l.intake_id = i.intake_id) as came
     from intake i where intake_id = $1 and ended_at is null`,
    intakeId
  );
  if (!row || row.named.length === 0) return;
  // Discs write their names in capitals, whatever system reads them.
  const came = new Set(row.came.map((name) => name.toUpperCase()));
  for (const { path, outside } of row.named) {
    if (outside)
      await noteLine(tx, intakeId, {
        name: path,
        outcome: 'refused',
        code: 'index-outside',
        words: 'The disc’s index names this place outside the disc. It was not read. Ask for a sound disc.'
      });
    else if (!came.has(path.toUpperCase()))
      await noteLine(tx, intakeId, {
        name: path,
        outcome: 'refused',
        code: 'index-missing',
        words: 'The disc’s index names this file, and it is not on the disc. Ask the sender for it.'
      });
  }
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
