import { z } from 'zod';
import { dayOf, dayRange } from '../../core/time/clinicTime';
import { type Trade, trades } from '../../core/tray/pattern';
import { type Pedal, pedalSchema, pedalWish } from '../../core/visit/pedal';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
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

/** Rooms that are in use, in their order. */
export const openRooms = (tx: Tx): Promise<Room[]> =>
  Room.findAll({ where: { closedAt: null }, order: [['place', 'asc']], ...within(tx) });

export async function roomSettings(caller: Caller): Promise<RoomSettings[]> {
  await demand(caller, 'view charts', 'rooms');
  return inClinic(caller.clinicId, async (tx) => {
    const rooms = await openRooms(tx);
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
    const rooms = await openRooms(tx);
    return rooms.map(({ roomId, name, trade }) => ({ roomId, name, trade }));
  });
}

const roomName = z.string().trim().min(1, 'Give the room a name.').max(40);
export const newRoomWish = z.strictObject({ name: roomName, trade: z.enum(trades) });
export const roomWish = z.strictObject({
  name: roomName,
  usualPattern: z.uuid().nullable(),
  opensArmed: z.boolean(),
  pedal: pedalWish
});

/** How a room is called, what its visits begin with, and what its pedal does. */
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
      if (!room || room.closedAt) throw notFound('This room');
      await demandFree(tx, wish.name, roomId);
      const known = await patternChoices(tx, room.trade, caller.userId);
      if (wish.usualPattern && !known.some(({ pattern }) => pattern.id === wish.usualPattern))
        throw notFound('This pattern');
      await room.update(wish, within(tx));
      await writeAudit(tx, caller, 'setting changed', roomId, { room: room.name });
      return {};
    })
  );
}

const mostRooms = 60;

/** @throws Problem where another room is called so */
async function demandFree(tx: Tx, name: string, own: string | null): Promise<void> {
  const others = (await openRooms(tx)).filter(({ roomId }) => roomId !== own);
  if (others.some((each) => each.name.toLowerCase() === name.toLowerCase()))
    throw new Problem(
      'name-taken',
      `There is a room called ${name} already.`,
      'Give this one another name.',
      409
    );
}

/** A room more, behind the others. */
export async function addRoom(
  caller: Caller,
  key: string,
  { name, trade }: z.infer<typeof newRoomWish>
): Promise<{ roomId: string }> {
  await demand(caller, 'change settings', 'rooms');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await demandFree(tx, name, null);
      const all = await Room.findAll(within(tx));
      if (all.length >= mostRooms)
        throw new Problem(
          'too-many-rooms',
          `The clinic has ${mostRooms} rooms already.`,
          'Rename one that is not used.',
          409
        );
      const place = Math.max(0, ...all.map((each) => each.place)) + 1;
      const roomId = newId();
      await Room.create({ roomId, clinicId: tx.clinicId, name, trade, place }, within(tx));
      await writeAudit(tx, caller, 'setting changed', roomId, { room: name, added: trade });
      return { roomId };
    })
  );
}

/** Closes a room: nothing is taken there any more, and what was taken there stays. */
export async function closeRoom(caller: Caller, key: string, roomId: string): Promise<object> {
  await demand(caller, 'change settings', roomId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const room = z.uuid().safeParse(roomId).success ? await Room.findByPk(roomId, within(tx)) : null;
      if (!room || room.closedAt) throw notFound('This room');
      const { start } = dayRange(dayOf(new Date(), caller.timeZone), caller.timeZone);
      const used = await tx.one<{ devices: number; coming: number; today: number; rooms: number }>(
        `select (select count(*)::int from device where room_id = $1 and retired_at is null) as devices,
           (select count(*)::int from appointment where room_id = $1 and starts_at >= $2 and visit_id is null) as coming,
           (select count(*)::int from visit where room_id = $1 and opened_at >= $2) as today,
           (select count(*)::int from room where clinic_id = $3 and closed_at is null) as rooms`,
        roomId,
        start,
        tx.clinicId
      );
      const why = inUseWords(used!);
      if (why) throw new Problem('room-in-use', `${room.name} can’t be closed: ${why[0]}.`, why[1], 409);
      await room.update({ closedAt: new Date() }, within(tx));
      await writeAudit(tx, caller, 'setting changed', roomId, { room: room.name, closed: true });
      return {};
    })
  );
}

function inUseWords(used: {
  devices: number;
  coming: number;
  today: number;
  rooms: number;
}): [why: string, next: string] | null {
  if (used.rooms <= 1) return ['it is the clinic’s last room', 'Add another one first.'];
  if (used.devices > 0)
    return ['devices stand in it', 'Move them to another room at Devices, or retire them.'];
  if (used.coming > 0) return ['appointments are made for it', 'Have them moved to another room first.'];
  if (used.today > 0) return ['there were visits in it today', 'Close it tomorrow.'];
  return null;
}
