import type { Tx } from '../database/connection';

export interface BlobRow {
  size: number;
  place: 'landed' | 'kept';
}

export const blobRow = (tx: Tx, digest: Buffer): Promise<BlobRow | undefined> =>
  tx.one(
    'select size::float8 as size, place from blob where clinic_id = $1 and sha256 = $2',
    tx.clinicId,
    digest
  );

/** @returns whether it was new */
export async function insertBlob(
  tx: Tx,
  digest: Buffer,
  size: number,
  place: BlobRow['place']
): Promise<boolean> {
  const row = await tx.one(
    `insert into blob (clinic_id, sha256, size, place) values ($1, $2, $3, $4)
     on conflict (clinic_id, sha256) do nothing returning size`,
    tx.clinicId,
    digest,
    size,
    place
  );
  return row !== undefined;
}

/** Takes a landed blob for moving it in; undefined when it is kept already, or somebody else moves it. */
export const holdLanded = (tx: Tx, digest: Buffer): Promise<object | undefined> =>
  tx.one(
    `select 1 from blob where clinic_id = $1 and sha256 = $2 and place = 'landed' for update skip locked`,
    tx.clinicId,
    digest
  );

export const markKept = (tx: Tx, digest: Buffer): Promise<unknown> =>
  tx.sql(`update blob set place = 'kept' where clinic_id = $1 and sha256 = $2`, tx.clinicId, digest);

export const insertPart = (tx: Tx, digest: Buffer, part: number, bytes: Buffer): Promise<unknown> =>
  tx.sql(
    'insert into blob_part (clinic_id, sha256, part, bytes) values ($1, $2, $3, $4)',
    tx.clinicId,
    digest,
    part,
    bytes
  );

export const partOf = (tx: Tx, digest: Buffer, part: number): Promise<{ bytes: Buffer } | undefined> =>
  tx.one(
    'select bytes from blob_part where clinic_id = $1 and sha256 = $2 and part = $3',
    tx.clinicId,
    digest,
    part
  );

/** Originals that have lain in the landing for a while: their job was lost, or failed for good. */
export const landedFor = (tx: Tx, seconds: number): Promise<{ sha256: Buffer }[]> =>
  tx.sql(
    `select sha256 from blob where clinic_id = $1 and place = 'landed' and stored_at < now() - make_interval(secs => $2)
     order by stored_at limit 200`,
    tx.clinicId,
    seconds
  );
