import { toothPlaces } from '../../anatomy/place';
import type { Slot } from '../slot';
import { shippedPattern } from './shippedPattern';

/**
 * A bitewing sensor lies on its side: its cable comes out towards the front of the mouth. On the patient's right that
 * turns the picture one way, on the left the other. Seen upright, the patient's right is on the viewer's left, so the
 * right edge of a right-hand picture points to the front (A), that of a left-hand one to the back (P).
 */
function bitewing(
  id: string,
  name: string,
  side: 'right' | 'left',
  teeth: number[],
  x: number,
  y: number
): Slot {
  const right = side === 'right';
  return {
    id,
    name,
    places: toothPlaces(teeth),
    projection: 'bitewing',
    orientation: { quarterTurns: right ? 1 : 3, mirrored: false },
    directions: [right ? 'A' : 'P', 'F'],
    at: { x, y },
    shape: 'lying'
  };
}

export const fourBitewings = shippedPattern(
  { pattern: '018f0000-0000-7000-8000-000000000401', route: '018f0000-0000-7000-8000-000000000402' },
  'Four bitewings',
  'teeth',
  [
    bitewing('bw-right-molars', 'Right molars', 'right', [16, 17, 18, 46, 47, 48], 0.12, 0.58),
    bitewing('bw-right-premolars', 'Right premolars', 'right', [14, 15, 44, 45], 0.37, 0.42),
    bitewing('bw-left-premolars', 'Left premolars', 'left', [24, 25, 34, 35], 0.63, 0.42),
    bitewing('bw-left-molars', 'Left molars', 'left', [26, 27, 28, 36, 37, 38], 0.88, 0.58)
  ]
);
