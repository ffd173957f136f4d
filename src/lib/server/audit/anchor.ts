import fs from 'node:fs';
import { auditAnchorFile } from '../config';
import { type Tx, inClinic } from '../database/connection';

/** The newest line of a clinic's audit at some moment, as it was noted outside the records. */
export interface Anchor {
  at: string;
  clinicId: string;
  seq: number;
  /** Hexadecimal. */
  hash: string;
}

/** How much of the file's end is looked at: months of a busy clinic. An end that is missing is missing for the newest. */
const readBytes = 4 * 1024 * 1024;
const line = /^(\S+) ([0-9a-f-]{36}) (\d+) ([0-9a-f]{64})$/;

/** What was noted lately, the oldest first. A line that is cut off (the disk was full) is left out. */
export function anchors(): Anchor[] {
  return endOf(auditAnchorFile())
    .split('\n')
    .flatMap((each) => {
      const match = line.exec(each);
      return match ? [{ at: match[1], clinicId: match[2], seq: Number(match[3]), hash: match[4] }] : [];
    });
}

function endOf(file: string): string {
  if (!fs.existsSync(file)) return '';
  const handle = fs.openSync(file, 'r');
  try {
    const { size } = fs.fstatSync(handle);
    const buffer = Buffer.alloc(Math.min(size, readBytes));
    const read = fs.readSync(handle, buffer, 0, buffer.length, size - buffer.length);
    return buffer.toString('latin1', 0, read);
  } finally {
    fs.closeSync(handle);
  }
}

/**
 * Notes the newest line of a clinic in a file beside the records, unless it is noted already: who cuts lines off the end
 * of the records would have to change this too.
 */
export async function anchorHead(clinicId: string): Promise<void> {
  const head = await inClinic(clinicId, (tx) =>
    tx.one<{ seq: string; hash: Buffer }>('select seq, hash from audit_head where clinic_id = $1', clinicId)
  );
  if (!head) return;
  const last = anchors().findLast((each) => each.clinicId === clinicId);
  const hash = head.hash.toString('hex');
  if (last && last.hash === hash) return;
  const file = auditAnchorFile();
  const text = `${new Date().toISOString()} ${clinicId} ${head.seq} ${hash}\n`;
  const handle = await fs.promises.open(file, 'a', 0o600);
  try {
    await handle.write(text);
    await handle.datasync();
  } finally {
    await handle.close();
  }
}

/** The first anchor whose line is not in the records any more, or is another one; null when all are there. */
export async function lostAnchor(tx: Tx): Promise<Anchor | null> {
  const ofClinic = anchors().filter((each) => each.clinicId === tx.clinicId);
  if (ofClinic.length === 0) return null;
  const rows = await tx.sql<{ seq: string }>(
    `select a.seq from jsonb_to_recordset($2::jsonb) as a (seq bigint, hash text)
     where not exists (select 1 from audit_line l
       where l.clinic_id = $1 and l.seq = a.seq and encode(l.hash, 'hex') = a.hash) order by a.seq limit 1`,
    tx.clinicId,
    JSON.stringify(ofClinic.map(({ seq, hash }) => ({ seq, hash })))
  );
  return rows.length === 0 ? null : ofClinic.find((each) => each.seq === Number(rows[0].seq))!;
}
