import { z } from 'zod';
import type { Settled } from '../../core/devices/choose';
import { deviceUses } from '../../core/devices/deviceKind';
import type { Tx } from '../database/connection';

const deviceMark = 'device ';
const patternMark = 'pattern';

async function remember(tx: Tx, userId: string, roomId: string, what: string, value: string): Promise<void> {
  await tx.sql(
    `insert into habit (clinic_id, user_id, room_id, what, value) values ($1, $2, $3, $4, $5)
     on conflict (clinic_id, user_id, room_id, what) do update set value = excluded.value, at = now()`,
    tx.clinicId,
    userId,
    roomId,
    what,
    value
  );
}

/** Which devices an operator took in a room, the last of each use. */
export async function rememberHabit(tx: Tx, userId: string, roomId: string, used: Settled): Promise<void> {
  for (const [use, deviceId] of Object.entries(used))
    await remember(tx, userId, roomId, `${deviceMark}${use}`, deviceId);
}

/** The operator's own habit, and where there is none, the room's: what anyone took there last. */
export async function habitOf(tx: Tx, userId: string, roomId: string): Promise<Settled> {
  const rows = await tx.sql<{ what: string; value: string }>(
    `select distinct on (what) what, value from habit h where room_id = $2 and what like $3
       and exists (select 1 from device d where d.device_id::text = h.value and d.room_id = h.room_id)
     order by what, (user_id = $1) desc, at desc`,
    userId,
    roomId,
    `${deviceMark}%`
  );
  return Object.fromEntries(
    rows.flatMap(({ what, value }) => {
      const use = z.enum(deviceUses).safeParse(what.slice(deviceMark.length));
      return use.success ? [[use.data, value]] : [];
    })
  );
}

/** The pattern that an operator laid in a room the last time. */
export const rememberPattern = (tx: Tx, userId: string, roomId: string, patternId: string): Promise<void> =>
  remember(tx, userId, roomId, patternMark, patternId);

export async function habitualPattern(tx: Tx, userId: string, roomId: string): Promise<string | null> {
  const row = await tx.one<{ value: string }>(
    'select value from habit where user_id = $1 and room_id = $2 and what = $3',
    userId,
    roomId,
    patternMark
  );
  return row?.value ?? null;
}
