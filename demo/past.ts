import type { Condition, MouthWish } from '../src/lib/core/phantom/teeth/dentition';
import { ordinaryMouth } from '../src/lib/core/phantom/teeth/ordinaryMouth';
import { fourBitewings } from '../src/lib/core/tray/shipped/fourBitewings';
import { fullMouth } from '../src/lib/core/tray/shipped/fullMouth';
import { type ShippedPattern, shippedPattern } from '../src/lib/core/tray/shipped/shippedPattern';
import type { Slot } from '../src/lib/core/tray/slot';
import { type Series, shotsOf } from './teeth';

/** An earlier visit to the teeth room, or this morning's. */
export interface PastVisit {
  patient: string;
  room: 'Teeth';
  daysAgo: number;
  reason: string;
  series: Series;
  confirmed: boolean;
}

/** Each patient's own mouth, the same in every picture over the years. */
const mouths: Record<string, MouthWish> = {
  'QS-1004': ordinaryMouth(21),
  'QS-1011': {
    seed: 11,
    missing: [18, 28, 48],
    boneLossMm: { 16: 1.6, 26: 1.2, 36: 1.4, 46: 2.1 },
    conditions: {
      16: [{ kind: 'filling', at: 'mesial' }],
      26: [{ kind: 'filling', at: 'middle' }],
      36: [{ kind: 'filling', at: 'distal' }],
      46: [{ kind: 'crown' }, { kind: 'root filling', shortMm: 1 }],
      14: [{ kind: 'decay', at: 'distal' }],
      45: [{ kind: 'decay', at: 'mesial' }]
    }
  }
};

const bitewingsOf = (patient: string): Series => ({
  pattern: fourBitewings,
  shots: shotsOf(mouths[patient], fourBitewings)
});

/** The clinic's own pattern of one slot, for work that is imaged again and again. */
const rootFillingPattern = (slot: Slot): ShippedPattern =>
  shippedPattern(
    { pattern: '018f0000-0000-7000-8000-0000000d0001', route: '018f0000-0000-7000-8000-0000000d0002' },
    'Root filling, lower right',
    'teeth',
    [{ ...slot, at: { x: 0.5, y: 0.5 } }]
  );

/** The ferry engineer's lower right premolar: before, with the file in twice, and filled. */
const rootFilling = (): Series => {
  const slot = fullMouth.pattern.slots.find((each) => each.id === 'pa-lower-right-premolars')!;
  const withTooth = (...conditions: Condition[]): MouthWish => ({
    ...mouths['QS-1011'],
    conditions: { ...mouths['QS-1011'].conditions, 45: conditions }
  });
  const states = [
    withTooth({ kind: 'decay', at: 'mesial' }),
    withTooth({ kind: 'file', shortMm: 3.2 }),
    withTooth({ kind: 'file', shortMm: 0.8 }),
    withTooth({ kind: 'root filling', shortMm: 0.8 })
  ];
  return {
    pattern: rootFillingPattern(slot),
    anchorAt: slot.id,
    shots: states.map((mouth) => ({ slotId: slot.id, mouth, fault: null }))
  };
};

export const past: readonly PastVisit[] = [
  {
    patient: 'QS-1011',
    room: 'Teeth',
    daysAgo: 0,
    reason: 'Check-up, four bitewings',
    series: bitewingsOf('QS-1011'),
    confirmed: false
  },
  {
    patient: 'QS-1011',
    room: 'Teeth',
    daysAgo: 21,
    reason: 'Root filling, lower right',
    series: rootFilling(),
    confirmed: true
  },
  {
    patient: 'QS-1011',
    room: 'Teeth',
    daysAgo: 58,
    reason: 'Full mouth',
    series: {
      pattern: fullMouth,
      shots: shotsOf(mouths['QS-1011'], fullMouth, [
        { slotId: 'pa-upper-left-canine', fault: 'cut off' },
        { slotId: 'pa-lower-right-molars', fault: 'moved' }
      ])
    },
    confirmed: true
  },
  {
    patient: 'QS-1004',
    room: 'Teeth',
    daysAgo: 411,
    reason: 'Four bitewings',
    series: bitewingsOf('QS-1004'),
    confirmed: true
  }
];

/** The visit whose pictures were sent to a place that lets nobody in. */
export const inVain = past[1];
