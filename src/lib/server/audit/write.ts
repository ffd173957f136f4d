import type { Tx } from '../database/connection';
import { signedOut } from '../problem';

export const auditActs = [
  'signed in',
  'sign-in failed',
  'signed out',
  'chart viewed',
  'visit viewed',
  'picture viewed',
  'searched',
  'visit opened',
  'visit closed',
  'visit opened again',
  'exposure stored',
  'file brought in',
  'paper brought in',
  'paper viewed',
  'paper changed',
  'arrived',
  'arrival given',
  'arrival put away',
  'arrivals sent back',
  'arrivals sorted',
  'arrival removed',
  'intake begun',
  'intake ended',
  'mail refused',
  'caller refused',
  'phone paired',
  'phone pairing ended',
  'tray changed',
  'picture changed',
  'picture moved',
  'picture deleted',
  'picture brought back',
  'picture taken back to Arrivals',
  'picture removed',
  'categories changed',
  'filed under a category',
  'letter begun',
  'letter changed',
  'letter dropped',
  'story written',
  'charts joined',
  'charts parted',
  'advice answered',
  'pattern kept',
  'patient entered',
  'opened by link',
  'linked to teeth',
  'linked to places',
  'leaving shown',
  'attribute said',
  'pseudonym looked up',
  'veils laid',
  'looked for names',
  'parcel handled',
  'parcel fetched',
  'case made',
  'case changed',
  'taken out',
  'sending asked',
  'delivered',
  'not kept',
  'setting changed',
  'device enrolled',
  'device registered',
  'device retired',
  'refused'
] as const;
export type AuditAct = (typeof auditActs)[number];

/** Acts whose line tells of changes of settings, each of which can be taken back. */
export const tellOfSettings: ReadonlySet<string> = new Set<AuditAct>([
  'setting changed',
  'categories changed',
  'pattern kept'
]);

/** Parts of the program that do something nobody asked for at that moment. */
export type SystemPart =
  'dispatch' | 'door' | 'enrolment' | 'demo' | 'practice system' | 'mail' | 'network' | 'upkeep';

/**
 * Who does something, as the records themselves can check it: a session or a device by the hash of what it shows, or a
 * part of the program. Names are never taken from whoever writes.
 */
export interface By {
  /** Hexadecimal. */
  session?: string;
  device?: Buffer;
  system?: SystemPart;
}

export interface AuditMore {
  patientId?: string | null;
  [detail: string]: unknown;
}

/**
 * Adds a line to the clinic's audit. Write it last in a transaction: it holds the clinic's chain until the end.
 * @throws Problem when the session is over
 */
export async function writeAudit(
  tx: Tx,
  by: By,
  act: AuditAct,
  subject: string,
  { patientId = null, ...details }: AuditMore = {}
): Promise<void> {
  try {
    await tx.sql(
      'select write_audit($1, $2, $3, $4, $5, $6::jsonb, $7)',
      by.session ? Buffer.from(by.session, 'hex') : null,
      by.device ?? null,
      by.system ?? null,
      act,
      subject,
      JSON.stringify(details),
      patientId
    );
    if (tellOfSettings.has(act))
      await tx.sql(
        `update setting_change set audit_seq = (select max(seq) from audit_line where clinic_id = $1)
         where transaction = pg_current_xact_id()::text and audit_seq is null`,
        tx.clinicId
      );
  } catch (error) {
    if ((error as { parent?: { code?: string } }).parent?.code !== '28000') throw error;
    throw signedOut();
  }
}
