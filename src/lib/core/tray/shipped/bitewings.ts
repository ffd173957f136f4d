import { fourBitewings } from './fourBitewings';
import { bitewing, standingBitewing } from './oral';
import { idsOf, shippedPattern } from './shippedPattern';

export const twoBitewings = shippedPattern(idsOf(0x102), 'Two bitewings', 'teeth', [
  bitewing({
    id: 'bw-right',
    name: 'Right side',
    teeth: [14, 15, 16, 17, 44, 45, 46, 47],
    at: { x: 0.3, y: 0.5 }
  }),
  bitewing({
    id: 'bw-left',
    name: 'Left side',
    teeth: [24, 25, 26, 27, 34, 35, 36, 37],
    at: { x: 0.7, y: 0.5 }
  })
]);

const [rightMolars, rightPremolars, leftPremolars, leftMolars] = fourBitewings.pattern.slots;
const standing = { orientation: { quarterTurns: 0, mirrored: false }, shape: 'standing' } as const;

/** Four at the back and three at the front, the sensor upright throughout: they show how high the bone stands. */
export const sevenBitewings = shippedPattern(idsOf(0x107), 'Seven standing bitewings', 'teeth', [
  { ...rightMolars, ...standing, at: { x: 0.07, y: 0.5 } },
  { ...rightPremolars, ...standing, at: { x: 0.213, y: 0.5 } },
  standingBitewing({
    id: 'bw-right-canines',
    name: 'Right canines',
    teeth: [13, 12, 43, 42],
    at: { x: 0.357, y: 0.5 }
  }),
  standingBitewing({
    id: 'bw-incisors',
    name: 'Incisors',
    teeth: [11, 21, 41, 31],
    at: { x: 0.5, y: 0.5 }
  }),
  standingBitewing({
    id: 'bw-left-canines',
    name: 'Left canines',
    teeth: [22, 23, 32, 33],
    at: { x: 0.643, y: 0.5 }
  }),
  { ...leftPremolars, ...standing, at: { x: 0.787, y: 0.5 } },
  { ...leftMolars, ...standing, at: { x: 0.93, y: 0.5 } }
]);
