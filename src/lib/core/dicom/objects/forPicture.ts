import type { Dataset } from '../dataset';
import { digitalXrayDataset } from './digitalXray';
import { eyePictureDataset } from './eyePicture';
import { intraOralDataset } from './intraOral';
import type { ObjectFacts } from './objectFacts';
import { type ObjectKind, objectKindOf } from './objectKind';
import { photographDataset } from './photograph';
import { secondaryCaptureDataset } from './secondaryCapture';
import { ultrasoundDataset } from './ultrasound';

const writers: Record<ObjectKind, (facts: ObjectFacts) => Dataset> = {
  'intra-oral x-ray': intraOralDataset,
  'x-ray': digitalXrayDataset,
  photograph: photographDataset,
  ultrasound: ultrasoundDataset,
  'ultrasound loop': ultrasoundDataset,
  'eye picture': eyePictureDataset,
  'secondary capture': secondaryCaptureDataset,
  'secondary capture frames': secondaryCaptureDataset
};

/** The object that says most about a picture. */
export const datasetForPicture = (facts: ObjectFacts): Dataset => writers[objectKindOf(facts)](facts);
