import { viewPositionOf } from '../../anatomy/projections';
import { sideOf } from '../../anatomy/place';
import type { Dataset } from '../dataset';
import { imageDataset } from './common';
import type { ObjectFacts } from './objectFacts';
import { xrayAttributes } from './xrayAttributes';

export const digitalXrayClassUid = '1.2.840.10008.5.1.4.1.1.1.1';

/** Digital X-Ray Image, for presentation (PS3.3 A.26): every radiograph whose detector is not in the mouth. */
export const digitalXrayDataset = (facts: ObjectFacts): Dataset =>
  imageDataset(facts, {
    ...xrayAttributes(facts, digitalXrayClassUid, 'DX'),
    PositionerType: '',
    ViewPosition: viewPosition(facts)
  });

/** A view from the side is told by the side that is nearer to the detector. */
function viewPosition({ slot, places }: ObjectFacts): string | undefined {
  const position = slot ? viewPositionOf(slot.projection) : undefined;
  return position === 'LL' && sideOf(places) === 'right' ? 'RL' : position;
}
