import { randomInt } from 'node:crypto';
import { beforeClinic, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';

/** What stands behind the @ of the clinic's own addresses. */
export const mailDomain = (): string => process.env.YONDER_MAIL_DOMAIN ?? 'yonder.example';

const signs = 'abcdefghjkmnpqrstuvwxyz23456789';
const secretSigns = 8;

/** Somebody's own address, which nobody guesses; made when it is looked at for the first time. */
export async function mailAddressOf(caller: Caller): Promise<string> {
  await demand(caller, 'view charts', 'mail address');
  return inClinic(caller.clinicId, async (tx) => {
    const secret = Array.from({ length: secretSigns }, () => signs[randomInt(signs.length)]).join('');
    const name =
      caller.name
        .split(/\s+/)[0]
        .toLowerCase()
        .replace(/[^a-z]/g, '') || 'somebody';
    const row = await tx.one<{ mail_name: string }>(
      'update user_account set mail_name = coalesce(mail_name, $2) where user_id = $1 returning mail_name',
      caller.userId,
      `${name}.${secret}`
    );
    return `${row!.mail_name}@${mailDomain()}`;
  });
}

export interface MailOwner {
  clinicId: string;
  userId: string;
  name: string;
  timeZone: string;
}

/** Whose an address is; null for one that is nobody's. */
export async function ownerOfAddress(address: string): Promise<MailOwner | null> {
  const at = address.lastIndexOf('@');
  if (at < 1 || address.slice(at + 1).toLowerCase() !== mailDomain()) return null;
  const [row] = await beforeClinic<{
    clinic_id: string;
    user_id: string;
    display_name: string;
    time_zone: string;
  }>('select * from person_of_mail($1)', address.slice(0, at));
  return row
    ? { clinicId: row.clinic_id, userId: row.user_id, name: row.display_name, timeZone: row.time_zone }
    : null;
}
