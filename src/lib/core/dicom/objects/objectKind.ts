import { isInMouth } from '../../anatomy/projections';
import type { ObjectFacts } from './objectFacts';

/** The objects that pictures are written as. */
export const objectKinds = [
  'intra-oral x-ray',
  'x-ray',
  'photograph',
  'ultrasound',
  'ultrasound loop',
  'eye picture',
  'secondary capture',
  'secondary capture frames'
] as const;
export type ObjectKind = (typeof objectKinds)[number];

type Deciding = Pick<ObjectFacts, 'kind' | 'slot' | 'places' | 'detectorSpacingMm' | 'directions'> & {
  pixels: Omit<ObjectFacts['pixels'], 'bytes'>;
};

/**
 * What a picture is written as follows from what made it and from the place it shows: only a radiograph with the
 * detector in the mouth and teeth in view is an intra-oral one. What fits no object of its own is a secondary capture.
 */
export function objectKindOf(facts: Deciding): ObjectKind {
  const { kind, slot, places, pixels } = facts;
  const { channels, bitsStored, frames, frameMs, offset } = pixels;
  const grey = channels === 1;
  if (frames > 1) {
    const fits = bitsStored === 8 && frameMs !== null;
    return kind === 'ultrasound' && fits ? 'ultrasound loop' : 'secondary capture frames';
  }
  // X-ray classes have to say the detector's spacing and which way the body lies.
  const oriented = facts.detectorSpacingMm !== null && facts.directions !== null;
  if (kind === 'radiograph' && grey && offset === 0 && oriented) {
    const teeth =
      places.length > 0 && places.every(({ kind: is }) => is === 'tooth' || is === 'animal tooth');
    return slot !== null && isInMouth(slot.projection) && teeth ? 'intra-oral x-ray' : 'x-ray';
  }
  if (kind === 'photograph' && bitsStored === 8) return 'photograph';
  if (kind === 'ultrasound' && bitsStored === 8) return 'ultrasound';
  if (kind === 'rings' && bitsStored === 8 && places.some((place) => place.kind === 'eye'))
    return 'eye picture';
  return 'secondary capture';
}

/** Modality (PS3.3 C.7.3.1.1.1) and the number of its series within a visit: one series holds one modality. */
export const seriesOf: Record<ObjectKind, { modality: string; number: number }> = {
  'intra-oral x-ray': { modality: 'IO', number: 1 },
  'secondary capture': { modality: 'OT', number: 2 },
  'secondary capture frames': { modality: 'OT', number: 2 },
  'x-ray': { modality: 'DX', number: 3 },
  photograph: { modality: 'XC', number: 4 },
  ultrasound: { modality: 'US', number: 5 },
  'ultrasound loop': { modality: 'US', number: 5 },
  'eye picture': { modality: 'OP', number: 6 }
};
