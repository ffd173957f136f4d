import { toothName } from '../../anatomy/teeth';
import { storedDirections } from '../../raster/orientation';
import { type Dataset, dataset } from '../dataset';
import { commonAttributes, pixelVr } from './common';
import type { PictureFacts } from './facts';

export const intraOralClassUid = '1.2.840.10008.5.1.4.1.1.1.3';
const jawRegion = { CodeValue: '661005', CodingSchemeDesignator: 'SCT', CodeMeaning: 'Jaw region' };

/** Whether a picture can be written as Digital Intra-Oral X-Ray: grey, in a slot, with its detector spacing known. */
export function canBeIntraOral(facts: PictureFacts): boolean {
  return facts.slot !== null && facts.raster.channels === 1 && facts.detectorSpacingMm !== null;
}

/** Digital Intra-Oral X-Ray Image, for presentation (PS3.3 A.28). Teeth are coded in ISO 3950 as DICOM names it. */
export function intraOralDataset(facts: PictureFacts): Dataset {
  const { slot, detectorSpacingMm, raster, look } = facts;
  if (!slot || !detectorSpacingMm)
    throw new RangeError('an intra-oral object needs a slot and a detector spacing');
  const laterality = { right: 'R', left: 'L', both: 'B' }[slot.side];
  return dataset(
    {
      ...commonAttributes(facts, intraOralClassUid, 'IO'),
      ImageType: ['ORIGINAL', 'PRIMARY', ''],
      PresentationIntentType: 'FOR PRESENTATION',
      // The class must say; where nobody knows, it may be.
      BurnedInAnnotation: facts.burnedIn === false ? 'NO' : 'YES',
      AcquisitionDate: facts.instance.date,
      AcquisitionTime: facts.instance.time,
      PatientOrientation: storedDirections(slot.directions, facts.orientation),
      ImageLaterality: laterality,
      BodyPartExamined: 'JAW',
      AnatomicRegionSequence: [jawRegion],
      PrimaryAnatomicStructureSequence: facts.teeth.map((tooth) => ({
        CodeValue: String(tooth),
        CodingSchemeDesignator: 'ISO3950',
        CodeMeaning: toothName(tooth)
      })),
      KVP: facts.exposure.kv,
      ExposureInuAs:
        facts.exposure.exposureMas === undefined ? undefined : Math.round(facts.exposure.exposureMas * 1000),
      DetectorType: 'DIRECT',
      ImagerPixelSpacing: detectorSpacingMm,
      PositionerType: 'NONE',
      PixelIntensityRelationship: 'LOG',
      PixelIntensityRelationshipSign: -1,
      RescaleIntercept: raster.offset,
      RescaleSlope: 1,
      RescaleType: 'US',
      PresentationLUTShape: look.inverted ? 'INVERSE' : 'IDENTITY',
      WindowCenter: look.window.center,
      WindowWidth: look.window.width,
      AcquisitionContextSequence: []
    },
    pixelVr(facts)
  );
}
