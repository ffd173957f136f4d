import { z } from 'zod';
import { type Veils, veilsLayer } from '../../core/picture/layers/veils/veils';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { appendSteps, holdLog, picturesOfVisit } from '../pictures/queries';
import { pictureRow } from '../pictures/views';
import { writingOutside } from '../work/processes';
import type { FoundWriting } from './readWriting';

export const veilsWish = z.strictObject({
  veils: veilsLayer.schema as z.ZodType<Veils>,
  /** The same on pictures beside it that are as large and of the same kind: one set for a series. */
  also: z.array(z.uuid()).max(500).default([])
});

/**
 * Lays veils on a picture, and the same ones on others of its series. Who sends pictures may, though nothing else of them
 * is theirs to change: what is masked here is masked only in what leaves.
 * @returns how many have them now, and the picture's newest step
 */
export async function layVeils(
  caller: Caller,
  pictureId: string,
  key: string,
  { veils, also }: z.infer<typeof veilsWish>
): Promise<{ laid: number; seq: number }> {
  await demand(caller, 'send', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await pictureRow(tx, pictureId);
    return once(tx, caller.userId, key, async () => {
      const beside = (await picturesOfVisit(tx, row.visit_id)).filter(
        (each) =>
          also.includes(each.picture_id) &&
          each.kind === row.kind &&
          each.width === row.width &&
          each.height === row.height
      );
      const ids = [...new Set([pictureId, ...beside.map((each) => each.picture_id)])];
      let seq = 0;
      for (const id of ids) {
        await holdLog(tx, id);
        const last = await appendSteps(tx, id, [
          {
            kind: veilsLayer.kind,
            item: null,
            version: veilsLayer.version,
            // Others have to be looked at by themselves.
            body: id === pictureId ? veils : { ...veils, looked: false },
            act: key,
            by: caller.userId,
            undoes: null
          }
        ]);
        if (id === pictureId) seq = last;
        await announce(tx, { topic: 'picture', visitId: row.visit_id, pictureId: id, view: null });
        await writeAudit(tx, caller, 'veils laid', id, {
          patientId: row.patient_id,
          areas: veils.veils.length + (veils.only ? 1 : 0),
          looked: id === pictureId && veils.looked
        });
      }
      return { laid: ids.length, seq };
    });
  });
}

/** Where writing seems to stand in a picture, and what it says: for a person to lay veils over, or not. */
export async function writingIn(
  caller: Caller,
  pictureId: string,
  signal?: AbortSignal
): Promise<{ writing: FoundWriting[] }> {
  await demand(caller, 'send', pictureId);
  await inClinic(caller.clinicId, (tx) => pictureRow(tx, pictureId));
  return { writing: await writingOutside({ clinicId: caller.clinicId, pictureId }, signal) };
}
