import type { DeviceView, LampState } from '../../core/visit/visitView';
import type { Tx } from '../database/connection';

interface Row {
  device_id: string;
  room_id: string;
  name: string;
  kind: string;
  lamp: LampState;
  lamp_words: string;
  slot_id: string | null;
  tray_id: string | null;
  visit_id: string | null;
}

const columns = `d.device_id, d.room_id, d.name, d.kind, d.lamp, d.lamp_words, a.slot_id, a.tray_id, t.visit_id
  from device d left join arming a using (arming_id) left join tray t on t.tray_id = a.tray_id`;

const viewOf = (row: Row): DeviceView => ({
  deviceId: row.device_id,
  name: row.name,
  kind: row.kind,
  lamp: row.lamp,
  lampWords: row.lamp_words,
  armed: row.slot_id === null ? null : { visitId: row.visit_id!, trayId: row.tray_id!, slotId: row.slot_id }
});

export async function devicesOfRoom(tx: Tx, roomId: string): Promise<DeviceView[]> {
  return (await tx.sql<Row>(`select ${columns} where d.room_id = $1 order by d.name`, roomId)).map(viewOf);
}

export async function devicesById(
  tx: Tx,
  deviceIds: readonly string[]
): Promise<{ roomId: string; device: DeviceView }[]> {
  const rows = await tx.sql<Row>(`select ${columns} where d.device_id = any($1::uuid[])`, deviceIds);
  return rows.map((row) => ({ roomId: row.room_id, device: viewOf(row) }));
}

/** The devices that wait for a tray, and the slot each waits for. */
export const armedFor = (tx: Tx, trayId: string): Promise<{ device_id: string; slot_id: string }[]> =>
  tx.sql(
    'select d.device_id, a.slot_id from device d join arming a using (arming_id) where a.tray_id = $1',
    trayId
  );
