import { z } from 'zod';
import { projectionWords } from '../../core/anatomy/projections';
import type { Settled } from '../../core/devices/choose';
import { type DeviceUse, readsOntoBench } from '../../core/devices/deviceKind';
import { fitsSlot, useOf } from '../../core/devices/fits';
import type { TrayEvent } from '../../core/tray/events/all';
import type { Slot } from '../../core/tray/slot';
import { type Tray, wellsAlong } from '../../core/tray/tray';
import { lamps } from '../../core/visit/visitView';
import { writeAudit } from '../audit/write';
import { OwnLookRow } from '../clinics/ownLookModel';
import { type Tx, beforeClinic, inClinic, within } from '../database/connection';
import { sha256 } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { addToTray, heldTray, traysOfVisits } from '../trays/trays';
import { arm, lampNews, lookAgain } from './arming';
import { Device } from './deviceModel';
import { habitOf, rememberHabit } from './habits';
import { devicesAround, devicesById } from './queries';

/** A device that has shown its token. */
export interface DeviceCaller {
  deviceId: string;
  clinicId: string;
  name: string;
}

export function tokenOf(authorization: string | null): string | null {
  return /^Bearer (\S+)$/.exec(authorization ?? '')?.[1] ?? null;
}

export const unknownDevice = (): Problem =>
  new Problem(
    'unknown-device',
    'This device is not registered here.',
    'Register it with a code from the clinic’s settings.',
    401
  );

export async function deviceOf(authorization: string | null): Promise<DeviceCaller> {
  const token = tokenOf(authorization);
  const [row] = token
    ? await beforeClinic<{ device_id: string; clinic_id: string; name: string }>(
        'select * from device_of_token($1)',
        sha256(token)
      )
    : [];
  if (!row) throw unknownDevice();
  return { deviceId: row.device_id, clinicId: row.clinic_id, name: row.name };
}

/** What a device is to do now: wait for one slot, or rest. */
export type Instruction =
  | {
      kind: 'arm';
      armingId: string;
      series: string;
      readySeconds: number;
      /** Null for the tray's bench. */
      slot: Slot | null;
      /** How fine to read, by a device that can choose. */
      fineness: string | null;
    }
  | { kind: 'rest' };

export async function instructionFor(device: DeviceCaller): Promise<Instruction> {
  return inClinic(device.clinicId, async (tx) => {
    const row = await tx.one<{
      arming_id: string;
      slot_id: string | null;
      tray_id: string;
      visit_id: string;
      ready_seconds: number;
      fineness: string | null;
    }>(
      `select a.arming_id, a.slot_id, t.tray_id, t.visit_id, d.ready_seconds, d.fineness
       from device d join arming a using (arming_id) join tray t using (tray_id) where d.device_id = $1`,
      device.deviceId
    );
    if (!row) return { kind: 'rest' };
    const trays = await traysOfVisits(tx, [row.visit_id]);
    const tray = trays.find((each) => each.trayId === row.tray_id)?.tray;
    const slot = row.slot_id === null ? null : tray?.wells[row.slot_id]?.slot;
    if (slot === undefined) return { kind: 'rest' };
    return {
      kind: 'arm',
      armingId: row.arming_id,
      series: row.tray_id,
      readySeconds: row.ready_seconds,
      slot,
      fineness: row.fineness
    };
  });
}

export const lampReport = z.object({
  lamp: z.enum(lamps).exclude(['absent']),
  words: z.string().max(200).default(''),
  /** The arming the device let go of by itself. */
  gaveUp: z.uuid().optional()
});

/** The lamp as the device reports it, also its sign of life. Going to rest by itself gives up what it was armed for. */
export async function reportLamp(device: DeviceCaller, report: z.infer<typeof lampReport>): Promise<void> {
  await inClinic(device.clinicId, async (tx) => {
    const row = await Device.findByPk(device.deviceId, { lock: true, ...within(tx) });
    if (!row) throw unknownDevice();
    const gaveUp = report.gaveUp !== undefined && row.armingId === report.gaveUp;
    const changed = row.lamp !== report.lamp || row.lampWords !== report.words || gaveUp;
    await row.update(
      {
        lamp: report.lamp,
        lampWords: report.words,
        lampAt: new Date(),
        ...(gaveUp ? { armingId: null } : {})
      },
      within(tx)
    );
    if (changed) await announce(tx, ...(await lampNews(tx, [device.deviceId])));
  });
}

export async function roomDevice(tx: Tx, deviceId: string): Promise<Device> {
  const known = z.uuid().safeParse(deviceId).success ? await Device.findByPk(deviceId, within(tx)) : null;
  if (!known || known.retiredAt) throw notFound('This device');
  return known;
}

export const readyWish = z.strictObject({
  kind: z.literal('ready'),
  trayId: z.uuid(),
  /** Also when it waits for another visit, which is told. */
  takeOver: z.boolean().default(false),
  /** For all slots of this series that want such a device. */
  keep: z.boolean().default(false)
});

