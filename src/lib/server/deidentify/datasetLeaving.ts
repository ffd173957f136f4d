import sharp from 'sharp';
import { deidentified } from '../../core/deidentify/deidentify';
import { termsStillIn } from '../../core/deidentify/residual';
import type { Dataset } from '../../core/dicom/dataset';
import { type JpegBody, jpegBody } from '../../core/dicom/jpegBody';
import { wholeBlob } from '../blobs/keep';
import { inClinic } from '../database/connection';
import { pictureDataset } from '../objects/pictureObject';
import { wholeSamples } from '../pictures/levels';
import type { PictureRow } from '../pictures/queries';
import { pictureRow } from '../pictures/views';
import { Problem } from '../problem';
import type { IdentityRule } from './identityRule';
import { pictureLeaving, saidLooked, veiledSamples, whereWords } from './leaving';
import { lookFirst, unlooked } from './lettering';
import { ruleInUse } from './rules';

/**
 * The DICOM object of a picture as it leaves, with or without its identity. Reads all its samples; one that came as a JPEG
 * and keeps its identity has that JPEG in it as it is, unless plain samples are wanted.
 * @throws Problem when a name or a number would still stand in it, or when nobody has looked at it who should
 */
export async function datasetLeaving(
  clinicId: string,
  pictureId: string,
  { identity, ruleId, as, plain = false }: IdentityRule & { plain?: boolean }
): Promise<Dataset> {
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId));
  if (identity === 'identified') {
    const pixels = (plain ? null : await jpegOf(clinicId, row)) ?? (await wholeSamples(clinicId, row));
    return inClinic(clinicId, (tx) => pictureDataset(tx, row, pixels));
  }
  const bytes = await veiledSamples(clinicId, row);
  return inClinic(clinicId, async (tx) => {
    const leaving = await pictureLeaving(tx, row, await ruleInUse(tx, ruleId), as);
    const after = deidentified(saidLooked(await pictureDataset(tx, row, bytes), leaving), leaving);
    const found = termsStillIn(after, leaving.terms);
    if (found.length > 0)
      throw new Problem(
        'identity-left',
        `De-identified, this picture would still carry part of a name or number, in ${whereWords(found)}. It was not sent.`,
        'Look at its attributes in De-identify.',
        409
      );
    if ((await unlooked(tx, [row])).length > 0) throw lookFirst(1);
    return after;
  });
}

/** The JPEG that a picture came as, where it shows what the picture shows: a camera's turn is no part of it. */
async function jpegOf(clinicId: string, row: PictureRow): Promise<JpegBody | null> {
  if (row.media_type !== 'image/jpeg') return null;
  const file = await wholeBlob(clinicId, row.original_sha256);
  const body = jpegBody(file);
  if (body?.width !== row.width || body.height !== row.height || body.channels !== row.channels) return null;
  const { orientation = 1 } = await sharp(file).metadata();
  return orientation === 1 ? body : null;
}
