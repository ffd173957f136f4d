import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { logoTooLarge } from './cleanLogo';
import { openOutsideLogo } from '../work/processes';

/** What stands at the head of the clinic's papers beside its name. */
export interface Letterhead {
  /** In lines; empty where nobody has given one. */
  address: string;
  /** As a PNG; null where there is none. */
  logo: Buffer | null;
}

export async function letterhead(tx: Tx): Promise<Letterhead> {
  const row = await tx.one<Letterhead>('select address, logo from letterhead');
  return row ?? { address: '', logo: null };
}

export const letterheadOf = (caller: Caller): Promise<Letterhead> => inClinic(caller.clinicId, letterhead);

interface HeadSeen {
  address: string;
  hasLogo: boolean;
}
/** The same without the picture itself, which is large. */
export const headSeen = async (tx: Tx): Promise<HeadSeen> =>
  (await tx.one<HeadSeen>('select address, logo is not null as "hasLogo" from letterhead')) ?? {
    address: '',
    hasLogo: false
  };
/** For a page, which has the logo from its own address. */
export const letterheadSeen = (caller: Caller): Promise<HeadSeen> => inClinic(caller.clinicId, headSeen);

export const addressWish = z.strictObject({
  address: z.string().trim().max(600, 'An address has at most 600 letters.')
});

export async function keepAddress(caller: Caller, { address }: z.infer<typeof addressWish>): Promise<object> {
  await demand(caller, 'change settings', 'letterhead');
  return inClinic(caller.clinicId, async (tx) => {
    await tx.sql(
      `insert into letterhead (clinic_id, address) values ($1, $2)
       on conflict (clinic_id) do update set address = excluded.address`,
      tx.clinicId,
      address
    );
    await writeAudit(tx, caller, 'setting changed', 'letterhead', { address: address || 'none' });
    return {};
  });
}

/** Opened where files from outside are, away from everything else. */
async function cleaned(bytes: Uint8Array): Promise<Uint8Array> {
  const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'logo-'));
  try {
    const file = path.join(folder, 'logo');
    await fs.writeFile(file, bytes);
    return await openOutsideLogo(file);
  } finally {
    await fs.rm(folder, { recursive: true, force: true });
  }
}

/** Keeps a logo, or none from now on. */
export async function keepLogo(
  caller: Caller,
  came: Uint8Array | { tooLarge: number } | null
): Promise<object> {
  await demand(caller, 'change settings', 'letterhead');
  if (came && 'tooLarge' in came) throw logoTooLarge(came.tooLarge);
  const logo = came ? await cleaned(came) : null;
  return inClinic(caller.clinicId, async (tx) => {
    await tx.sql(
      `insert into letterhead (clinic_id, address, logo) values ($1, '', $2)
       on conflict (clinic_id) do update set logo = excluded.logo`,
      tx.clinicId,
      logo && Buffer.from(logo)
    );
    await writeAudit(tx, caller, 'setting changed', 'letterhead', { logo: logo ? 'changed' : 'none' });
    return {};
  });
}