/** Readies a device for a tray's present slot; the wide button, Space, Enter and the pedal all do this. */
export async function readyDevice(
  caller: Caller,
  deviceId: string,
  trayId: string,
  { takeOver = false, keep = false }: { takeOver?: boolean; keep?: boolean } = {}
): Promise<void> {
  await demand(caller, 'acquire', trayId);
  await inClinic(caller.clinicId, async (tx) => {
    const device = await roomDevice(tx, deviceId);
    const held = await heldTray(tx, trayId);
    const { present, wells } = held.tray;
    if (present === null && readsOntoBench(device.kind)) {
      await freedFrom(tx, caller, { deviceId, name: device.name }, held.visitId, takeOver);
      await arm(tx, deviceId, { trayId, slotId: null, by: caller.userId });
      return;
    }
    if (present === null) {
      throw new Problem(
        'nothing-empty',
        'Every slot has its take, so there is nothing to get ready for.',
        'Choose a slot to take it again.',
        409
      );
    }
    const { slot } = wells[present];
    if (!fitsSlot(device.kind, slot)) {
      throw new Problem(
        'wrong-device',
        `${device.name} can’t take “${slot.name}” (${projectionWords(slot.projection)}).`,
        'Choose another device.',
        409
      );
    }
    await freedFrom(tx, caller, { deviceId, name: device.name }, held.visitId, takeOver);
    const { roomId } = device;
    const use = useOf(slot.projection);
    await rememberHabit(tx, caller.userId, roomId, { [use]: deviceId });
    // Armed before the tray is told, so that what the series is settled on arms nothing a second time.
    await arm(tx, deviceId, { trayId, slotId: present, by: caller.userId });
    for (const other of await devicesAround(tx, trayId))
      if (other.trayId === trayId && other.deviceId !== deviceId) await arm(tx, other.deviceId, null);
    const settled = { ...(await habitOf(tx, caller.userId, roomId)), ...(keep ? { [use]: deviceId } : {}) };
    await addToTray(tx, held, settledEvents(held.tray, settled, keep ? use : null), caller);
  });
}

/** What is known of the operator's habit holds for uses that the tray wants and nobody has settled yet. */
function settledEvents(tray: Tray, settled: Settled, asked: DeviceUse | null): TrayEvent[] {
  const wanted = new Set(wellsAlong(tray).map(({ slot }) => useOf(slot.projection)));
  return (Object.entries(settled) as [DeviceUse, string][])
    .filter(([use]) => use === asked || (wanted.size > 1 && wanted.has(use) && !tray.settled[use]))
    .map(([use, deviceId]) => ({ kind: 'device-settled', use, deviceId }));
}

/** A device belongs to one visit at a time. Taking it over is asked first, and told to the pages of the other. */
async function freedFrom(
  tx: Tx,
  caller: Caller,
  { deviceId, name }: { deviceId: string; name: string },
  visitId: string,
  takeOver: boolean
): Promise<void> {
  const [{ device }] = await devicesById(tx, [deviceId]);
  const { armed } = device;
  if (!armed || armed.visitId === visitId) return;
  if (!takeOver) {
    throw new Problem(
      'waits-elsewhere',
      `${name} waits for ${armed.patient}${armed.by ? `; ${armed.by} got it ready` : ''}.`,
      'Take it over, or choose another device.',
      409
    );
  }
  await announce(tx, { topic: 'taken-over', visitId: armed.visitId, device: name, by: caller.name });
}

/** What a device's pictures open with from now on: one of the clinic's own looks, or null for none. */
export async function setOpensWith(caller: Caller, deviceId: string, lookId: string | null): Promise<void> {
  await demand(caller, 'change settings', deviceId);
  await inClinic(caller.clinicId, async (tx) => {
    const device = await roomDevice(tx, deviceId);
    const look = lookId && (await OwnLookRow.findByPk(lookId, within(tx)));
    if (lookId && !look) throw notFound('This look');
    await device.update({ opensWith: lookId }, within(tx));
    const opensWith = look ? look.name : 'nothing of its own';
    await writeAudit(tx, caller, 'setting changed', deviceId, { device: device.name, opensWith });
  });
}

/** How fine a device reads from now on. */
export async function setFineness(caller: Caller, deviceId: string, fineness: string): Promise<void> {
  await demand(caller, 'acquire', deviceId);
  await inClinic(caller.clinicId, async (tx) => {
    const device = await roomDevice(tx, deviceId);
    if (!device.finenesses.some(({ id }) => id === fineness)) throw notFound('This fineness');
    await device.update({ fineness }, within(tx));
    await announce(tx, lookAgain(deviceId), ...(await lampNews(tx, [deviceId])));
  });
}

export async function restDevice(caller: Caller, deviceId: string): Promise<void> {
  await demand(caller, 'acquire', deviceId);
  await inClinic(caller.clinicId, async (tx) => {
    await roomDevice(tx, deviceId);
    await arm(tx, deviceId, null);
  });
}

/** The demo's stand-in for the x-ray button: asks the simulated sensor to expose, with a fault if wished. */
export async function demoExpose(caller: Caller, deviceId: string, command: { kind: string }): Promise<void> {
  await demand(caller, 'acquire', deviceId);
  await inClinic(caller.clinicId, async (tx) => {
    await roomDevice(tx, deviceId);
    await announce(tx, { topic: 'device-command', deviceId, command });
  });
}
