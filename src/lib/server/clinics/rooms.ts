import { z } from 'zod';
import type { Trade } from '../../core/tray/pattern';
import { type Pedal, pedalSchema, pedalWish } from '../../core/visit/pedal';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic, within } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { patternChoices } from '../trays/patterns';
import { Room } from './roomModel';

/** A room as its settings show it. */
export interface RoomSettings {
  roomId: string;
  name: string;
  trade: Trade;
  usualPattern: string | null;
  opensArmed: boolean;
  pedal: Pedal;
  /** What its visits could begin with. */
  patterns: { id: string; name: string }[];
}

export async function roomSettings(caller: Caller): Promise<RoomSettings[]> {
  await demand(caller, 'view charts', 'rooms');
  return inClinic(caller.clinicId, async (tx) => {
    const rooms = await Room.findAll({ order: [['place', 'asc']], ...within(tx) });
    return Promise.all(
      rooms.map(async ({ roomId, name, trade, usualPattern, opensArmed, pedal }) => ({
        roomId,
        name,
        trade,
        usualPattern,
        opensArmed,
        pedal: pedalSchema.parse(pedal),
        patterns: (await patternChoices(tx, trade, caller.userId)).map((each) => ({
          id: each.pattern.id,
          name: each.name
        }))
      }))
    );
  });
}

/** The rooms of the clinic in their order. */
export async function roomsSeen(
  caller: Caller
): Promise<{ roomId: string; name: string; trade: Room['trade'] }[]> {
  await demand(caller, 'view charts', 'rooms');
  return inClinic(caller.clinicId, async (tx) => {
    const rooms = await Room.findAll({ order: [['place', 'asc']], ...within(tx) });
    return rooms.map(({ roomId, name, trade }) => ({ roomId, name, trade }));
  });
}

export const roomWish = z.strictObject({
  usualPattern: z.uuid().nullable(),
  opensArmed: z.boolean(),
  pedal: pedalWish
});

/** What a room's visits begin with, and what its pedal does. */
export async function changeRoom(
  caller: Caller,
  key: string,
  roomId: string,
  wish: z.infer<typeof roomWish>
): Promise<object> {
  await demand(caller, 'change settings', roomId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const room = z.uuid().safeParse(roomId).success ? await Room.findByPk(roomId, within(tx)) : null;
      if (!room) throw notFound('This room');
      const known = await patternChoices(tx, room.trade, caller.userId);
      if (wish.usualPattern && !known.some(({ pattern }) => pattern.id === wish.usualPattern))
        throw notFound('This pattern');
      await room.update(wish, within(tx));
      await writeAudit(tx, caller, 'setting changed', roomId, { room: room.name });
      return {};
    })
  );
}
