import type { Tx } from '../database/connection';
import { newId } from '../ids';
import { type News, announce } from '../news/announce';
import { armedFor, devicesById } from './queries';

/** What a device is to wait for from now on; null lets it rest. */
export interface NewArming {
  deviceId: string;
  armingId: string | null;
  slotId: string | null;
}

/**
 * Devices armed for a tray follow its present slot. One that already waits for that slot is left alone, so that looking
 * at takes or choosing keepers never interrupts it; one that has just exposed is armed anew.
 */
export function alignment(
  armed: readonly { deviceId: string; slotId: string }[],
  present: string | null,
  exposedBy?: string
): NewArming[] {
  return armed
    .filter(({ deviceId, slotId }) => slotId !== present || deviceId === exposedBy)
    .map(({ deviceId }) => ({ deviceId, slotId: present, armingId: present === null ? null : newId() }));
}

export async function alignDevices(
  tx: Tx,
  trayId: string,
  present: string | null,
  exposedBy?: string
): Promise<void> {
  const rows = await armedFor(tx, trayId);
  const armed = rows.map((row) => ({ deviceId: row.device_id, slotId: row.slot_id }));
  for (const each of alignment(armed, present, exposedBy))
    await arm(
      tx,
      each.deviceId,
      present === null ? null : { trayId, slotId: present },
      each.armingId ?? undefined
    );
}

/** Sets what a device waits for; null lets it rest. */
export async function arm(
  tx: Tx,
  deviceId: string,
  target: { trayId: string; slotId: string } | null,
  armingId = newId()
): Promise<void> {
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
