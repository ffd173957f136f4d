import type { WireLine } from '../../core/parcel/wire';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { oweTelling } from '../practice/telling';
import { Problem } from '../problem';
import { NotDelivered, Unsure } from './carriers/carrier';
import { wantsClaims } from '../../core/parcel/destination';
import { asWhole, toArchive } from './carrying';
import { toClaimsOffice } from './claiming';
import type { Arrived, Claimed } from './claimed';
import { toFilmPrinter } from './filming';
import { Destination } from './destinationModel';
import { settingsOf } from './destinations';
import { perFilm } from '../../core/print/film';
import { filmParted } from '../../core/print/filmWish';
import { type ItemRow, type ParcelRow, announceParcel, itemsOf, parcelRow } from './parcelRow';
import { sendSoon } from './queueing';
import { tellWhenThere } from './telling';

/** Pauses grow from the first to the longest, doubling; after the last try a person decides. */
const firstPauseSeconds = Number(process.env.YONDER_FIRST_PAUSE_SECONDS ?? 3);
const longestPauseSeconds = 900;
const mostTries = 14;
/** So many exchanges of a delivery are kept, the newest. */
const mostWireLines = 40;

export function pauseAfter(tries: number): number {
  return Math.min(longestPauseSeconds, firstPauseSeconds * 2 ** Math.max(0, tries - 1));
}

async function claim(tx: Tx, deliveryId: string): Promise<Claimed | null> {
  const row = await tx.one<{
    state: string;
    attempts: number;
    picture_id: string | null;
    film: number | null;
    parcel_id: string;
    destination_id: string;
  }>(
    `select d.state, d.attempts, d.picture_id, d.film, d.parcel_id, k.destination_id
     from delivery d join parcel k using (parcel_id) where delivery_id = $1 for update of d`,
    deliveryId
  );
  if (!row || (row.state !== 'waiting' && row.state !== 'sending')) return null;
  const parcel = await parcelRow(tx, row.parcel_id);
  if (parcel.state === 'held' || parcel.state === 'withdrawn') {
    // Whoever was at it when it was held or withdrawn was killed over it.
    await tx.sql(
      'update delivery set state = $2, next_try_at = null where delivery_id = $1',
      deliveryId,
      parcel.state
    );
    await announceParcel(tx, row.parcel_id);
  }
  if (parcel.state !== 'open') return null;
  await tx.sql(
    `update delivery set state = 'sending', attempts = attempts + 1, next_try_at = null, alive_at = now() where delivery_id = $1`,
    deliveryId
  );
  await announceParcel(tx, row.parcel_id);
  const destination = (await Destination.findByPk(row.destination_id, within(tx)))!;
  const items = await itemsOf(tx, row.parcel_id);
  return {
    deliveryId,
    parcel,
    items: itemsOfDelivery(items, row, parcel),
    pictureId: row.picture_id,
    film: row.film,
    name: destination.name,
    settings: settingsOf(destination),
    tries: row.attempts + 1,
    before: row.picture_id !== null && (await deliveredBefore(tx, deliveryId, row.picture_id, parcel))
  };
}

/** The pictures of a delivery: one, those of a film, or all of the parcel. */
function itemsOfDelivery(
  items: readonly ItemRow[],
  { picture_id: pictureId, film }: { picture_id: string | null; film: number | null },
  parcel: ParcelRow
): ItemRow[] {
  if (pictureId) return items.filter((item) => item.picture_id === pictureId);
  if (film === null || !parcel.film) return [...items];
  const { across, down } = filmParted(parcel.film);
  return perFilm(items, across * down)[film - 1] ?? [];
}

/** Whether an archive was given a picture by an earlier parcel that left by the same identity. */
const deliveredBefore = async (
  tx: Tx,
  deliveryId: string,
  pictureId: string,
  { destinationId, identity, ruleId }: ParcelRow
): Promise<boolean> =>
  (await tx.one(
    `select 1 from delivery d join parcel k using (parcel_id) where d.picture_id = $2 and d.delivery_id <> $1
       and d.state = 'delivered' and k.destination_id = $3 and k.identity = $4 and k.rule_id is not distinct from $5::uuid
     limit 1`,
    deliveryId,
    pictureId,
    destinationId,
    identity,
    ruleId
  )) !== undefined;

