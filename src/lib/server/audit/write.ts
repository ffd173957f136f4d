import type { Tx } from '../database/connection';

export const auditActs = [
  'signed in',
  'sign-in failed',
  'signed out',
  'chart viewed',
  'visit opened',
  'exposure stored',
  'file brought in',
  'tray changed',
  'picture changed',
  'linked to teeth',
  'linked to places',
  'leaving shown',
  'sending asked',
  'delivered',
  'setting changed',
  'device registered',
  'refused'
] as const;
export type AuditAct = (typeof auditActs)[number];

/** Adds a line to the clinic's audit. Write it last in a transaction: it holds the clinic's chain until the end. */
export async function writeAudit(
  tx: Tx,
  who: string,
  act: AuditAct,
  subject: string,
  details: Record<string, unknown> = {}
): Promise<void> {
  await tx.sql(
    `insert into audit_line (clinic_id, seq, at, who, act, subject, details, previous_hash, hash)
     values ($1, 0, now(), $2, $3, $4, $5::jsonb, '', '')`,
    tx.clinicId,
    who,
    act,
    subject,
    JSON.stringify(details)
  );
}
