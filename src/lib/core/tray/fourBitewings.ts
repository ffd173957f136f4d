import type { Pattern, Slot } from './tray';

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
    projection: 'bitewing',
    teeth,
    side,
    orientation: { quarterTurns: right ? 1 : 3, mirrored: false },
    directions: [right ? 'A' : 'P', 'F'],
    place: { x, y }
  };
}

export const fourBitewings: Pattern = {
  name: 'Four bitewings',
  slots: [
    bitewing('bw-right-molars', 'Right molars', 'right', [16, 17, 18, 46, 47, 48], 0.12, 0.66),
    bitewing('bw-right-premolars', 'Right premolars', 'right', [14, 15, 44, 45], 0.37, 0.34),
    bitewing('bw-left-premolars', 'Left premolars', 'left', [24, 25, 34, 35], 0.63, 0.34),
    bitewing('bw-left-molars', 'Left molars', 'left', [26, 27, 28, 36, 37, 38], 0.88, 0.66)
  ],
  route: ['bw-right-molars', 'bw-right-premolars', 'bw-left-premolars', 'bw-left-molars']
};