/**
 * One try at one delivery. Before anything is sent, the other side is asked whether it holds it, at every try and whoever
 * wishes it: an answer that was lost on the way does not make a second copy. Safe to kill at any instant: the job is then
 * taken up by another worker, which begins by asking.
 */
export async function deliver(clinicId: string, deliveryId: string): Promise<void> {
  const claimed = await inClinic(clinicId, (tx) => claim(tx, deliveryId));
  if (!claimed) return;
  const lines: WireLine[] = [];
  let arrived: Arrived;
  try {
    const road = claimed.pictureId
      ? wantsClaims(claimed.settings.address)
        ? toClaimsOffice
        : toArchive
      : claimed.film
        ? toFilmPrinter
        : asWhole;
    arrived = await road(clinicId, claimed, (line) => lines.push(line), stillWanted(clinicId, claimed));
  } catch (error) {
    const why = reasonOf(error);
    await inClinic(clinicId, (tx) => putOff(tx, claimed, lines, why));
    return;
  }
  const { parcel } = claimed;
  const { sent, readBack: back, remark, tracking = '', commitment = '' } = arrived;
  await inClinic(clinicId, async (tx) => {
    await tx.sql(
      `update delivery set state = 'delivered', delivered_at = now(), reason = $6, next_step = '', sent_instance_uid = $2,
         sent_study_uid = $3, sent = $4::jsonb, read_back_at = $5, tracking = $7,
         -- An answer may have come in by another way already.
         commitment = case when commitment = 'kept' then commitment else $8 end
       where delivery_id = $1`,
      deliveryId,
      sent?.instanceUid ?? null,
      sent?.studyUid ?? null,
      sent ? JSON.stringify(sent) : null,
      back ? new Date() : null,
      remark,
      tracking,
      commitment
    );
    await keepWire(tx, deliveryId, lines);
    const toWeb = claimed.settings.address.kind === 'dicomweb';
    if (parcel.identity === 'identified' && toWeb && parcel.visitId) await oweTelling(tx, parcel.visitId);
    await announceParcel(tx, parcel.parcelId);
    await noteDelivered(tx, claimed);
    const { closes, tell } = claimed.settings;
    // Of two last pictures that arrive at one moment the second has to see the first.
    if (closes || tell.length > 0)
      await tx.sql(
        'select pg_advisory_xact_lock(hashtextextended($1, 3))',
        `arrived ${parcel.destinationId}`
      );
    if (closes) await closeWhenThere(tx, claimed);
    if (tell.length > 0) await tellWhenThere(tx, claimed);
  });
}

const beatMs = 5_000;

/**
 * Told while a whole parcel is being written: now and then it notes that somebody is at it, so that nobody else takes it
 * up, and hears whether the parcel is wanted still. @throws NotDelivered where it was held or withdrawn
 */
function stillWanted(clinicId: string, { deliveryId, parcel }: Claimed): () => Promise<void> {
  let last = Date.now();
  return async () => {
    if (Date.now() - last < beatMs) return;
    last = Date.now();
    const { state } = await inClinic(clinicId, async (tx) => {
      await tx.sql('update delivery set alive_at = now() where delivery_id = $1', deliveryId);
      return parcelRow(tx, parcel.parcelId);
    });
    if (state !== 'open') throw new NotDelivered(`It was ${state} while it was on its way.`);
  };
}

/** What arrived is in the audit, at each picture. */
async function noteDelivered(tx: Tx, { parcel, items, tries, name }: Claimed): Promise<void> {
  const rows = await tx.sql<{ picture_id: string; patient_id: string }>(
    'select picture_id, patient_id from picture where picture_id = any($1::uuid[])',
    items.map(({ picture_id: id }) => id)
  );
  for (const { picture_id: pictureId, patient_id: patientId } of rows)
    await writeAudit(tx, { system: 'dispatch' }, 'delivered', pictureId, {
      patientId,
      identity: parcel.identity,
      to: name,
      tries
    });
}

