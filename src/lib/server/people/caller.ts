import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { Problem } from '../problem';
import type { Notation } from '../../core/anatomy/teeth';
import type { Writing } from '../../core/time/language';
import { type Permission, type Role, may, permissions, roleWords } from './roles';

/** Who asks. Every service takes it first. */
export interface Caller extends Writing {
  userId: string;
  /** Hash of the session's token, by which the records know who writes; hexadecimal. */
  session: string;
  clinicId: string;
  role: Role;
  name: string;
  clinicName: string;
  notation: Notation;
}

/** Throws a Problem, and leaves an audit line, when the caller's role does not allow it. */
export async function demand(caller: Caller, permission: Permission, subject: string): Promise<void> {
  if (may(caller.role, permission)) return;
  await inClinic(caller.clinicId, (tx) => writeAudit(tx, caller, 'refused', subject, { permission }));
  const who = (permissions[permission] as Role[]).map((role) => roleWords[role]).join(' or ');
  throw new Problem(
    'not-allowed',
    `To ${permission} takes the role ${who}; you are signed in as ${roleWords[caller.role]}.`,
    'Ask a colleague with that role, or sign in as one.',
    403
  );
}
