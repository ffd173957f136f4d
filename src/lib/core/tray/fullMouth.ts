import type { Tooth } from '../anatomy/teeth';
import { fourBitewings } from './fourBitewings';
import type { Pattern, Slot } from './tray';

/**
 * A periapical slot. At the front the sensor stands upright, its cable towards the lips: below that turns the picture
 * half round. At the back it lies, as for a bitewing.
 */
function periapical(
  id: string,
  name: string,
  side: Slot['side'],
  teeth: Tooth[],
  x: number,
  y: number
): Slot {
  const upper = teeth[0] < 30;
  const front = teeth.every((tooth) => tooth % 10 <= 3);
  const orientation = front
    ? ({ quarterTurns: upper ? 0 : 2, mirrored: false } as const)
    : ({ quarterTurns: side === 'right' ? 1 : 3, mirrored: false } as const);
  return {
    id,
    name,
    projection: 'periapical',
    teeth,
    side,
    orientation,
    directions: [side === 'right' ? 'A' : side === 'left' ? 'P' : 'L', 'F'],
    place: { x, y }
  };
}

const columns = [0.06, 0.205, 0.35, 0.5, 0.65, 0.795, 0.94];
const arch = (upper: boolean): Slot[] => {
  const [jaw, word] = upper ? ['upper', 'Upper'] : ['lower', 'Lower'];
  const right = upper ? 10 : 40;
  const left = upper ? 20 : 30;
  const bend = [0.07, 0.035, 0, 0, 0, 0.035, 0.07];
  const y = (i: number) => (upper ? bend[i] : 1 - bend[i]);
  const on = (quadrant: number, ...places: number[]) => places.map((place) => quadrant + place);
  const wells: [string, string, Slot['side'], Tooth[]][] = [
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

const bitewings = fourBitewings.slots.map((slot, i) => ({
  ...slot,
  place: { x: [0.205, 0.36, 0.64, 0.795][i], y: 0.5 }
}));

const upper = arch(true);
const lower = arch(false);

/** Fourteen periapical views and four bitewings. The route goes round: upper right to left, lower left to right, bitewings. */
export const fullMouth: Pattern = {
  name: 'Full mouth',
  slots: [...upper, ...bitewings, ...lower],
  route: [...upper, ...[...lower].reverse(), ...bitewings].map((slot) => slot.id)
};
