import { z } from 'zod';
import type { ArrivalView } from '../../core/arrivals/arrivalView';
import { aboutLayer } from '../../core/picture/layers/about/about';
import { shortened } from '../../core/text';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { knownAlready, nameRemark } from '../pictures/bringIn';
import { readOrigin, samplesMediaType } from '../pictures/origin';
import { appendSteps } from '../pictures/queries';
import { insertPicture, numberPicture } from '../pictures/store';
import { Problem, notFound } from '../problem';
import { slotId } from '../../core/tray/slot';
import { addToTray, heldFirstTray, heldTray } from '../trays/trays';
import { visitHead } from '../visits/visitHead';
import { type NearVisit, visitsAround } from '../visits/visitList';
import { readAbout } from './about';
import { type ArrivalRow, arrivalRow, markGiven, markPutAway, waitingRows } from './queries';

const mostListed = 500;
/** What the view is called, in a picture's own layer. */
const longestName = 80;

function viewOf(row: ArrivalRow): ArrivalView {
  const about = readAbout(row.about);
  return {
    arrivalId: row.arrival_id,
    source: row.source,
    from: row.from_name,
    room: row.room,
    roomId: row.room_id,
    fileName: row.file_name,
    title: row.title,
    remark: row.remark,
    reason: row.reason,
    kind: about.kind,
    takenAt: row.taken_at.toISOString(),
    arrivedAt: row.arrived_at.toISOString(),
    remarks: readOrigin(about.origin).remarks,
    inFile: about.inFile,
    putAway: row.put_away_at !== null
  };
}

/** What came in and belongs to nobody yet: what waits first, the newest first. */
export async function arrivals(caller: Caller): Promise<ArrivalView[]> {
  await demand(caller, 'view charts', 'arrivals');
  return inClinic(caller.clinicId, async (tx) => (await waitingRows(tx, mostListed)).map(viewOf));
}

async function found(tx: Tx, arrivalId: string, hold = false): Promise<ArrivalRow> {
  const row = z.uuid().safeParse(arrivalId).success ? await arrivalRow(tx, arrivalId, hold) : undefined;
  if (!row) throw notFound('This arrival');
  return row;
}

/** Whose it may be, by where its device stands and what went on there: never more than a proposal. */
export async function visitsNear(caller: Caller, arrivalId: string): Promise<NearVisit[]> {
  await demand(caller, 'view charts', arrivalId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await found(tx, arrivalId);
    return row.room_id ? visitsAround(tx, row.room_id, row.taken_at, caller.timeZone) : [];
  });
}

export const arrivalWish = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('give'),
    visitId: z.uuid(),
    /** The tray and the slot that it is for; the bench of the visit's first tray where none is said. */
    trayId: z.uuid().nullable(),
    slotId: slotId.nullable()
  }),
  z.strictObject({ kind: z.literal('put-away') }),
  z.strictObject({ kind: z.literal('bring-back') })
]);
export type ArrivalWish = z.infer<typeof arrivalWish>;
type Giving = Extract<ArrivalWish, { kind: 'give' }>;

/** Does what a page asks of an arrival, once for its key. */
export async function wishOfArrival(
  caller: Caller,
  arrivalId: string,
  key: string,
  wish: ArrivalWish
): Promise<{ pictureId: string | null }> {
  await demand(caller, 'bring in files', arrivalId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const row = await found(tx, arrivalId, true);
      if (row.given_to) throw givenAlready();
      if (wish.kind === 'give') {
        await give(tx, caller, row, wish);
        return { pictureId: arrivalId };
      }
      const away = wish.kind === 'put-away';
      await markPutAway(tx, arrivalId, away);
      await announce(tx, { topic: 'arrivals' });
      if (away) await writeAudit(tx, caller, 'arrival put away', arrivalId, { from: row.from_name });
      return { pictureId: null };
    })
  );
}

const givenAlready = () =>
  new Problem(
    'given-already',
    'Somebody has given this to a visit in the meantime.',
    'Look for it in that patient’s chart.',
    409
  );

/** Makes a picture of an arrival, under its number: in a slot of the visit, or on its bench. */
async function give(tx: Tx, caller: Caller, row: ArrivalRow, wish: Giving): Promise<void> {
  const visit = await visitHead(tx, wish.visitId);
  const { patientId } = visit.patient;
  const { version: _, inFile, origin, ...shape } = readAbout(row.about);
  const read = readOrigin(origin);
  const plain = shape.mediaType === samplesMediaType;
  const told = [
    ...(await knownAlready(tx, caller.timeZone, patientId, row.original_sha256, read.instanceUid ?? null)),
    ...nameRemark(inFile?.name ?? '', visit)
  ];
  await insertPicture(tx, row.arrival_id, {
    ...shape,
    patientId,
    visitId: wish.visitId,
    digest: row.original_sha256,
    fileName: row.file_name || row.title,
    source: plain ? 'device' : 'file',
    origin: { ...read, remarks: [...told, ...read.remarks] },
    takenAt: row.taken_at
  });
  if (row.title || row.remark)
    await appendSteps(tx, row.arrival_id, [
      {
        kind: 'about',
        version: aboutLayer.version,
        item: null,
        body: { name: shortened(row.title, longestName), remark: row.remark },
        act: `told ${row.arrival_id}`,
        by: caller.userId,
        undoes: null
      }
    ]);
  await enqueue(tx, queues.advise, { clinicId: tx.clinicId, pictureId: row.arrival_id });
  const tray = wish.trayId ? await heldTray(tx, wish.trayId) : await heldFirstTray(tx, wish.visitId);
  if (tray.visitId !== wish.visitId) throw notFound('This tray');
  await numberPicture(tx, row.arrival_id, wish.visitId);
  await announce(
    tx,
    { topic: 'picture', visitId: wish.visitId, pictureId: row.arrival_id, view: null },
    { topic: 'arrivals' }
  );
  // What a device exposed, itself or into its folder, is never dropped; a phone's picture may be.
  const event = { takeId: row.arrival_id, slotId: wish.slotId, exposed: row.source !== 'phone' };
  await addToTray(tx, tray, [{ kind: 'take-added', ...event }], caller);
  await markGiven(tx, row.arrival_id, wish.visitId);
  await writeAudit(tx, caller, 'arrival given', row.arrival_id, {
    patientId,
    visit: wish.visitId,
    from: row.from_name
  });
}
