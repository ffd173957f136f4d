import { randomUUID } from 'node:crypto';
import { openIntake } from '../arrivals/intakes';
import type { Sender } from '../arrivals/keeping';
import { writeAudit } from '../audit/write';
import { beforeClinic, inClinic } from '../database/connection';
import { tokenOf } from '../devices/devices';
import { sha256 } from '../ids';
import { clinicIds } from '../jobs/upkeep';
import { Problem } from '../problem';

/** A system outside that may send pictures here, by the name or the token it calls itself with; null for any other. */
async function systemOf(aeTitle: string | null, token: Buffer | null): Promise<Sender | null> {
  const [row] = await beforeClinic<{ clinic_id: string; name: string; time_zone: string }>(
    'select * from sender_of_system($1, $2)',
    aeTitle,
    token
  );
  return row
    ? {
        clinicId: row.clinic_id,
        source: 'network',
        name: row.name,
        roomId: null,
        userId: null,
        timeZone: row.time_zone,
        by: { system: 'network' }
      }
    : null;
}

const quietMs = 60_000;
const toldOf = new Map<string, number>();

/** A stranger called: written down in every clinic's audit, though not more than once a minute. */
async function noteStranger(called: string): Promise<void> {
  const now = Date.now();
  if (now - (toldOf.get(called) ?? 0) < quietMs) return;
  if (toldOf.size > 1_000) toldOf.clear();
  toldOf.set(called, now);
  for (const clinicId of await clinicIds())
    await inClinic(clinicId, (tx) => writeAudit(tx, { system: 'network' }, 'caller refused', called));
}

/** Who calls by an application entity title; null for a stranger, who is written down. */
export async function callerByTitle(aeTitle: string): Promise<Sender | null> {
  const title = aeTitle.trim();
  const known = title === '' ? null : await systemOf(title, null);
  if (!known) await noteStranger(`AE ${title.slice(0, 16) || 'without a title'}`);
  return known;
}

/** Who calls with a token. @throws Problem for a stranger */
export async function callerByToken(authorization: string | null): Promise<Sender> {
  const token = tokenOf(authorization);
  const known = token ? await systemOf(null, sha256(token)) : null;
  if (known) return known;
  await noteStranger('DICOMweb, a token that nobody has');
  throw new Problem(
    'unknown-caller',
    'This clinic does not know who sends this.',
    'Ask its administrator for a token and send it as a bearer token.',
    401
  );
}

/** What one association or one request brings. */
export const openNetworkIntake = (from: Sender): Promise<string> =>
  inClinic(from.clinicId, (tx) =>
    openIntake(tx, from, {
      source: 'network',
      name: from.name,
      said: null,
      forUser: null,
      key: `network ${randomUUID()}`
    })
  );
