import { z } from 'zod';
import { cameWhenTaken, isExposure } from '../../core/arrivals/arrivalView';
import { type Place, placeKey, placeSchema } from '../../core/anatomy/place';
import { titleOfFile } from '../../core/papers/paper';
import { aboutLayer } from '../../core/picture/layers/about/about';
import { takenLayer } from '../../core/picture/layers/taken/taken';
import { shortened } from '../../core/text';
import { dayInWords } from '../../core/time/clinicTime';
import type { TrayEvent } from '../../core/tray/events/all';
import { slotId } from '../../core/tray/slot';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { fileNameOf, knownAlready, nameRemark } from '../pictures/bringIn';
import { PictureLink } from '../pictures/linkModel';
import { readOrigin, samplesMediaType } from '../pictures/origin';
import { awayOf, markBack } from '../pictures/awayQueries';
import { noteMove, unlink } from '../pictures/moving';
import { type NewStep, appendSteps, putTaken } from '../pictures/queries';
import { noteTold } from '../pictures/told';
import { viewOf } from '../pictures/views';
import { insertPicture, numberPicture } from '../pictures/store';
import { notFound } from '../problem';
import { type StoredTray, addToTray, heldFirstTray, heldTray } from '../trays/trays';
import { type VisitHead, visitHead } from '../visits/visitHead';
import { visitOfOutside } from '../visits/visits';
import { type AboutPaper, type AboutPicture, isPicture, readAbout } from './about';
import { heldWaiting } from './bundles';
import { type ArrivalRow, markGiven } from './queries';
import { takeTold } from './toldBeside';

/** What the view is called, in a picture's own layer. */
const longestName = 80;

export const giveWish = z.strictObject({
  /** A visit that is there, or one made for the day it was taken. */
  to: z.union([
    z.strictObject({ visitId: z.uuid() }),
    z.strictObject({ patientId: z.uuid(), roomId: z.uuid(), at: z.iso.datetime() })
  ]),
  each: z
    .array(
      z.strictObject({
        arrivalId: z.uuid(),
        /** The tray and the slot it is for; the bench of the visit's first tray where none is said. */
        trayId: z.uuid().nullable().default(null),
        slotId: slotId.nullable().default(null),
        name: z.string().trim().max(longestName).default(''),
        places: z.array(placeSchema).max(64).default([]),
        /** Where the file's own date is wrong: the right one. */
        takenAt: z.iso.datetime().nullable().default(null)
      })
    )
    .min(1)
    .max(1_000)
});
export type GiveWish = z.infer<typeof giveWish>;

/** Gives arrivals to a visit, all or none, once for the key. */
export async function giveArrivals(
  caller: Caller,
  key: string,
  wish: GiveWish
): Promise<{ visitId: string; pictureIds: string[] }> {
  await demand(caller, 'bring in files', wish.each[0].arrivalId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const rows = new Map(
        (
          await heldWaiting(
            tx,
            wish.each.map(({ arrivalId }) => arrivalId)
          )
        ).map((row) => [row.arrival_id, row])
      );
      const { to } = wish;
      const visitId =
        'visitId' in to ? to.visitId : await visitOfOutside(tx, caller, { ...to, at: new Date(to.at) });
      const visit = await visitHead(tx, visitId);
      const trays = new Map<string | null, { tray: StoredTray; events: TrayEvent[] }>();
      const pictureIds: string[] = [];
      for (const each of wish.each) {
        const row = rows.get(each.arrivalId)!;
        const about = readAbout(row.about);
        if (isPicture(about)) {
          const on = trays.get(each.trayId) ?? { tray: await trayFor(tx, visitId, each.trayId), events: [] };
          trays.set(each.trayId, on);
          const pictureId = row.picture_id ?? row.arrival_id;
          if (row.picture_id) await giveAgain(tx, caller, row, row.picture_id, visit, each);
          else await givePicture(tx, caller, row, about, visit, each);
          const exposed = isExposure(row.source);
          on.events.push({ kind: 'take-added', takeId: pictureId, slotId: each.slotId, exposed });
          pictureIds.push(pictureId);
        } else await givePaper(tx, caller, row, about, visitId);
        await markGiven(tx, row.arrival_id, visitId);
        await writeAudit(tx, caller, 'arrival given', row.arrival_id, {
          patientId: visit.patient.patientId,
          visit: visitId,
          from: row.from_name
        });
      }
      for (const { tray, events } of trays.values()) await addToTray(tx, tray, events, caller);
      await announce(tx, { topic: 'arrivals' });
      return { visitId, pictureIds };
    })
  );
}

/** The tray that something is given to, held; the visit's first where none is said. */
async function trayFor(tx: Tx, visitId: string, trayId: string | null): Promise<StoredTray> {
  const tray = trayId ? await heldTray(tx, trayId) : await heldFirstTray(tx, visitId);
  if (tray.visitId !== visitId) throw notFound('This tray');
  return tray;
}

type Each = GiveWish['each'][number];

