import type { Dataset } from '../dataset';
import { imageDataset } from './common';
import type { ObjectFacts } from './objectFacts';
import { xrayAttributes } from './xrayAttributes';

export const intraOralClassUid = '1.2.840.10008.5.1.4.1.1.1.3';

/** Digital Intra-Oral X-Ray Image, for presentation (PS3.3 A.28). Teeth are coded in ISO 3950 as DICOM names it. */
export const intraOralDataset = (facts: ObjectFacts): Dataset =>
  imageDataset(facts, { ...xrayAttributes(facts, intraOralClassUid, 'IO'), PositionerType: 'NONE' });
