import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { Problem } from '../problem';
import type { Notation } from '../../core/anatomy/teeth';

export const roles = ['assistant', 'clinician', 'front-desk', 'administrator'] as const;
export type Role = (typeof roles)[number];

/** Who asks. Every service takes it first. */
export interface Caller {
  userId: string;
  clinicId: string;
  role: Role;
  name: string;
  clinicName: string;
  notation: Notation;
}

export const roleWords: Record<Role, string> = {
  assistant: 'assistant',
  clinician: 'clinician',
  'front-desk': 'front desk',
  administrator: 'administrator'
};

const permissions = {
  'view charts': ['assistant', 'clinician', 'front-desk', 'administrator'],
  acquire: ['assistant', 'clinician'],
  'bring in files': ['assistant', 'clinician', 'front-desk'],
  'change pictures': ['assistant', 'clinician'],
  confirm: ['clinician'],
  link: ['assistant', 'clinician', 'front-desk'],
  send: ['assistant', 'clinician', 'front-desk'],
  'change settings': ['administrator'],
  'read the audit': ['administrator']
} satisfies Record<string, Role[]>;
export type Permission = keyof typeof permissions;

export function may(role: Role, permission: Permission): boolean {
  return (permissions[permission] as Role[]).includes(role);
}

/** Throws a Problem, and leaves an audit line, when the caller's role does not allow it. */
export async function demand(caller: Caller, permission: Permission, subject: string): Promise<void> {
  if (may(caller.role, permission)) return;
  await inClinic(caller.clinicId, (tx) => writeAudit(tx, caller.name, 'refused', subject, { permission }));
  const who = (permissions[permission] as Role[]).map((role) => roleWords[role]).join(' or ');
  throw new Problem(
    'not-allowed',
    `To ${permission} takes the role ${who}; you are signed in as ${roleWords[caller.role]}.`,
    'Ask a colleague with that role, or sign in as one.',
    403
  );
}
