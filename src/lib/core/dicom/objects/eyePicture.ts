import { sct } from '../../anatomy/code';
import type { Dataset } from '../dataset';
import { anatomyAttributes, codeItem, imageLaterality, patientOrientation } from './anatomyAttributes';
import { commonAttributes, imageAttributes, imageDataset, pixelAttributes } from './common';
import type { ObjectFacts } from './objectFacts';
import { plainSpacingAttributes } from './spacingAttributes';

export const eyePictureClassUid = '1.2.840.10008.5.1.4.1.1.77.1.5.1';

/** Ophthalmic Photography 8 Bit Image (PS3.3 A.41): the ring pictures of a topographer. */
export function eyePictureDataset(facts: ObjectFacts): Dataset {
  const { instance, places } = facts;
  const eye = places.find((place) => place.kind === 'eye');
  const aside = eye?.kind === 'eye' && eye.gaze !== null && eye.gaze !== 'straight ahead';
  return imageDataset(facts, {
    ...commonAttributes(facts, eyePictureClassUid, 'OP'),
    ...imageAttributes(facts),
    ...pixelAttributes(facts),
    ...plainSpacingAttributes(facts),
    ...anatomyAttributes(places),
    BurnedInAnnotation: facts.burnedIn === false ? 'NO' : 'YES',
    ImageType: ['ORIGINAL', 'PRIMARY'],
    AcquisitionDateTime: `${instance.date}${instance.time}`,
    PatientOrientation: patientOrientation(facts),
    ImageLaterality: imageLaterality(places),
    PresentationLUTShape: facts.pixels.channels === 1 ? 'IDENTITY' : undefined,
    NumberOfFrames: 1,
    FrameIncrementPointer: '00181063',
    FrameTime: 0,
    SynchronizationFrameOfReferenceUID: `${facts.series.uid}.1`,
    SynchronizationTrigger: 'NO TRIGGER',
    AcquisitionTimeSynchronized: 'N',
    PatientEyeMovementCommanded: aside ? 'YES' : 'NO',
    PatientEyeMovementCommandCodeSequence: aside
      ? [codeItem({ value: 'GAZE', scheme: '99YONDER', meaning: `Look ${eye.gaze}` })]
      : undefined,
    HorizontalFieldOfView: '',
    RefractiveStateSequence: [],
    EmmetropicMagnification: '',
    IntraOcularPressure: '',
    PupilDilated: '',
    AcquisitionDeviceTypeCodeSequence: [codeItem(sct('392001008', 'Corneal topography system'))],
    IlluminationTypeCodeSequence: [],
    LightPathFilterTypeStackCodeSequence: [],
    ImagePathFilterTypeStackCodeSequence: [],
    LensesCodeSequence: [],
    DetectorType: ''
  });
}
