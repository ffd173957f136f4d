import type { Dataset } from '../dataset';
import { anatomyAttributes, imageLaterality, patientOrientation } from './anatomyAttributes';
import { commonAttributes, imageAttributes, imageDataset, pixelAttributes } from './common';
import type { ObjectFacts } from './objectFacts';
import { plainSpacingAttributes } from './spacingAttributes';

export const photographClassUid = '1.2.840.10008.5.1.4.1.1.77.1.4';

/** VL Photographic Image (PS3.3 A.32.4). */
export function photographDataset(facts: ObjectFacts): Dataset {
  const known = facts.places.length > 0;
  return imageDataset(facts, {
    ...commonAttributes(facts, photographClassUid, 'XC'),
    ...imageAttributes(facts),
    ...pixelAttributes(facts),
    ...plainSpacingAttributes(facts),
    ...anatomyAttributes(facts.places),
    ImageType: ['ORIGINAL', 'PRIMARY'],
    AcquisitionDateTime: `${facts.instance.date}${facts.instance.time}`,
    PatientOrientation: patientOrientation(facts),
    Laterality: known ? undefined : '',
    ImageLaterality: known ? imageLaterality(facts.places) : undefined,
    AcquisitionContextSequence: []
  });
}
