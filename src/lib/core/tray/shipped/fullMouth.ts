import type { Tooth } from '../../anatomy/teeth';
import type { Slot } from '../slot';
import { fourBitewings } from './fourBitewings';
import { periapical } from './oral';
import { shippedPattern } from './shippedPattern';

/** The arch, slightly bent: the wells are as large as three rows allow. */
const columns = [0.072, 0.222, 0.366, 0.5, 0.634, 0.778, 0.928];
const bend = [0.02, 0.01, 0, 0, 0, 0.01, 0.02];

const arch = (upper: boolean): Slot[] => {
  const [jaw, word] = upper ? ['upper', 'Upper'] : ['lower', 'Lower'];
  const right = upper ? 10 : 40;
  const left = upper ? 20 : 30;
  const y = (i: number) => (upper ? bend[i] : 1 - bend[i]);
  const on = (quadrant: number, ...places: number[]) => places.map((place) => quadrant + place);
  const wells: [string, string, Tooth[]][] = [
    ['right-molars', 'right molars', on(right, 6, 7, 8)],
    ['right-premolars', 'right premolars', on(right, 4, 5)],
    ['right-canine', 'right canine', on(right, 2, 3)],
    ['incisors', 'incisors', [right + 1, left + 1]],
    ['left-canine', 'left canine', on(left, 2, 3)],
    ['left-premolars', 'left premolars', on(left, 4, 5)],
    ['left-molars', 'left molars', on(left, 6, 7, 8)]
  ];
  return wells.map(([id, name, teeth], i) =>
    periapical({ id: `pa-${jaw}-${id}`, name: `${word} ${name}`, teeth, at: { x: columns[i], y: y(i) } })
  );
};

const bitewings = fourBitewings.pattern.slots.map((slot, i) => ({
  ...slot,
  at: { x: [0.072, 0.222, 0.778, 0.928][i], y: 0.5 }
}));

/** The fourteen periapical views. */
export const upperViews = arch(true);
export const lowerViews = arch(false);

/** Fourteen periapical views and four bitewings. The route goes round: upper right to left, lower left to right, bitewings. */
export const fullMouth = shippedPattern(
  { pattern: '018f0000-0000-7000-8000-000000001801', route: '018f0000-0000-7000-8000-000000001802' },
  'Full mouth',
  'teeth',
  [...upperViews, ...bitewings, ...lowerViews],
  [...upperViews, ...[...lowerViews].reverse(), ...bitewings].map((slot) => slot.id)
);