/** Visits of which everything that stands in them has arrived at this destination are closed, where it is set so. */
async function closeWhenThere(tx: Tx, { parcel, items }: Claimed): Promise<void> {
  const closed = await tx.sql<{ visit_id: string; patient_id: string }>(
    `update visit v set closed_at = now()
     where v.clinic_id = $1 and v.closed_at is null
       and v.visit_id in (select visit_id from picture where picture_id = any($2::uuid[]))
       and not exists (
         select 1 from picture p left join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
         where p.visit_id = v.visit_id and p.away is null and (s.slot_id is null or s.keeper) and not exists (
           select 1 from parcel_item i join parcel k on k.clinic_id = i.clinic_id and k.parcel_id = i.parcel_id
             join delivery d on d.parcel_id = k.parcel_id
           where i.clinic_id = p.clinic_id and i.picture_id = p.picture_id and k.destination_id = $3
             and d.state = 'delivered' and (d.picture_id is null or d.picture_id = p.picture_id)))
     returning v.visit_id, v.patient_id`,
    tx.clinicId,
    items.map(({ picture_id: id }) => id),
    parcel.destinationId
  );
  for (const { visit_id: visitId, patient_id: patientId } of closed) {
    await announce(tx, { topic: 'visit', visitId }, { topic: 'day' });
    await writeAudit(tx, { system: 'dispatch' }, 'visit closed', visitId, { patientId });
  }
}

/** A fault of our own ends the tries with its words; a database that is away leaves the job to be taken again. */
function reasonOf(error: unknown): NotDelivered {
  if (error instanceof NotDelivered) return error;
  if (error instanceof Problem && error.code !== 'database-away')
    return new NotDelivered(error.sentence, true, error.next);
  throw error;
}

async function putOff(
  tx: Tx,
  claimed: Claimed,
  lines: readonly WireLine[],
  why: NotDelivered
): Promise<void> {
  const { deliveryId, tries, parcel } = claimed;
  const over = why.final || tries >= mostTries;
  const pause = pauseAfter(tries);
  // Whoever held or withdrew it meanwhile is heard.
  const { state } = await parcelRow(tx, parcel.parcelId);
  const next = state === 'held' || state === 'withdrawn' ? state : over ? 'failed' : 'waiting';
  await tx.sql(
    `update delivery set state = $2, reason = $3, next_step = $4, next_try_at = $5 where delivery_id = $1`,
    deliveryId,
    next,
    why.reason,
    why.next || (over ? 'Try again, send it elsewhere, or withdraw it.' : ''),
    next === 'waiting' ? new Date(Date.now() + pause * 1000) : null
  );
  // What was refused may be handed over again; of what nobody knows only a person says so.
  if (!(why instanceof Unsure))
    await tx.sql('update delivery set handed_at = null where delivery_id = $1', deliveryId);
  await keepWire(tx, deliveryId, lines);
  if (next === 'waiting') await sendSoon(tx, [deliveryId], pause);
  await announceParcel(tx, parcel.parcelId);
}

/** Writes down what was said on the wire, and lets the oldest of much go. */
async function keepWire(tx: Tx, deliveryId: string, lines: readonly WireLine[]): Promise<void> {
  for (const line of lines)
    await tx.sql(
      'insert into wire_line (clinic_id, wire_id, delivery_id, said) values ($1, $2, $3, $4::jsonb)',
      tx.clinicId,
      newId(),
      deliveryId,
      JSON.stringify(line)
    );
  await tx.sql(
    `delete from wire_line where clinic_id = $1 and delivery_id = $2 and wire_id not in (
       select wire_id from wire_line where clinic_id = $1 and delivery_id = $2 order by wire_id desc limit $3)`,
    tx.clinicId,
    deliveryId,
    mostWireLines
  );
}
