import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { speakingKinds } from '../../core/devices/deviceKind';
import { writeAudit } from '../audit/write';
import { Room } from '../clinics/roomModel';
import { type Tx, beforeClinic, inClinic, within } from '../database/connection';
import { newId, newToken, sha256 } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { countTry, tries } from '../people/tries';
import { Problem, notFound } from '../problem';
import { lampNews } from './arming';
import { Device } from './deviceModel';

/** A code is for one device that somebody is setting up at this moment. */
const codeMinutes = 30;
const wrongCodesAllowed = 10;
const wrongCodesMinutes = 10;
/** Letters and digits that are not taken for one another: 31 of them, twelve times, are 59 bits. */
const signs = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';

const newCode = (): string =>
  Array.from({ length: 3 }, () =>
    Array.from({ length: 4 }, () => signs[randomInt(signs.length)]).join('')
  ).join('-');

/** As it was typed: small letters, spaces and dashes don't count. */
export const codeHash = (code: string): Buffer => sha256(code.toUpperCase().replace(/[^A-Z0-9]/g, ''));

export const codeWish = z.strictObject({
  roomId: z.uuid(),
  /** The device whose place the new one takes, under its name. */
  replaces: z.uuid().nullable()
});

/** An administrator's word that one device may come into a room; a code that works once, for half an hour. */
export async function enrol(
  caller: Caller,
  { roomId, replaces }: z.infer<typeof codeWish>
): Promise<{ code: string; expiresAt: string }> {
  await demand(caller, 'change settings', 'devices');
  const code = newCode();
  const expiresAt = new Date(Date.now() + codeMinutes * 60_000);
  await inClinic(caller.clinicId, async (tx) => {
    const room = await Room.findByPk(roomId, within(tx));
    if (!room || room.closedAt) throw notFound('This room');
    const device = replaces ? await Device.findByPk(replaces, within(tx)) : null;
    if (replaces && !device) throw notFound('This device');
    await tx.sql(
      `insert into enrolment (code_hash, clinic_id, room_id, device_id, made_by, expires_at) values ($1, $2, $3, $4, $5, $6)`,
      codeHash(code),
      tx.clinicId,
      roomId,
      replaces,
      caller.userId,
      expiresAt
    );
    await tx.sql(`delete from enrolment where expires_at < now() - interval '1 day'`);
    await writeAudit(tx, caller, 'device enrolled', room.name, device ? { replaces: device.name } : {});
  });
  return { code, expiresAt: expiresAt.toISOString() };
}

export interface EnrolledDevice {
  deviceId: string;
  name: string;
  kind: string;
  room: string;
  lastHeard: string;
  /** The clinic's own look that its pictures open with. */
  opensWith: string | null;
  roomId: string;
  /** Since when it is not let in any more, ISO. */
  retiredAt: string | null;
}

export async function devicesEnrolled(caller: Caller): Promise<EnrolledDevice[]> {
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{
      device_id: string;
      name: string;
      kind: string;
      room: string;
      lamp_at: Date;
      opens_with: string | null;
      room_id: string;
      retired_at: Date | null;
    }>(
      `select d.device_id, d.name, d.kind, r.name as room, d.lamp_at, d.opens_with, d.room_id, d.retired_at from device d join room r using (room_id)
       where d.clinic_id = $1 order by d.retired_at is not null, r.place, d.name`,
      tx.clinicId
    );
    return rows.map((row) => ({
      deviceId: row.device_id,
      name: row.name,
      kind: row.kind,
      room: row.room,
      lastHeard: row.lamp_at.toISOString(),
      opensWith: row.opens_with,
      roomId: row.room_id,
      retiredAt: row.retired_at?.toISOString() ?? null
    }));
  });
}

export const registration = z.object({
  code: z.string().min(1).max(200),
  name: z.string().trim().min(1).max(60),
  kind: z.enum(speakingKinds),
  /** Of a plate scanner: how fine it can read, and what each costs. The first is the usual one. */
  finenesses: z
    .array(
      z.object({
        id: z.string().min(1).max(20),
        words: z.string().min(1).max(40),
        pitchMm: z.number().positive().max(1),
        secondsPerPlate: z.number().positive().max(600)
      })
    )
    .max(6)
    .default([])
});

const wrongCodes = () => tries('enrol', wrongCodesAllowed, wrongCodesMinutes);

const tooManyCodes = () =>
  new Problem(
    'too-many-tries',
    `There were ${wrongCodesAllowed} tries with enrolment codes from this address in ${wrongCodesMinutes} minutes.`,
    `Wait ${wrongCodesMinutes} minutes, then enter a fresh code from the settings.`,
    429
  );

const wrongCode = () =>
  new Problem(
    'wrong-code',
    'This enrolment code is wrong, was used already, or is older than half an hour.',
    'Ask an administrator for a fresh one from the settings.',
    401
  );

/** A device makes itself known with a code that an administrator gave, and gets the token it shows from then on. */
export async function register(
  wish: z.input<typeof registration>,
  address: string
): Promise<{ deviceId: string; token: string }> {
  await countTry(wrongCodes(), address, tooManyCodes());
  const hash = codeHash(wish.code);
  const [row] = await beforeClinic<{ clinic_id: string }>('select * from clinic_of_enrolment($1)', hash);
  if (!row) throw wrongCode();
  const token = newToken();
  const deviceId = await inClinic(row.clinic_id, (tx) =>
    admitted(tx, hash, registration.parse(wish), sha256(token))
  );
  await wrongCodes()
    .delete(address)
    .catch(() => {});
  return { deviceId, token };
}

async function admitted(
  tx: Tx,
  hash: Buffer,
  { name, kind, finenesses }: z.infer<typeof registration>,
  tokenHash: Buffer
): Promise<string> {
  const code = await tx.one<{ room_id: string; device_id: string | null }>(
    `update enrolment set used_at = now() where code_hash = $1 and used_at is null and expires_at > now()
     returning room_id, device_id`,
    hash
  );
  if (!code) throw wrongCode();
  const named = await Device.findOne({ where: { name }, lock: true, ...within(tx) });
  // A code for the place of another one is for that place, however the new device calls itself.
  const known = code.device_id
    ? await Device.findByPk(code.device_id, { lock: true, ...within(tx) })
    : named?.retiredAt
      ? named
      : null;
  if (named && !named.retiredAt && named.deviceId !== known?.deviceId) {
    throw new Problem(
      'name-taken',
      `A device called ${name} is at this clinic already.`,
      'Give this one another name, or ask an administrator for a code that puts it in the other’s place.',
      409
    );
  }
  const roomId = code.room_id;
  const device = known
    ? await known.update(
        { tokenHash, roomId, kind, finenesses, retiredAt: null, lamp: 'resting' },
        within(tx)
      )
    : await Device.create(
        {
          deviceId: newId(),
          clinicId: tx.clinicId,
          roomId,
          name,
          kind,
          finenesses,
          tokenHash,
          lamp: 'resting'
        },
        within(tx)
      );
  const { deviceId } = device;
  await announce(tx, { topic: 'device-over', deviceId }, ...(await lampNews(tx, [deviceId])));
  await writeAudit(tx, { system: 'enrolment' }, 'device registered', deviceId, { name, kind });
  return deviceId;
}