/** Makes a picture of an arrival, under its number. Its tray is held. */
async function givePicture(
  tx: Tx,
  caller: Caller,
  row: ArrivalRow,
  about: AboutPicture,
  visit: VisitHead,
  each: Each
): Promise<void> {
  const { patientId } = visit.patient;
  const { visitId } = visit.visit;
  const { version: _, inFile, origin, says: __, dated, ...shape } = about;
  const read = readOrigin(origin);
  const plain = shape.mediaType === samplesMediaType;
  const takenAt = each.takenAt ? new Date(each.takenAt) : row.taken_at;
  const told = [
    ...(await knownAlready(tx, patientId, row.original_sha256, read.instanceUid ?? null)),
    ...nameRemark(inFile?.name ?? '', visit),
    ...dateWords(caller, row, each.takenAt, dated)
  ];
  await insertPicture(tx, row.arrival_id, {
    ...shape,
    patientId,
    visitId,
    digest: row.original_sha256,
    fileName: row.file_name ? fileNameOf(row.file_name.split('/').at(-1)!) : row.title,
    source: plain ? 'device' : 'file',
    origin: { ...read, remarks: [...told, ...read.remarks] },
    takenAt,
    byName: caller.name
  });
  if (read.instanceUid)
    await takeTold(tx, caller, row.arrival_id, {
      instanceUid: read.instanceUid,
      width: shape.width,
      height: shape.height,
      pixelAspect: read.pixelAspect
    });
  const name = each.name || row.title;
  if (name || row.remark) await tell(tx, caller, row, row.arrival_id, name);
  await linkPlaces(tx, caller, row.arrival_id, each.places);
  await enqueue(tx, queues.advise, { clinicId: tx.clinicId, pictureId: row.arrival_id });
  await numberPicture(tx, row.arrival_id, visitId);
  await announce(tx, { topic: 'picture', visitId, pictureId: row.arrival_id, view: null });
}

/** What a picture is called, and what was noted of it, become its own. */
async function tell(tx: Tx, caller: Caller, row: ArrivalRow, pictureId: string, name: string): Promise<void> {
  const steps: NewStep[] = [
    {
      kind: 'about',
      version: aboutLayer.version,
      item: null,
      body: { name: shortened(name, longestName), remark: row.remark },
      act: `told ${row.arrival_id}`,
      by: caller.userId,
      undoes: null
    }
  ];
  await appendSteps(tx, pictureId, steps);
  await noteTold(tx, pictureId, steps);
}

/** When it was taken, as somebody says who gives it: the picture's own layer from then on, so that it can be taken back. */
async function putDateRight(
  tx: Tx,
  caller: Caller,
  row: ArrivalRow,
  pictureId: string,
  at: string
): Promise<void> {
  await appendSteps(tx, pictureId, [
    {
      kind: 'taken',
      version: takenLayer.version,
      item: null,
      body: { at },
      act: `dated ${row.arrival_id}`,
      by: caller.userId,
      undoes: null
    }
  ]);
  await putTaken(tx, pictureId, at);
}

/** A picture that was taken out of a chart goes into one again, with all that was made on it. Its tray is held. */
async function giveAgain(
  tx: Tx,
  caller: Caller,
  row: ArrivalRow,
  pictureId: string,
  visit: VisitHead,
  each: Each
): Promise<void> {
  const { patientId } = visit.patient;
  const { visitId } = visit.visit;
  const [was] = await awayOf(tx, [pictureId]);
  if (patientId !== was.patient_id || each.places.length > 0) await unlink(tx, pictureId);
  await tx.sql(
    'update picture set away = null, visit_id = $2, patient_id = $3 where picture_id = $1',
    pictureId,
    visitId,
    patientId
  );
  if (each.takenAt) await putDateRight(tx, caller, row, pictureId, each.takenAt);
  await linkPlaces(tx, caller, pictureId, each.places);
  // It is called as it was in its chart, unless somebody says otherwise.
  const { about } = (await viewOf(tx, pictureId, caller.userId)).layers;
  if (each.name || row.remark !== (about?.remark ?? ''))
    await tell(tx, caller, row, pictureId, each.name || (about?.name ?? ''));
  await numberPicture(tx, pictureId, visitId);
  await markBack(tx, [was.away_id], caller.userId);
  await noteMove(tx, caller, pictureId, was, { patientId, visitId, reason: was.reason });
  await announce(tx, { topic: 'picture', visitId, pictureId, view: null });
}

/** Where a picture's date is from, where a person should know. */
function dateWords(caller: Caller, row: ArrivalRow, takenAt: string | null, dated: boolean): string[] {
  if (takenAt === null)
    return dated || cameWhenTaken(row.source)
      ? []
      : ['The file does not say when it was taken: its date is the day it came.'];
  return dated
    ? [`The date it came with, ${dayInWords(row.taken_at, caller)}, was put right by ${caller.name}.`]
    : [`The file does not say when it was taken; ${caller.name} did.`];
}

async function linkPlaces(
  tx: Tx,
  caller: Caller,
  pictureId: string,
  places: readonly Place[]
): Promise<void> {
  if (places.length === 0) return;
  await tx.sql('update picture set placed = true where picture_id = $1', pictureId);
  const once = new Map(places.map((place) => [placeKey(place), place]));
  await PictureLink.bulkCreate(
    [...once].map(([key, place]) => ({
      clinicId: tx.clinicId,
      pictureId,
      placeKey: key,
      place,
      linkedBy: caller.userId
    })),
    within(tx)
  );
}

/** Lays an arriving paper with the visit's story. */
async function givePaper(
  tx: Tx,
  caller: Caller,
  row: ArrivalRow,
  about: AboutPaper,
  visitId: string
): Promise<void> {
  const name = fileNameOf(row.title || row.file_name.split('/').at(-1)!);
  await tx.sql(
    `insert into paper (clinic_id, paper_id, visit_id, key, sha256, title, file_name, pages, added_by)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    tx.clinicId,
    newId(),
    visitId,
    row.arrival_id,
    row.original_sha256,
    titleOfFile(name),
    name,
    about.pages,
    caller.userId
  );
  await announce(tx, { topic: 'story', visitId });
}
