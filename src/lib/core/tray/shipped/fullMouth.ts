import { toothPlaces } from '../../anatomy/place';
import { type Tooth, isUpperTooth } from '../../anatomy/teeth';
import type { Slot } from '../slot';
import { fourBitewings } from './fourBitewings';
import { shippedPattern } from './shippedPattern';

type Side = 'right' | 'left' | 'both';

/**
 * A periapical slot. At the front the sensor stands upright, its cable towards the lips: below that turns the picture
 * half round. At the back it lies, as for a bitewing.
 */
function periapical(id: string, name: string, side: Side, teeth: Tooth[], x: number, y: number): Slot {
  const front = teeth.every((tooth) => tooth % 10 <= 3);
  const orientation = front
    ? ({ quarterTurns: isUpperTooth(teeth[0]) ? 0 : 2, mirrored: false } as const)
    : ({ quarterTurns: side === 'right' ? 1 : 3, mirrored: false } as const);
  return {
    id,
    name,
    places: toothPlaces(teeth),
    projection: 'periapical',
    orientation,
    directions: [side === 'right' ? 'A' : side === 'left' ? 'P' : 'L', 'F'],
    at: { x, y },
    shape: front ? 'standing' : 'lying'
  };
}

/** The arch, slightly bent: the wells are as large as three rows allow. */
const columns = [0.072, 0.222, 0.366, 0.5, 0.634, 0.778, 0.928];
const bend = [0.02, 0.01, 0, 0, 0, 0.01, 0.02];

const arch = (upper: boolean): Slot[] => {
  const [jaw, word] = upper ? ['upper', 'Upper'] : ['lower', 'Lower'];
  const right = upper ? 10 : 40;
  const left = upper ? 20 : 30;
  const y = (i: number) => (upper ? bend[i] : 1 - bend[i]);
  const on = (quadrant: number, ...places: number[]) => places.map((place) => quadrant + place);
  const wells: [string, string, Side, Tooth[]][] = [
    ['right-molars', 'right molars', 'right', on(right, 6, 7, 8)],
    ['right-premolars', 'right premolars', 'right', on(right, 4, 5)],
    ['right-canine', 'right canine', 'right', on(right, 2, 3)],
    ['incisors', 'incisors', 'both', [right + 1, left + 1]],
    ['left-canine', 'left canine', 'left', on(left, 2, 3)],
    ['left-premolars', 'left premolars', 'left', on(left, 4, 5)],
    ['left-molars', 'left molars', 'left', on(left, 6, 7, 8)]
  ];
  return wells.map(([id, name, side, teeth], i) =>
    periapical(`pa-${jaw}-${id}`, `${word} ${name}`, side, teeth, columns[i], y(i))
  );
};

const bitewings = fourBitewings.pattern.slots.map((slot, i) => ({
  ...slot,
  at: { x: [0.072, 0.222, 0.778, 0.928][i], y: 0.5 }
}));

const upper = arch(true);
const lower = arch(false);

/** Fourteen periapical views and four bitewings. The route goes round: upper right to left, lower left to right, bitewings. */
export const fullMouth = shippedPattern(
  { pattern: '018f0000-0000-7000-8000-000000001801', route: '018f0000-0000-7000-8000-000000001802' },
  'Full mouth',
  'teeth',
  [...upper, ...bitewings, ...lower],
  [...upper, ...[...lower].reverse(), ...bitewings].map((slot) => slot.id)
);
