import type { Colleague, ColleagueSaid } from '../../core/letter/colleague';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { destinationOf } from '../dispatch/destinations';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { ColleagueRow } from './colleagueModel';

const viewOf = (row: ColleagueRow): Colleague => ({
  colleagueId: row.colleagueId,
  name: row.name,
  greeting: row.greeting,
  practice: row.practice,
  address: row.address,
  likes: row.likes,
  destinationId: row.destinationId
});

/** Those whom the clinic writes to, by name. */
export const colleagues = (caller: Caller): Promise<Colleague[]> =>
  inClinic(caller.clinicId, async (tx) =>
    (await ColleagueRow.findAll({ where: { retiredAt: null }, order: [['name', 'asc']], ...within(tx) })).map(
      viewOf
    )
  );

/** One of them, who may have been taken off the list since. @throws Problem where there never was such a one */
export async function colleagueOf(tx: Tx, colleagueId: string): Promise<Colleague> {
  const row = await ColleagueRow.findByPk(colleagueId, within(tx));
  if (!row) throw notFound('This colleague');
  return viewOf(row);
}

/** Keeps a new one, or what is said of one now. */
export async function keepColleague(
  caller: Caller,
  key: string,
  colleagueId: string | null,
  said: ColleagueSaid
): Promise<Colleague> {
  await demand(caller, 'write letters', 'colleagues');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      if (said.destinationId) await destinationOf(tx, said.destinationId);
      const known = colleagueId ? await ColleagueRow.findByPk(colleagueId, within(tx)) : null;
      if (colleagueId && !known) throw notFound('This colleague');
      const row = known
        ? await known.update({ ...said, retiredAt: null }, within(tx))
        : await ColleagueRow.create({ clinicId: tx.clinicId, colleagueId: newId(), ...said }, within(tx));
      await writeAudit(tx, caller, 'setting changed', row.colleagueId, { colleague: said.name });
      return viewOf(row);
    })
  );
}

/** Takes one off the list; letters to them stay. */
export async function retireColleague(caller: Caller, key: string, colleagueId: string): Promise<object> {
  await demand(caller, 'write letters', 'colleagues');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { name } = await colleagueOf(tx, colleagueId);
      await ColleagueRow.update({ retiredAt: new Date() }, { where: { colleagueId }, ...within(tx) });
      await writeAudit(tx, caller, 'setting changed', colleagueId, { colleague: `${name}, off the list` });
      return {};
    })
  );
}
