import { isInverted } from '../../raster/look/look';
import type { Attributes } from '../dataset';
import { anatomyAttributes, imageLaterality, patientOrientation } from './anatomyAttributes';
import { commonAttributes, imageAttributes, interceptOf, pixelAttributes, windowAttributes } from './common';
import type { ObjectFacts } from './objectFacts';
import { spacingAttributes } from './spacingAttributes';

/** What digital x-ray objects for presentation have in common (PS3.3 A.26, A.28). */
export function xrayAttributes(facts: ObjectFacts, sopClassUid: string, modality: string): Attributes {
  const { pixels, look, exposure, instance, places } = facts;
  const anatomy = anatomyAttributes(places);
  return {
    ...commonAttributes(facts, sopClassUid, modality),
    ...imageAttributes(facts),
    ...pixelAttributes(facts),
    ...windowAttributes(facts),
    ...spacingAttributes(facts),
    ...anatomy,
    // The class must have one; empty where nobody has said what is shown.
    AnatomicRegionSequence: anatomy.AnatomicRegionSequence ?? [],
    ImageType: ['ORIGINAL', 'PRIMARY', ''],
    PresentationIntentType: 'FOR PRESENTATION',
    // The class must say; where nobody knows, it may be.
    BurnedInAnnotation: facts.burnedIn === false ? 'NO' : 'YES',
    AcquisitionDate: instance.date,
    AcquisitionTime: instance.time,
    PatientOrientation: patientOrientation(facts),
    ImageLaterality: imageLaterality(places),
    KVP: exposure.kv,
    ExposureInuAs: exposure.exposureMas === undefined ? undefined : Math.round(exposure.exposureMas * 1000),
    DetectorType: 'DIRECT',
    PixelIntensityRelationship: 'LOG',
    PixelIntensityRelationshipSign: -1,
    RescaleIntercept: interceptOf(pixels),
    RescaleSlope: 1,
    RescaleType: 'US',
    PresentationLUTShape: isInverted(look) ? 'INVERSE' : 'IDENTITY',
    AcquisitionContextSequence: []
  };
}
