import { deviceFor } from '../../core/devices/choose';
import { readsOntoBench } from '../../core/devices/deviceKind';
import type { Tray } from '../../core/tray/tray';
import type { Tx } from '../database/connection';
import { newId } from '../ids';
import { type News, announce } from '../news/announce';
import { type RoomDevice, devicesAround, devicesById } from './queries';

/** What a device is to wait for from now on; null lets it rest. */
export interface NewArming {
  deviceId: string;
  armingId: string | null;
  /** Null for the tray's bench, or for rest. */
  slotId: string | null;
}

/**
 * While a series runs, the device that takes the tray's present slot follows it. One that already waits for that slot is
 * left alone, so that looking at takes or choosing keepers never interrupts it; one that has just exposed is armed anew.
 * Where the next slot wants another device, that one is armed and the first one rests; where it is not clear which, all
 * rest and the page asks. Where no slot is empty, one that reads onto the bench goes on with that.
 */
export function alignment(
  devices: readonly RoomDevice[],
  trayId: string,
  { present, wells, settled }: Pick<Tray, 'present' | 'wells' | 'settled'>,
  exposedBy?: string
): NewArming[] {
  const armed = devices.filter((each) => each.trayId === trayId);
  if (armed.length === 0) return [];
  const onto = armed.find(({ kind }) => readsOntoBench(kind))?.deviceId ?? null;
  const next = present === null ? onto : deviceFor(wells[present].slot, devices, { trayId, settled });
  const waits = armed.some(
    ({ deviceId, slotId }) => deviceId === next && slotId === present && deviceId !== exposedBy
  );
  return [
    ...armed
      .filter(({ deviceId }) => deviceId !== next)
      .map(({ deviceId }) => ({ deviceId, slotId: null, armingId: null })),
    ...(next !== null && !waits ? [{ deviceId: next, slotId: present, armingId: newId() }] : [])
  ];
}

export async function alignDevices(
  tx: Tx,
  trayId: string,
  tray: Tray,
  by: string | null,
  exposedBy?: string
): Promise<void> {
  const devices = await devicesAround(tx, trayId);
  for (const { deviceId, slotId, armingId } of alignment(devices, trayId, tray, exposedBy))
    await arm(tx, deviceId, armingId === null ? null : { trayId, slotId, by }, armingId ?? undefined);
}

/** Sets what a device waits for; null lets it rest. */
export async function arm(
  tx: Tx,
  deviceId: string,
  target: { trayId: string; slotId: string | null; by: string | null } | null,
  armingId = newId()
): Promise<void> {
  if (target) {
    await tx.sql(
      'insert into arming (arming_id, clinic_id, device_id, tray_id, slot_id, user_id) values ($1, $2, $3, $4, $5, $6)',
      armingId,
      tx.clinicId,
      deviceId,
      target.trayId,
      target.slotId,
      target.by
    );
  }
  await tx.sql('update device set arming_id = $2 where device_id = $1', deviceId, target ? armingId : null);
  await announce(tx, lookAgain(deviceId), ...(await lampNews(tx, [deviceId])));
}

export const lookAgain = (deviceId: string): News => ({
  topic: 'device-command',
  deviceId,
  command: { kind: 'look-again' }
});

/** How devices stand now, for the pages of their rooms. */
export async function lampNews(tx: Tx, deviceIds: readonly string[]): Promise<News[]> {
  return (await devicesById(tx, deviceIds)).map((each) => ({ topic: 'lamp', ...each }));
}
