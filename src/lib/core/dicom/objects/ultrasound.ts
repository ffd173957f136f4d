import type { Scale } from '../../calibration/scale';
import type { Attributes, Dataset } from '../dataset';
import { anatomyAttributes, patientOrientation } from './anatomyAttributes';
import { commonAttributes, imageAttributes, imageDataset, pixelAttributes } from './common';
import type { ObjectFacts, ObjectPixels } from './objectFacts';

export const ultrasoundClassUid = '1.2.840.10008.5.1.4.1.1.6.1';
export const ultrasoundLoopClassUid = '1.2.840.10008.5.1.4.1.1.3.1';
const frameTimeTag = '00181063';

/** Ultrasound Image, or Ultrasound Multi-frame Image for a loop (PS3.3 A.6, A.7). */
export function ultrasoundDataset(facts: ObjectFacts): Dataset {
  const { frames, frameMs } = facts.pixels;
  const loop = frames > 1;
  return imageDataset(facts, {
    ...commonAttributes(facts, loop ? ultrasoundLoopClassUid : ultrasoundClassUid, 'US'),
    ...imageAttributes(facts),
    ...pixelAttributes(facts),
    ...anatomyAttributes(facts.places),
    ...(facts.scale ? { SequenceOfUltrasoundRegions: [calibratedRegion(facts.pixels, facts.scale)] } : {}),
    ImageType: ['ORIGINAL', 'PRIMARY'],
    PatientOrientation: patientOrientation(facts),
    Laterality: '',
    NumberOfFrames: loop ? frames : undefined,
    FrameIncrementPointer: loop ? frameTimeTag : undefined,
    FrameTime: loop ? (frameMs ?? undefined) : undefined
  });
}

const tissue = 1;
const flat2d = 1;
const centimetres = 3;

/** The whole picture as one region with its spacing: how ultrasound says its scale (PS3.3 C.8.5.5). */
function calibratedRegion({ width, height }: ObjectPixels, scale: Scale): Attributes {
  return {
    RegionSpatialFormat: flat2d,
    RegionDataType: tissue,
    RegionFlags: 0,
    RegionLocationMinX0: 0,
    RegionLocationMinY0: 0,
    RegionLocationMaxX1: width - 1,
    RegionLocationMaxY1: height - 1,
    PhysicalUnitsXDirection: centimetres,
    PhysicalUnitsYDirection: centimetres,
    PhysicalDeltaX: scale.mmPerPixelX / 10,
    PhysicalDeltaY: scale.mmPerPixelY / 10
  };
}
