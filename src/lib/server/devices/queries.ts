import type { DeviceView, LampState } from '../../core/visit/visitView';
import type { Tx } from '../database/connection';
import type { Fineness } from '../../core/devices/deviceKind';
import type { Choosable } from '../../core/devices/choose';

interface Row {
  device_id: string;
  room_id: string;
  name: string;
  kind: string;
  lamp: LampState;
  lamp_words: string;
  finenesses: Fineness[];
  fineness: string | null;
  slot_id: string | null;
  tray_id: string | null;
  visit_id: string | null;
  patient: string | null;
  by_name: string | null;
}

const viewOf = (row: Row): DeviceView => ({
  deviceId: row.device_id,
  name: row.name,
  kind: row.kind,
  lamp: row.lamp,
  lampWords: row.lamp_words,
  finenesses: row.finenesses,
  fineness: row.fineness ?? row.finenesses[0]?.id ?? null,
  armed:
    row.tray_id === null
      ? null
      : {
          visitId: row.visit_id!,
          trayId: row.tray_id,
          slotId: row.slot_id,
          patient: row.patient ?? '',
          by: row.by_name ?? ''
        }
});

/** The database keeps its plan of this: it is asked at every exposure. */
export async function devicesById(
  tx: Tx,
  deviceIds: readonly string[]
): Promise<{ roomId: string; device: DeviceView }[]> {
  const rows = await tx.sql<Row>('select * from lamps_of($1::uuid[])', deviceIds);
  return rows.map((row) => ({ roomId: row.room_id, device: viewOf(row) }));
}

export async function devicesOfRoom(tx: Tx, roomId: string): Promise<DeviceView[]> {
  const rows = await tx.sql<Row>(
    `select l.* from lamps_of(array(select device_id from device where room_id = $1 and retired_at is null)) l
     order by l.name`,
    roomId
  );
  return rows.map(viewOf);
}

/** A device of the room, and what it waits for. */
export interface RoomDevice extends Choosable {
  slotId: string | null;
}

/** The devices of the room where a tray's visit is, those that wait for the tray among them. */
export const devicesAround = (tx: Tx, trayId: string): Promise<RoomDevice[]> =>
  tx.sql(
    `select d.device_id as "deviceId", d.kind, d.lamp = 'absent' as absent, a.tray_id as "trayId", a.slot_id as "slotId"
     from tray t join visit v using (visit_id) join device d on d.clinic_id = t.clinic_id
     left join arming a using (arming_id)
     where t.tray_id = $1 and d.retired_at is null and (d.room_id = v.room_id or a.tray_id = t.tray_id) order by d.name`,
    trayId
  );

/** The room of a device, the time zone of its clinic, and what its pictures open with, as stored. */
export interface DevicePlace {
  roomId: string;
  timeZone: string;
  opensWith: unknown;
}
export async function placeOfDevice(tx: Tx, deviceId: string): Promise<DevicePlace> {
  const row = await tx.one<DevicePlace>(
    `select d.room_id as "roomId", c.time_zone as "timeZone", l.body->'look' as "opensWith"
     from device d join clinic c using (clinic_id)
     left join own_look l on l.clinic_id = d.clinic_id and l.look_id = d.opens_with where d.device_id = $1`,
    deviceId
  );
  return row!;
}
