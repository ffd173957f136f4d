import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { type Tx, beforeClinic, inClinic } from '../database/connection';
import { newId, newToken, sha256 } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { arm, trayOfVisit } from '../trays/trays';
import type { Slot } from '../../core/tray/tray';

/** A device that has shown its token. */
export interface DeviceCaller {
  deviceId: string;
  clinicId: string;
  name: string;
}

export const lamps = ['resting', 'arming', 'ready', 'exposing', 'reading', 'faulted'] as const;

export const registration = z.object({
  code: z.string().min(1).max(200),
  name: z.string().trim().min(1).max(60),
  kind: z.enum(['intraoral-sensor']),
  room: z.string().trim().min(1).max(60)
});

/** A device makes itself known with the clinic's enrolment code, and gets the token it shows from then on. */
export async function register(
  wish: z.infer<typeof registration>
): Promise<{ deviceId: string; token: string }> {
  const [clinic] = await beforeClinic<{ clinic_id: string }>(
    'select * from clinic_of_enrolment($1)',
    sha256(wish.code)
  );
  if (!clinic) {
    throw new Problem(
      'wrong-code',
      'The enrolment code is not this clinic’s.',
      'Enter the code from the settings.',
      401
    );
  }
  const token = newToken();
  return inClinic(clinic.clinic_id, async (tx) => {
    const room = await tx.one<{ room_id: string }>('select room_id from room where name = $1', wish.room);
    if (!room)
      throw new Problem('no-room', `There is no room called ${wish.room}.`, 'Use a room of the clinic.', 404);
    const row = await tx.one<{ device_id: string }>(
      `insert into device (device_id, clinic_id, room_id, name, kind, token_hash, lamp)
       values ($1, $2, $3, $4, $5, $6, 'resting')
       on conflict (clinic_id, name) do update set token_hash = excluded.token_hash, room_id = excluded.room_id
       returning device_id`,
      newId(),
      tx.clinicId,
      room.room_id,
      wish.name,
      wish.kind,
      sha256(token)
    );
    await writeAudit(tx, wish.name, 'device registered', row!.device_id, {
      kind: wish.kind,
      room: wish.room
    });
    return { deviceId: row!.device_id, token };
  });
}

export async function deviceOf(authorization: string | null): Promise<DeviceCaller> {
  const token = /^Bearer (\S+)$/.exec(authorization ?? '')?.[1];
  const [row] = token
    ? await beforeClinic<{ device_id: string; clinic_id: string; name: string }>(
        'select * from device_of_token($1)',
        sha256(token)
      )
    : [];
  if (!row) {
    throw new Problem(
      'unknown-device',
      'This device is not registered here.',
      'Register it with the enrolment code.',
      401
    );
  }
  return { deviceId: row.device_id, clinicId: row.clinic_id, name: row.name };
}

/** What a device is to do now: wait for one slot, or rest. */
export type Instruction =
  { kind: 'arm'; armingId: string; series: string; readySeconds: number; slot: Slot } | { kind: 'rest' };

export async function instructionFor(device: DeviceCaller): Promise<Instruction> {
  return inClinic(device.clinicId, async (tx) => {
    const row = await tx.one<{
      arming_id: string;
      slot_id: string;
      tray_id: string;
      visit_id: string;
      ready_seconds: number;
    }>(
      `select a.arming_id, a.slot_id, t.tray_id, t.visit_id, d.ready_seconds
       from device d join arming a using (arming_id) join tray t using (tray_id) where d.device_id = $1`,
      device.deviceId
    );
    if (!row) return { kind: 'rest' };
    const { tray } = await trayOfVisit(tx, row.visit_id);
    const slot = tray.wells[row.slot_id]?.slot;
    return slot
      ? { kind: 'arm', armingId: row.arming_id, series: row.tray_id, readySeconds: row.ready_seconds, slot }
      : { kind: 'rest' };
  });
}

export const lampReport = z.object({
  lamp: z.enum(lamps),
  words: z.string().max(200).default(''),
  /** The arming the device let go of by itself. */
  gaveUp: z.uuid().optional()
});

/** The lamp as the device reports it, also its sign of life. Going to rest by itself gives up what it was armed for. */
export async function reportLamp(device: DeviceCaller, report: z.infer<typeof lampReport>): Promise<void> {
  await inClinic(device.clinicId, async (tx) => {
    const before = await tx.one<{ lamp: string; lamp_words: string; silent: boolean }>(
      `select lamp, lamp_words, lamp_at < now() - interval '12 seconds' as silent from device where device_id = $1`,
      device.deviceId
    );
    await tx.sql(
      'update device set lamp = $2, lamp_words = $3, lamp_at = now() where device_id = $1',
      device.deviceId,
      report.lamp,
      report.words
    );
    if (report.gaveUp) {
      await tx.sql(
        'update device set arming_id = null where device_id = $1 and arming_id = $2',
        device.deviceId,
        report.gaveUp
      );
    }
    if (before?.silent || before?.lamp !== report.lamp || before.lamp_words !== report.words) {
      await announce(tx, { topic: 'device', id: device.deviceId });
    }
  });
}

async function roomDevice(tx: Tx, deviceId: string): Promise<void> {
  if (!z.uuid().safeParse(deviceId).success) throw notFound('This device');
  const row = await tx.one('select device_id from device where device_id = $1', deviceId);
  if (!row) throw notFound('This device');
}

/** Readies a device for the visit's present slot; the wide button, Space, Enter and the pedal all do this. */
export async function readyDevice(caller: Caller, deviceId: string, visitId: string): Promise<void> {
  await demand(caller, 'acquire', visitId);
  await inClinic(caller.clinicId, async (tx) => {
    await roomDevice(tx, deviceId);
    const { trayId, tray } = await trayOfVisit(tx, visitId, true);
    if (tray.present === null) {
      throw new Problem(
        'nothing-empty',
        'Every slot has its take, so there is nothing to get ready for.',
        'Choose a slot to take it again.',
        409
      );
    }
    await arm(tx, deviceId, { trayId, slotId: tray.present });
    await announce(tx, { topic: 'visit', id: visitId });
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
export async function demoExpose(caller: Caller, deviceId: string, command: object): Promise<void> {
  await demand(caller, 'acquire', deviceId);
  await inClinic(caller.clinicId, async (tx) => {
    await roomDevice(tx, deviceId);
    await announce(tx, { topic: 'device-command', id: deviceId, command });
  });
}
