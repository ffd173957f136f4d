import type { Tooth } from '../../anatomy/teeth';
import type { Slot } from '../slot';
import { sevenBitewings } from './bitewings';
import { fourBitewings } from './fourBitewings';
import { lowerViews, upperViews } from './fullMouth';
import { archRow, bitewing, occlusal, periapical } from './oral';
import { idsOf, shippedPattern } from './shippedPattern';

const around = (upper: readonly Slot[], middle: readonly Slot[], lower: readonly Slot[]): string[] =>
  [...upper, ...[...lower].reverse(), ...middle].map((slot) => slot.id);

/** Fourteen periapical views and no bitewings. */
export const fourteenViews = shippedPattern(
  idsOf(0x214),
  'Full mouth, 14 periapical',
  'teeth',
  [...upperViews, ...lowerViews],
  around(upperViews, [], lowerViews)
);

type Named = [id: string, name: string, teeth: Tooth[]];
const rowOf = (views: readonly Named[], y: number): Slot[] =>
  archRow(views, y, ([id, name, teeth], at) => periapical({ id, name, teeth, at }));

const eight = (upper: boolean): Named[] => {
  const [jaw, word] = upper ? ['upper', 'Upper'] : ['lower', 'Lower'];
  const [right, left] = upper ? [10, 20] : [40, 30];
  const side = (of: number, which: 'right' | 'left'): Named[] => [
    [`pa-${jaw}-${which}-molars`, `${word} ${which} molars`, [of + 6, of + 7, of + 8]],
    [`pa-${jaw}-${which}-premolars`, `${word} ${which} premolars`, [of + 4, of + 5]],
    [`pa-${jaw}-${which}-canine`, `${word} ${which} canine`, [of + 3]],
    [`pa-${jaw}-${which}-incisors`, `${word} ${which} incisors`, [of + 1, of + 2]]
  ];
  return [...side(right, 'right'), ...side(left, 'left').reverse()];
};

const spread = (slots: readonly Slot[], xs: readonly number[]): Slot[] =>
  slots.map((slot, i) => ({ ...slot, at: { x: xs[i], y: 0.5 } }));

const upperEight = rowOf(eight(true), 0);
const lowerEight = rowOf(eight(false), 1);
const four = spread(fourBitewings.pattern.slots, [0.072, 0.216, 0.784, 0.928]);

/** Sixteen periapical views, incisors by side, and four bitewings. */
export const twentyViews = shippedPattern(
  idsOf(0x220),
  'Full mouth, 20 views',
  'teeth',
  [...upperEight, ...four, ...lowerEight],
  around(upperEight, four, lowerEight)
);

const seven = spread(
  sevenBitewings.pattern.slots,
  upperViews.map((slot) => slot.at.x)
);

/** Fourteen periapical views and seven standing bitewings. */
export const twentyOneViews = shippedPattern(
  idsOf(0x221),
  'Full mouth, 21 views',
  'teeth',
  [...upperViews, ...seven, ...lowerViews],
  around(upperViews, seven, lowerViews)
);

const mixedUpper = rowOf(
  [
    ['pa-upper-right-molars', 'Upper right molars', [16, 55, 54]],
    ['pa-upper-right-canine', 'Upper right canine', [53]],
    ['pa-upper-incisors', 'Upper incisors', [12, 11, 21, 22]],
    ['pa-upper-left-canine', 'Upper left canine', [63]],
    ['pa-upper-left-molars', 'Upper left molars', [64, 65, 26]]
  ],
  0
);
const mixedLower = rowOf(
  [
    ['pa-lower-right-molars', 'Lower right molars', [46, 85, 84]],
    ['pa-lower-right-canine', 'Lower right canine', [83]],
    ['pa-lower-incisors', 'Lower incisors', [42, 41, 31, 32]],
    ['pa-lower-left-canine', 'Lower left canine', [73]],
    ['pa-lower-left-molars', 'Lower left molars', [74, 75, 36]]
  ],
  1
);
const mixedBitewings = [
  bitewing({
    id: 'bw-right',
    name: 'Right bitewing',
    teeth: [16, 55, 54, 46, 85, 84],
    at: { x: 0.072, y: 0.5 }
  }),
  bitewing({
    id: 'bw-left',
    name: 'Left bitewing',
    teeth: [64, 65, 26, 74, 75, 36],
    at: { x: 0.928, y: 0.5 }
  })
];

/** While first molars and incisors stand beside deciduous teeth. */
export const mixedMouth = shippedPattern(
  idsOf(0x312),
  'Mixed dentition, 12 views',
  'teeth',
  [...mixedUpper, ...mixedBitewings, ...mixedLower],
  around(mixedUpper, mixedBitewings, mixedLower)
);

/** The first dentition: molars from the side, the front bitten on. */
export const deciduousMouth = shippedPattern(idsOf(0x308), 'Deciduous dentition, 8 views', 'teeth', [
  periapical({
    id: 'pa-upper-right-molars',
    name: 'Upper right molars',
    teeth: [55, 54],
    at: { x: 0.12, y: 0 }
  }),
  occlusal({ id: 'oc-upper', name: 'Upper front', teeth: [53, 52, 51, 61, 62, 63], at: { x: 0.5, y: 0 } }),
  periapical({
    id: 'pa-upper-left-molars',
    name: 'Upper left molars',
    teeth: [64, 65],
    at: { x: 0.88, y: 0 }
  }),
  periapical({
    id: 'pa-lower-left-molars',
    name: 'Lower left molars',
    teeth: [74, 75],
    at: { x: 0.88, y: 1 }
  }),
  occlusal({ id: 'oc-lower', name: 'Lower front', teeth: [83, 82, 81, 71, 72, 73], at: { x: 0.5, y: 1 } }),
  periapical({
    id: 'pa-lower-right-molars',
    name: 'Lower right molars',
    teeth: [85, 84],
    at: { x: 0.12, y: 1 }
  }),
  bitewing({ id: 'bw-right', name: 'Right bitewing', teeth: [55, 54, 85, 84], at: { x: 0.25, y: 0.5 } }),
  bitewing({ id: 'bw-left', name: 'Left bitewing', teeth: [64, 65, 74, 75], at: { x: 0.75, y: 0.5 } })
]);

/** One wide view of both jaws. */
export const panoramicView = shippedPattern(idsOf(0x401), 'Panoramic', 'teeth', [
  {
    id: 'panoramic',
    name: 'Panoramic',
    places: [{ kind: 'wide view', view: 'panoramic' }],
    projection: 'panoramic',
    orientation: { quarterTurns: 0, mirrored: false },
    directions: ['L', 'F'],
    at: { x: 0.5, y: 0.5 },
    shape: 'wide'
  }
]);
