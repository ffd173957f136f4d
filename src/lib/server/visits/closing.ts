import { z } from 'zod';
import { isArchive } from '../../core/parcel/destination';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { Destination } from '../dispatch/destinationModel';
import { settingsOf } from '../dispatch/destinations';
import { sendParcel } from '../dispatch/parcels';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { Visit } from './visitModel';
import { visitHead } from './visitHead';

export const closeWish = z.strictObject({
  visitIds: z.array(z.uuid()).min(1).max(200),
  /** close them; close them once what stands in them is on its way to the usual archives; or open them again. */
  how: z.enum(['close', 'send and close', 'open again'])
});

/** What became of one visit. */
export interface ClosedVisit {
  visitId: string;
  closed: boolean;
  sent: number;
  /** Why something of it was not sent, in words; empty where nothing was wanted or all went. */
  problem: string;
}

/**
 * Closes visits by one answer for all. What is sent goes first, so that a visit of which something can't go stays open and
 * says why; destinations that are told to by the clinic get theirs whenever a visit is closed.
 */
export async function closeVisits(
  caller: Caller,
  key: string,
  { visitIds, how }: z.infer<typeof closeWish>
): Promise<{ visits: ClosedVisit[] }> {
  await demand(caller, 'send', visitIds[0]);
  const visits: ClosedVisit[] = [];
  for (const visitId of [...new Set(visitIds)]) {
    const sent =
      how === 'open again'
        ? { sent: 0, problem: '' }
        : await sendAll(caller, visitId, `${key}-${visitId}`, how);
    const closed = how !== 'open again' && sent.problem === '';
    await inClinic(caller.clinicId, async (tx) => {
      await visitHead(tx, visitId);
      await once(tx, caller.userId, `${key}-${visitId}`, () => mark(tx, caller, visitId, how, closed));
    });
    visits.push({ visitId, closed, ...sent });
  }
  return { visits };
}

async function mark(
  tx: Tx,
  caller: Caller,
  visitId: string,
  how: z.infer<typeof closeWish>['how'],
  closed: boolean
): Promise<object> {
  if (closed || how === 'open again') {
    await Visit.update(
      { closedAt: closed ? new Date() : null, closedBy: closed ? caller.userId : null },
      { where: { visitId }, ...within(tx) }
    );
    await announce(tx, { topic: 'visit', visitId }, { topic: 'day' });
    const { patient } = await visitHead(tx, visitId);
    await writeAudit(tx, caller, closed ? 'visit closed' : 'visit opened again', visitId, {
      patientId: patient.patientId
    });
  }
  return {};
}

/** Everything that stands in a visit, to each destination that gets it when a visit is closed, or to the archives. */
async function sendAll(
  caller: Caller,
  visitId: string,
  key: string,
  how: 'close' | 'send and close'
): Promise<{ sent: number; problem: string }> {
  const { destinationIds, pictureIds } = await inClinic(caller.clinicId, async (tx) => {
    const all = await Destination.findAll({
      where: { droppedAt: null },
      order: [['name', 'asc']],
      ...within(tx)
    });
    const set = all.map((row) => ({ id: row.destinationId, settings: settingsOf(row) }));
    const byThemselves = set.filter(({ settings }) => settings.byItself);
    const usual = set.filter(({ settings }) => isArchive(settings.address)).slice(0, 1);
    const asked = how === 'send and close' ? usual : [];
    const wanted = [...byThemselves, ...asked.filter((each) => !byThemselves.includes(each))];
    return { destinationIds: wanted.map(({ id }) => id), pictureIds: await standingIn(tx, visitId) };
  });
  let count = 0;
  if (pictureIds.length === 0) return { sent: 0, problem: '' };
  for (const destinationId of destinationIds) {
    try {
      const { sent } = await sendParcel(caller, visitId, `${key}-${destinationId}`.slice(-100), {
        destinationId,
        pictureIds,
        // Whoever set it to go by itself has said so.
        warned: true
      });
      count += sent;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return { sent: count, problem: `${error.sentence} ${error.next}` };
    }
  }
  return { sent: count, problem: '' };
}

/** Keepers and what lies on the bench: what stands for a visit. Takes that were superseded stay here. */
async function standingIn(tx: Tx, visitId: string): Promise<string[]> {
  const rows = await tx.sql<{ picture_id: string }>(
    `select p.picture_id from picture p left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
     where p.visit_id = $1 and p.away is null and (s.slot_id is null or s.keeper) order by p.number`,
    visitId
  );
  return rows.map((row) => row.picture_id);
}
