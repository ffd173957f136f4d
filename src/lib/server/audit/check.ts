import type { Tx } from '../database/connection';

export interface AuditCheck {
  lines: number;
  /** Numbers of lines that were changed, or that are missing, or whose link to the one before is broken. */
  wrong: number[];
}

/** Goes through the whole chain: every line's own hash, its link to the one before, and that the last is the last. */
export async function checkAudit(tx: Tx): Promise<AuditCheck> {
  const rows = await tx.sql<{ seq: string }>(
    `with chain as (
       select l.seq, l.hash, l.previous_hash, audit_hash(l) as own,
              lag(l.seq, 1, 0::bigint) over (order by l.seq) as before_seq,
              lag(l.hash, 1, ''::bytea) over (order by l.seq) as before_hash
       from audit_line l where l.clinic_id = $1)
     select seq from chain where hash <> own or previous_hash <> before_hash or seq <> before_seq + 1
     union
     select h.seq from audit_head h where h.clinic_id = $1 and h.seq > 0
       and not exists (select 1 from chain where seq = h.seq and hash = h.hash)
     order by seq`,
    tx.clinicId
  );
  const [{ count }] = await tx.sql<{ count: string }>('select count(*) from audit_line');
  return { lines: Number(count), wrong: rows.map((row) => Number(row.seq)) };
}

export interface AuditLine {
  seq: number;
  at: Date;
  who: string;
  act: string;
  subject: string;
  details: Record<string, unknown>;
}

export async function latestAudit(tx: Tx, limit: number): Promise<AuditLine[]> {
  const rows = await tx.sql<AuditLine & { seq: string }>(
    'select seq, at, who, act, subject, details from audit_line order by seq desc limit $1',
    limit
  );
  return rows.map((row) => ({ ...row, seq: Number(row.seq) }));
}
