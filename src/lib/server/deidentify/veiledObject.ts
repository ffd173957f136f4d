// The DICOM object of a veiled copy. In a process of its own: it reads all of a picture's samples.
import { type Dataset, dataset, find, firstText, withElements } from '../../core/dicom/dataset';
import { writeDicomFile } from '../../core/dicom/write';
import { dicomUid } from '../../core/identity/uuid7';
import { inClinic } from '../database/connection';
import { newId } from '../ids';
import { pictureDataset } from '../objects/pictureObject';
import { pictureRow } from '../pictures/views';
import { veiledSamples } from './leaving';
import type { VeiledWish } from './veiledWish';

/** A picture once more as a DICOM file, with what is veiled masked, and with numbers of its own. */
export async function veiledObject({ clinicId, pictureId }: VeiledWish): Promise<Uint8Array> {
  const row = await inClinic(clinicId, (tx) => pictureRow(tx, pictureId));
  const bytes = await veiledSamples(clinicId, row);
  const set = await inClinic(clinicId, (tx) => pictureDataset(tx, row, bytes));
  return writeDicomFile(derived(set));
}

/** The object of a copy in which parts are masked: it says what it was made of, and that nothing is burned in. */
function derived(set: Dataset): Dataset {
  const type = find(set, 'ImageType')?.value as string[] | undefined;
  const changed = dataset({
    SOPInstanceUID: dicomUid(newId()),
    SeriesInstanceUID: dicomUid(newId()),
    BurnedInAnnotation: 'NO',
    DerivationDescription: 'Parts of the picture were masked',
    ImageType: type && ['DERIVED', ...type.slice(1)],
    SourceImageSequence: [
      {
        ReferencedSOPClassUID: firstText(set, 'SOPClassUID'),
        ReferencedSOPInstanceUID: firstText(set, 'SOPInstanceUID')
      }
    ]
  });
  return withElements(set, changed);
}
