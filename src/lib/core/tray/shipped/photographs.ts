import type { PhotographView } from '../../anatomy/places/photograph';
import type { Trade } from '../pattern';
import type { Slot, SlotShape } from '../slot';
import { type ShippedPattern, idsOf, shippedPattern } from './shippedPattern';

function photograph(view: PhotographView, shape: SlotShape, x: number, y = 0.5): Slot {
  return {
    id: view.replaceAll(' ', '-'),
    name: view[0].toUpperCase() + view.slice(1),
    places: [{ kind: 'photograph', view }],
    projection: 'photograph',
    orientation: { quarterTurns: 0, mirrored: false },
    directions: ['L', 'F'],
    at: { x, y },
    shape
  };
}

const mouth = shippedPattern(
  idsOf(0x801),
  'Photographs of the mouth',
  'teeth',
  [
    photograph('upper arch', 'lying', 0.5, 0),
    photograph('bite from the right', 'lying', 0.2),
    photograph('bite from the front', 'lying', 0.5),
    photograph('bite from the left', 'lying', 0.8),
    photograph('lower arch', 'lying', 0.5, 1)
  ],
  ['bite-from-the-front', 'bite-from-the-right', 'bite-from-the-left', 'upper-arch', 'lower-arch']
);

const face = shippedPattern(idsOf(0x802), 'Photographs of the face', 'teeth', [
  photograph('face from the front', 'standing', 0.14),
  photograph('face smiling', 'standing', 0.38),
  photograph('face from the right', 'standing', 0.62),
  photograph('face from the left', 'standing', 0.86)
]);

/** One photograph, in the rooms where wounds are seen. */
const wounds = (['bones', 'animals'] as const).map((trade: Trade, i) =>
  shippedPattern(
    idsOf(0x803 + i),
    i === 0 ? 'Photograph of a wound' : 'Photograph of an animal’s wound',
    trade,
    [photograph('wound', 'lying', 0.5)]
  )
);

/** A body as it stands, beside a plumb line: the three on one floor line. */
const posture = shippedPattern(idsOf(0x805), 'Posture, three photographs', 'bones', [
  photograph('posture from the front', 'standing', 0.2),
  photograph('posture from the right', 'standing', 0.5),
  photograph('posture from the left', 'standing', 0.8)
]);

export const photographPatterns: readonly ShippedPattern[] = [mouth, face, ...wounds, posture];
