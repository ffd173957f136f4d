import type { Place } from '../../anatomy/place';
import type { BoneRegion } from '../../anatomy/places/bone';
import type { Projection } from '../../anatomy/projections';
import type { Trade } from '../pattern';
import type { Slot, SlotShape } from '../slot';
import { type ShippedPattern, idsOf, shippedPattern } from './shippedPattern';

export interface BodyView {
  id: string;
  /** As it stands after the name of the place: "from the side". */
  words: string;
  projection: Projection;
  shape?: SlotShape;
  /** DICOM directions of right and down; of a right-hand place, and mirrored for a left-hand one. */
  directions?: [string, string];
}

/** Views of one place in a row, in the order they are taken. */
export function rowOfViews(name: string, place: Place, views: readonly BodyView[]): Slot[] {
  const left = 'side' in place && place.side === 'left';
  return views.map(({ id, words, projection, shape = 'standing', directions = ['L', 'F'] }, i) => ({
    id,
    name: `${name}, ${words}`,
    places: [place],
    projection,
    orientation: { quarterTurns: 0, mirrored: false },
    directions: [left ? mirroredDirection(directions[0]) : directions[0], directions[1]],
    at: { x: (i + 0.5) / views.length, y: 0.5 },
    shape
  }));
}

const opposite: Record<string, string> = { L: 'R', R: 'L', A: 'P', P: 'A' };
const mirroredDirection = (direction: string): string => opposite[direction] ?? direction;

export const front: BodyView = { id: 'front', words: 'from the front', projection: 'front to back' };
/** From the outer side, the front to the left on a right-hand limb. */
export const aside: BodyView = {
  id: 'side',
  words: 'from the side',
  projection: 'from the side',
  directions: ['P', 'F']
};
const oblique: BodyView = { id: 'oblique', words: 'oblique', projection: 'oblique' };
const axial: BodyView = { id: 'axial', words: 'axial', projection: 'axial', shape: 'square' };
const back: BodyView = {
  id: 'front',
  words: 'from the front',
  projection: 'back to front',
  directions: ['R', 'F']
};

/** Paired places of people, each a pattern for the right and one for the left. The wrist has a file of its own. */
const paired: readonly [number, BoneRegion, readonly BodyView[]][] = [
  [0x610, 'hand', [back, { ...oblique, directions: ['R', 'F'] }, aside]],
  [0x612, 'forearm', [front, aside]],
  [0x614, 'elbow', [front, aside]],
  [0x616, 'shoulder', [{ ...front, shape: 'square' }, axial]],
  [0x618, 'hip', [front, axial]],
  [0x61a, 'femur', [front, aside]],
  [0x61c, 'knee', [front, aside, axial]],
  [0x61e, 'lower leg', [front, aside]],
  [0x620, 'ankle', [front, oblique, aside]],
  [0x622, 'foot', [front, oblique, { ...aside, shape: 'lying' }]]
];

export const sideWord = { right: 'Right', left: 'Left' } as const;

/** A pattern a side. */
export function bySide(
  id: number,
  trade: Trade,
  name: string,
  slots: (side: 'right' | 'left', name: string) => Slot[]
): ShippedPattern[] {
  return (['right', 'left'] as const).map((side, i) => {
    const full = `${sideWord[side]} ${name}`;
    return shippedPattern(idsOf(id + i), full, trade, slots(side, full));
  });
}

const person = 'person' as const;

const limbs = paired.flatMap(([id, region, views]) =>
  bySide(id, 'bones', region === 'lower leg' ? 'tibia and fibula' : region, (side, name) =>
    rowOfViews(name, { kind: 'bone', region, side, whose: person }, views)
  )
);

const pelvis = shippedPattern(
  idsOf(0x630),
  'Pelvis',
  'bones',
  rowOfViews('Pelvis', { kind: 'bone', region: 'pelvis', side: null, whose: person }, [
    { ...front, shape: 'lying' }
  ])
);

const tall = (view: BodyView): BodyView => ({ ...view, shape: 'tall' });
const spines = (
  [
    [0x632, 'Neck', 'neck', [front, aside]],
    [0x633, 'Lumbar spine', 'loin', [front, aside]],
    [0x634, 'Whole spine', 'whole', [tall(front), tall(aside)]]
  ] as const
).map(([id, name, region, views]) =>
  shippedPattern(idsOf(id), name, 'bones', rowOfViews(name, { kind: 'spine', region, whose: person }, views))
);

const longLegs = shippedPattern(
  idsOf(0x636),
  'Long legs, standing',
  'bones',
  [
    ...rowOfViews('Both legs', { kind: 'bone', region: 'whole leg', side: 'both', whose: person }, [
      tall(front)
    ]),
    ...(['right', 'left'] as const).flatMap((side) =>
      rowOfViews(`${sideWord[side]} leg`, { kind: 'bone', region: 'whole leg', side, whose: person }, [
        { ...tall(aside), id: side }
      ])
    )
  ].map((slot, i) => ({ ...slot, at: { x: (i + 0.5) / 3, y: 0.5 } }))
);

/** Bones and joints of people in their usual views. */
export const bonePatterns: readonly ShippedPattern[] = [...limbs, pelvis, ...spines, longLegs];
