import { writeAudit } from '../audit/write';
import type { Tx } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { notFound } from '../problem';
import type { TrayEvent } from '../../core/tray/events';
import { fold, reduce } from '../../core/tray/reduce';
import type { Tray } from '../../core/tray/tray';

export interface StoredTray {
  trayId: string;
  visitId: string;
  seq: number;
  tray: Tray;
}

async function eventsOf(tx: Tx, trayId: string): Promise<{ seq: number; body: TrayEvent }[]> {
  return tx.sql('select seq, body from tray_event where tray_id = $1 order by seq', trayId);
}

/** The visit's tray as its events make it. `hold` keeps others from adding events until the transaction ends. */
export async function trayOfVisit(tx: Tx, visitId: string, hold = false): Promise<StoredTray> {
  const row = await tx.one<{ tray_id: string }>(
    `select tray_id from tray where visit_id = $1 ${hold ? 'for update' : ''}`,
    visitId
  );
  if (!row) throw notFound('This visit');
  const events = await eventsOf(tx, row.tray_id);
  return {
    trayId: row.tray_id,
    visitId,
    seq: events.at(-1)?.seq ?? 0,
    tray: fold(events.map((event) => event.body))
  };
}

/**
 * Adds events to a tray that this transaction holds, and brings the devices that work for it in line. Events that
 * change nothing are not stored.
 */
export async function addToTray(
  tx: Tx,
  stored: StoredTray,
  events: TrayEvent[],
  by: string,
  options: { exposedBy?: string } = {}
): Promise<StoredTray> {
  let { tray, seq } = stored;
  for (const event of events) {
    const next = reduce(tray, event);
    if (next === tray) continue;
    tray = next;
    seq += 1;
    await tx.sql(
      'insert into tray_event (tray_id, seq, clinic_id, body, caused_by) values ($1, $2, $3, $4::jsonb, $5)',
      stored.trayId,
      seq,
      tx.clinicId,
      JSON.stringify(event),
      by
    );
  }
  if (seq !== stored.seq || options.exposedBy) {
    await alignDevices(tx, stored.trayId, tray.present, options.exposedBy);
    await announce(tx, { topic: 'visit', id: stored.visitId });
  }
  return { ...stored, tray, seq };
}

/** Lays the first tray of a visit, empty unless a pattern is given. */
export async function makeTray(tx: Tx, visitId: string): Promise<void> {
  await tx.sql(
    'insert into tray (tray_id, clinic_id, visit_id) values ($1, $2, $3)',
    newId(),
    tx.clinicId,
    visitId
  );
}

/**
 * Devices armed for this tray follow its present slot. One that already waits for that slot is left alone, so that
 * looking at takes or choosing keepers never interrupts it; one that has just exposed is armed anew.
 */
async function alignDevices(
  tx: Tx,
  trayId: string,
  present: string | null,
  exposedBy?: string
): Promise<void> {
  const devices = await tx.sql<{ device_id: string; slot_id: string }>(
    `select d.device_id, a.slot_id from device d join arming a using (arming_id) where a.tray_id = $1`,
    trayId
  );
  for (const device of devices) {
    const sameSlot = device.slot_id === present;
    if (sameSlot && device.device_id !== exposedBy) continue;
    await arm(tx, device.device_id, present === null ? null : { trayId, slotId: present });
  }
}

/** Sets what a device waits for; null lets it rest. */
export async function arm(
  tx: Tx,
  deviceId: string,
  target: { trayId: string; slotId: string } | null
): Promise<string | null> {
  const armingId = target ? newId() : null;
  if (target) {
    await tx.sql(
      'insert into arming (arming_id, clinic_id, device_id, tray_id, slot_id) values ($1, $2, $3, $4, $5)',
      armingId,
      tx.clinicId,
      deviceId,
      target.trayId,
      target.slotId
    );
  }
  await tx.sql('update device set arming_id = $2 where device_id = $1', deviceId, armingId);
  await announce(tx, { topic: 'device-command', id: deviceId, command: { kind: 'look-again' } });
  await announce(tx, { topic: 'device', id: deviceId });
  return armingId;
}

/** What a person does to a tray: stored, in the audit, and told to whoever follows the visit. */
export async function changeTray(
  tx: Tx,
  visitId: string,
  events: TrayEvent[],
  by: string
): Promise<StoredTray> {
  const before = await trayOfVisit(tx, visitId, true);
  const after = await addToTray(tx, before, events, by);
  if (after.seq !== before.seq) {
    await writeAudit(tx, by, 'tray changed', visitId, { events: events.map((event) => event.kind) });
  }
  return after;
}
