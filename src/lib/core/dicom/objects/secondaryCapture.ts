import { storedDirections } from '../../raster/orientation';
import { type Dataset, dataset } from '../dataset';
import { commonAttributes, pixelVr } from './common';
import type { PictureFacts } from './facts';

export const secondaryCaptureClassUid = '1.2.840.10008.5.1.4.1.1.7';

/** Secondary Capture Image (PS3.3 A.8.1): how pictures that came as PNG, JPEG or TIFF, or without a slot, are wrapped. */
export function secondaryCaptureDataset(facts: PictureFacts): Dataset {
  const { slot, raster, look } = facts;
  const grey = raster.channels === 1;
  return dataset(
    {
      ...commonAttributes(facts, secondaryCaptureClassUid, 'OT'),
      ImageType: ['ORIGINAL', 'PRIMARY'],
      ConversionType: 'WSD',
      PatientOrientation: slot ? storedDirections(slot.directions, facts.orientation) : [],
      Laterality: slot && slot.side !== 'both' ? slot.side[0].toUpperCase() : '',
      RescaleIntercept: grey ? raster.offset : undefined,
      RescaleSlope: grey ? 1 : undefined,
      RescaleType: grey ? 'US' : undefined,
      WindowCenter: grey ? look.window.center : undefined,
      WindowWidth: grey ? look.window.width : undefined
    },
    pixelVr(facts)
  );
}
