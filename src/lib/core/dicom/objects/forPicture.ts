import type { Dataset } from '../dataset';
import type { PictureFacts } from './facts';
import { canBeIntraOral, intraOralDataset } from './intraOral';
import { secondaryCaptureDataset } from './secondaryCapture';

/** The object that says most about a picture: an intra-oral radiograph where it is one, else a secondary capture. */
export function datasetForPicture(facts: PictureFacts): Dataset {
  return canBeIntraOral(facts) ? intraOralDataset(facts) : secondaryCaptureDataset(facts);
}
