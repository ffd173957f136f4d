import type { Tx } from '../database/connection';

export interface AuditCheck {
  lines: number;
  /** Numbers of lines that were changed, or that are missing, or whose link to the one before is broken. */
  wrong: number[];
}

/** Goes through the whole chain: every line's own hash, its link to the one before, and that the last is the last. */
export const checkAudit = (tx: Tx): Promise<AuditCheck> => checkFrom(tx, { seq: 0, hash: Buffer.alloc(0) });

/** The same for what was added since it was last found whole; notes how far it is whole now. */
export async function checkNewLines(tx: Tx): Promise<AuditCheck> {
  const row = await tx.one<{ seq: string; hash: Buffer }>(
    'select seq, hash from audit_checked where clinic_id = $1',
    tx.clinicId
  );
  const from = row ? { seq: Number(row.seq), hash: row.hash } : { seq: 0, hash: Buffer.alloc(0) };
  const check = await checkFrom(tx, from);
  await noteChecked(tx, check);
  return check;
}

/** Notes that the chain is whole up to its end, or (found broken) that nothing of it is taken for whole. */
export async function noteChecked(tx: Tx, { wrong }: AuditCheck): Promise<void> {
  if (wrong.length > 0) {
    await tx.sql('delete from audit_checked where clinic_id = $1', tx.clinicId);
    return;
  }
  await tx.sql(
    `insert into audit_checked (clinic_id, seq, hash) select clinic_id, seq, hash from audit_head where clinic_id = $1
     on conflict (clinic_id) do update set seq = excluded.seq, hash = excluded.hash, at = now()`,
    tx.clinicId
  );
}

async function checkFrom(tx: Tx, from: { seq: number; hash: Buffer }): Promise<AuditCheck> {
  const rows = await tx.sql<{ seq: string }>(
    `with chain as (
       select l.seq, l.hash, l.previous_hash, audit_hash(l) as own,
              lag(l.seq, 1, $2::bigint) over (order by l.seq) as before_seq,
              lag(l.hash, 1, $3::bytea) over (order by l.seq) as before_hash
       from audit_line l where l.clinic_id = $1 and l.seq > $2)
     select seq from chain where hash <> own or previous_hash <> before_hash or seq <> before_seq + 1
     union
     select h.seq from audit_head h where h.clinic_id = $1 and h.seq > 0
       and not exists (select 1 from audit_line l where l.clinic_id = $1 and l.seq = h.seq and l.hash = h.hash)
     union
     select $2::bigint where $2 > 0
       and not exists (select 1 from audit_line l where l.clinic_id = $1 and l.seq = $2 and l.hash = $3)
     order by seq`,
    tx.clinicId,
    from.seq,
    from.hash
  );
  const [{ count }] = await tx.sql<{ count: string }>('select count(*) from audit_line');
  return { lines: Number(count), wrong: rows.map((row) => Number(row.seq)) };
}

export interface AuditLine {
  seq: number;
  at: Date;
  who: string;
  userId: string | null;
  act: string;
  subject: string;
  details: Record<string, unknown>;
  /** The patient it is about, as the chart has the name now. */
  patient: { patientId: string; name: string; recordNumber: string } | null;
  /** Which picture of the visit, where it is about one. */
  picture: { number: number; visitId: string } | null;
}

export async function latestAudit(tx: Tx, limit: number, before: number | null = null): Promise<AuditLine[]> {
  const rows = await tx.sql<{
    seq: string;
    at: Date;
    who: string;
    user_id: string | null;
    act: string;
    subject: string;
    details: Record<string, unknown>;
    patient_id: string | null;
    name: string | null;
    record_number: string | null;
    number: number | null;
    visit_id: string | null;
  }>(
    `select l.seq, l.at, l.who, l.user_id, l.act, l.subject, l.details, t.patient_id,
       trim(t.given_name || ' ' || t.family_name) as name, t.record_number, p.number, p.visit_id
     from (select * from audit_line where clinic_id = $1 and ($3::bigint is null or seq < $3) order by seq desc limit $2) l
     left join picture p on p.clinic_id = l.clinic_id
       and p.picture_id = case when l.subject ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' then l.subject::uuid end
     left join patient t on t.clinic_id = l.clinic_id and t.patient_id = coalesce(l.patient_id, p.patient_id)
     order by l.seq desc`,
    tx.clinicId,
    limit,
    before
  );
  return rows.map((row) => ({
    seq: Number(row.seq),
    at: row.at,
    who: row.who,
    userId: row.user_id,
    act: row.act,
    subject: row.subject,
    details: row.details,
    patient: row.patient_id
      ? { patientId: row.patient_id, name: row.name ?? '', recordNumber: row.record_number ?? '' }
      : null,
    picture: row.number === null ? null : { number: row.number, visitId: row.visit_id! }
  }));
}
