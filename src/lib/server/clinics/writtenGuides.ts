import { z } from 'zod';
import type { GuideWritten } from '../../core/measurement/guides/written';
import { writtenGuideSchema } from '../../core/measurement/guides/writtenSchema';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { WrittenGuideRow } from './writtenGuideModel';

const mostGuides = 100;

/** The clinic's own guides by name, each in its newest version. One that this program can't read is left out and kept. */
export const writtenGuides = (caller: Caller): Promise<GuideWritten[]> =>
  inClinic(caller.clinicId, async (tx) => {
    const rows = await WrittenGuideRow.findAll({ order: [['name', 'asc']], ...within(tx) });
    return rows.flatMap(({ guideId, version, body }) => {
      const read = writtenGuideSchema.safeParse(body);
      return read.success ? [{ key: guideId, version, written: read.data }] : [];
    });
  });

/** @throws Problem where the clinic has no such guide */
export async function writtenGuide(caller: Caller, guideId: string): Promise<GuideWritten> {
  const found = (await writtenGuides(caller)).find(({ key }) => key === guideId);
  if (!found) throw notFound('This guide');
  return found;
}

export const guideWish = z.strictObject({
  /** Which guide this is the next version of, and of which one it was made; a new one where it is null. */
  of: z.strictObject({ key: z.uuid(), version: z.number().int().positive() }).nullable(),
  guide: writtenGuideSchema
});

/** Keeps a guide: a new one, or the next version of one. What was done by an earlier version stays as it was done. */
export async function keepGuide(
  caller: Caller,
  key: string,
  { of, guide }: z.infer<typeof guideWish>
): Promise<{ key: string; version: number }> {
  await demand(caller, 'write guides', 'guides');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const former = of
        ? await WrittenGuideRow.findOne({ where: { guideId: of.key }, lock: true, ...within(tx) })
        : null;
      if (of && !former) throw notFound('This guide');
      if (former && former.version !== of!.version) throw changedMeanwhile(former.name);
      const namesake = await WrittenGuideRow.findOne({ where: { name: guide.name }, ...within(tx) });
      if (namesake && namesake.guideId !== former?.guideId) throw nameTaken(guide.name);
      const kept = { guideId: former?.guideId ?? newId(), version: (former?.version ?? 0) + 1 };
      const row = { ...kept, name: guide.name, body: guide, madeBy: caller.userId };
      if (former) await former.update(row, within(tx));
      else {
        if ((await WrittenGuideRow.count(within(tx))) >= mostGuides) throw tooMany();
        await WrittenGuideRow.create({ clinicId: tx.clinicId, ...row }, within(tx));
      }
      await writeAudit(tx, caller, 'setting changed', kept.guideId, {
        guide: guide.name,
        version: kept.version
      });
      return { key: kept.guideId, version: kept.version };
    })
  );
}

export async function dropGuide(caller: Caller, key: string, guideId: string): Promise<object> {
  await demand(caller, 'write guides', 'guides');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const dropped = await WrittenGuideRow.destroy({ where: { guideId }, ...within(tx) });
      if (dropped === 0) throw notFound('This guide');
      await writeAudit(tx, caller, 'setting changed', guideId, { guide: 'dropped' });
      return {};
    })
  );
}

const changedMeanwhile = (name: string): Problem =>
  new Problem(
    'guide-changed',
    `Somebody else has changed “${name}” meanwhile.`,
    'Keep yours under another name, or load the page again and change theirs.',
    409
  );
const nameTaken = (name: string): Problem =>
  new Problem('name-taken', `Another guide is called “${name}”.`, 'Give this one another name.', 409);
const tooMany = (): Problem =>
  new Problem(
    'too-many-guides',
    `The clinic has ${mostGuides} guides of its own already.`,
    'Drop one that nobody uses.',
    409
  );
