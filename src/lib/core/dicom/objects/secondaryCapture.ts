import type { Attributes, Dataset } from '../dataset';
import { anatomyAttributes, imageLaterality, patientOrientation } from './anatomyAttributes';
import {
  commonAttributes,
  imageAttributes,
  imageDataset,
  interceptOf,
  pixelAttributes,
  windowAttributes
} from './common';
import type { ObjectFacts } from './objectFacts';
import { plainSpacingAttributes } from './spacingAttributes';

export const secondaryCaptureClassUid = '1.2.840.10008.5.1.4.1.1.7';
/** Of several frames: grey with 8 bits, with more, and colour (PS3.3 A.8.3 to A.8.5). */
export const framesClassUids = {
  byte: '1.2.840.10008.5.1.4.1.1.7.2',
  word: '1.2.840.10008.5.1.4.1.1.7.3',
  colour: '1.2.840.10008.5.1.4.1.1.7.4'
} as const;

/** Secondary Capture Image (PS3.3 A.8.1): how pictures are wrapped that have no object of their own. */
export function secondaryCaptureDataset(facts: ObjectFacts): Dataset {
  const { pixels } = facts;
  const several = pixels.frames > 1;
  const known = facts.places.length > 0;
  const grey = pixels.channels === 1;
  return imageDataset(facts, {
    ...commonAttributes(facts, several ? framesClassUid(facts) : secondaryCaptureClassUid, 'OT'),
    ...imageAttributes(facts),
    ...pixelAttributes(facts),
    ...windowAttributes(facts),
    ...plainSpacingAttributes(facts),
    ...anatomyAttributes(facts.places),
    ImageType: ['ORIGINAL', 'PRIMARY'],
    ConversionType: 'WSD',
    PatientOrientation: patientOrientation(facts),
    Laterality: known ? undefined : '',
    ImageLaterality: known ? imageLaterality(facts.places) : undefined,
    RescaleIntercept: grey ? interceptOf(pixels) : undefined,
    RescaleSlope: grey ? 1 : undefined,
    RescaleType: grey ? 'US' : undefined,
    ...(several ? frameAttributes(facts) : {})
  });
}

function framesClassUid({ pixels }: ObjectFacts): string {
  if (pixels.channels === 3) return framesClassUids.colour;
  return pixels.bitsStored > 8 ? framesClassUids.word : framesClassUids.byte;
}

const frameTime = '00181063';
const pageNumbers = '00182001';

/** Frames follow in time where a time is known, else they are pages. */
function frameAttributes({ pixels, burnedIn }: ObjectFacts): Attributes {
  const { frames, frameMs, channels } = pixels;
  return {
    BurnedInAnnotation: burnedIn === false ? 'NO' : 'YES',
    PresentationLUTShape: channels === 1 ? 'IDENTITY' : undefined,
    NumberOfFrames: frames,
    FrameIncrementPointer: frameMs === null ? pageNumbers : frameTime,
    FrameTime: frameMs ?? undefined,
    PageNumberVector: frameMs === null ? Array.from({ length: frames }, (_, i) => i + 1) : undefined
  };
}
