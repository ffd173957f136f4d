import { z } from 'zod';
import { attributeName } from '../../core/dicom/dictionary';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { misfit, mostSaid, saidAttributes, unsayable } from '../../core/dicom/said';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { type PictureRow, holdLog } from '../pictures/queries';
import { pictureRow } from '../pictures/views';
import { Problem } from '../problem';
import { objectFactsOf } from './pictureObject';
import { maySay, saidOf } from './saidOf';

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
      if (text === '') await demandMayBeEmpty(tx, row, tag);
      // Two who say something of one picture at one moment wait for each other.
      await holdLog(tx, pictureId);
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

/** @throws Problem where a value is proposed: an object may not be without some of them */
async function demandMayBeEmpty(tx: Tx, row: PictureRow, tag: string): Promise<void> {
  const proposed = datasetForPicture(await objectFactsOf(tx, row, new Uint8Array()));
  const { value } = proposed.find((each) => each.tag === tag) ?? { value: [] };
  if (Array.isArray(value) && value.length > 0)
    throw new Problem(
      'needs-a-value',
      `${attributeName(tag)} has a value that follows from the picture, and can’t be left empty.`,
      'Nothing was changed. Type another, or keep what is proposed.',
      422
    );
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
