import { z } from 'zod';
import { type NamedLook, ownLookSchema } from '../../core/raster/look/ownLook';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { OwnLookRow } from './ownLookModel';

const stored = z.object({ version: z.literal(1), look: ownLookSchema });
const mostLooks = 60;

/** The clinic's own looks by name. One that this program can't read is left out; it is kept as it is. */
export const ownLooks = (caller: Caller): Promise<NamedLook[]> =>
  inClinic(caller.clinicId, async (tx) => {
    const rows = await OwnLookRow.findAll({ order: [['name', 'asc']], ...within(tx) });
    return rows.flatMap(({ lookId, name, body }) => {
      const read = stored.safeParse(body);
      return read.success ? [{ lookId, name, look: read.data.look }] : [];
    });
  });

export const ownLookWish = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name.').max(40),
  look: ownLookSchema
});

/** Keeps a look under a name; one of the same name is it from now on. Pictures that were given it before stay as they are. */
export async function keepOwnLook(
  caller: Caller,
  key: string,
  { name, look }: z.infer<typeof ownLookWish>
): Promise<{ lookId: string }> {
  await demand(caller, 'change pictures', 'looks');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const known = await OwnLookRow.findOne({ where: { name }, ...within(tx) });
      const body = { version: 1, look };
      const lookId = known?.lookId ?? newId();
      if (known) await known.update({ body, madeBy: caller.userId }, within(tx));
      else if ((await OwnLookRow.count(within(tx))) >= mostLooks)
        throw new Problem(
          'too-many-looks',
          `The clinic has ${mostLooks} looks of its own already.`,
          'Drop one that nobody uses, or keep this one under the name of another.',
          409
        );
      else
        await OwnLookRow.create(
          { clinicId: tx.clinicId, lookId, name, body, madeBy: caller.userId },
          within(tx)
        );
      await writeAudit(tx, caller, 'setting changed', lookId, { look: name });
      return { lookId };
    })
  );
}

export const lookNameWish = ownLookWish.pick({ name: true });

/** Calls a look otherwise. @throws Problem where another one is called so */
export async function renameOwnLook(
  caller: Caller,
  key: string,
  lookId: string,
  { name }: z.infer<typeof lookNameWish>
): Promise<object> {
  await demand(caller, 'change pictures', 'looks');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const look = await OwnLookRow.findByPk(lookId, within(tx));
      if (!look) throw notFound('This look');
      const other = await OwnLookRow.findOne({ where: { name }, ...within(tx) });
      if (other && other.lookId !== lookId)
        throw new Problem(
          'look-named-so',
          `Another look is called ${name}.`,
          'Give this one another name, or drop the other first.',
          409
        );
      await look.update({ name }, within(tx));
      await writeAudit(tx, caller, 'setting changed', lookId, { look: name });
      return {};
    })
  );
}

export async function dropOwnLook(caller: Caller, key: string, lookId: string): Promise<object> {
  await demand(caller, 'change pictures', 'looks');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const dropped = await OwnLookRow.destroy({ where: { lookId }, ...within(tx) });
      if (dropped === 0) throw notFound('This look');
      await writeAudit(tx, caller, 'setting changed', lookId, { look: 'dropped' });
      return {};
    })
  );
}
