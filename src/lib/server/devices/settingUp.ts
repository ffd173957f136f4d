import { z } from 'zod';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { Room } from '../clinics/roomModel';
import { inClinic, within } from '../database/connection';
import { newToken, sha256 } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { arm, lampNews } from './arming';
import { Device } from './deviceModel';
import { roomDevice } from './devices';

export const deviceActs = z.discriminatedUnion('act', [
  z.strictObject({
    act: z.literal('set'),
    name: z.string().trim().min(1, 'Give the device a name.').max(60),
    roomId: z.uuid()
  }),
  z.strictObject({ act: z.literal('retire') })
]);

/** How a device is called and where it stands; or that it is not let in any more. */
export async function setDevice(
  caller: Caller,
  key: string,
  deviceId: string,
  wish: z.infer<typeof deviceActs>
): Promise<object> {
  await demand(caller, 'change settings', deviceId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const device = await roomDevice(tx, deviceId);
      if (wish.act === 'retire') {
        // What waits for it waits no longer; whoever has its token has nothing by it.
        await arm(tx, deviceId, null);
        await device.update(
          { retiredAt: new Date(), tokenHash: sha256(newToken()), lamp: 'absent' },
          within(tx)
        );
        await writeAudit(tx, caller, 'device retired', deviceId, { name: device.name });
      } else {
        const { name, roomId } = wish;
        const room = await Room.findByPk(roomId, within(tx));
        if (!room || room.closedAt) throw notFound('This room');
        const named = await Device.findOne({ where: { name }, ...within(tx) });
        if (named && named.deviceId !== deviceId)
          throw new Problem(
            'name-taken',
            `${named.retiredAt ? 'A device that was retired' : 'Another device'} is called ${name}.`,
            'Give this one another name.',
            409
          );
        if (roomId !== device.roomId) await arm(tx, deviceId, null);
        await device.update({ name, roomId }, within(tx));
        await writeAudit(tx, caller, 'setting changed', deviceId, { device: name, room: room.name });
      }
      await announce(tx, { topic: 'device-over', deviceId }, ...(await lampNews(tx, [deviceId])));
      return {};
    })
  );
}
