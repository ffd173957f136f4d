import { z } from 'zod';
import { type SaidAttribute, misfit, mostSaid, saidAttributes, unsayable } from '../../core/dicom/said';
import { attributeName } from '../../core/dicom/dictionary';
import { readVersioned } from '../../core/versioned';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import type { PictureRow } from '../pictures/queries';
import { pictureRow } from '../pictures/views';
import { Problem } from '../problem';

/** Whether a picture came without attributes: those of a DICOM file are its own, and nobody writes over them. */
export const maySay = ({ media_type: type }: Pick<PictureRow, 'media_type'>): boolean =>
  type !== 'application/dicom';

/** What somebody said of a picture. */
export async function saidOf(tx: Tx, pictureId: string): Promise<SaidAttribute[]> {
  const row = await tx.one<{ version: number; body: unknown }>(
    'select version, body from said_attributes where picture_id = $1',
    pictureId
  );
  return row ? readVersioned('What was said of a picture', saidAttributes, row.version, row.body) : [];
}

export const saying = z.strictObject({
  tag: z.string().regex(/^[0-9A-F]{8}$/),
  /** Null takes back what was said: what is proposed stands there again. */
  text: z.string().max(10_240).nullable()
});

/** Says one attribute of a picture, or takes back what was said of it. */
export async function sayAttribute(
  caller: Caller,
  pictureId: string,
  key: string,
  { tag, text }: z.infer<typeof saying>
): Promise<object> {
  await demand(caller, 'send', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await pictureRow(tx, pictureId);
    return once(tx, caller.userId, key, async () => {
      demandFits(row, { tag, text });
      // Two who say something of one picture at one moment wait for each other.
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 2))', pictureId);
      const rest = (await saidOf(tx, pictureId)).filter((each) => each.tag !== tag);
      const said = text === null ? rest : [...rest, { tag, text }].sort((a, b) => (a.tag < b.tag ? -1 : 1));
      if (said.length > mostSaid)
        throw new Problem(
          'too-many-said',
          `${mostSaid} attributes are said of this picture already, which is the most.`,
          'Take one back first.',
          422
        );
      await tx.sql(
        `insert into said_attributes (clinic_id, picture_id, version, body, said_by) values ($1, $2, $3, $4::jsonb, $5)
         on conflict (clinic_id, picture_id)
         do update set version = excluded.version, body = excluded.body, said_by = excluded.said_by, said_at = now()`,
        tx.clinicId,
        pictureId,
        saidAttributes.version,
        JSON.stringify(said),
        caller.userId
      );
      await writeAudit(tx, caller, 'attribute said', pictureId, {
        patientId: row.patient_id,
        attribute: attributeName(tag),
        taken: text === null ? 'back' : 'on'
      });
      return {};
    });
  });
}

function demandFits(row: PictureRow, { tag, text }: z.infer<typeof saying>): void {
  if (!maySay(row))
    throw new Problem(
      'own-attributes',
      'This picture came as a DICOM file: its attributes are its own.',
      'What is wrong in them is put right where the file was made.',
      409
    );
  const why = text === null ? unsayable(tag) : misfit({ tag, text });
  if (why) throw new Problem('does-not-fit', why, 'Nothing was changed. Type it as its kind has it.', 422);
}
