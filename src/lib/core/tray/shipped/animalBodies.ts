import type { Place } from '../../anatomy/place';
import type { BoneRegion } from '../../anatomy/places/bone';
import type { Slot } from '../slot';
import { type BodyView, aside, bySide, front, rowOfViews, sideWord } from './bones';
import { type ShippedPattern, idsOf, shippedPattern } from './shippedPattern';

const joint = (region: BoneRegion, side: 'right' | 'left' | 'both'): Place => ({
  kind: 'bone',
  region,
  side,
  whose: 'animal'
});

const inRow = (slots: readonly Slot[]): Slot[] =>
  slots.map((slot, i) => ({ ...slot, at: { x: (i + 0.5) / slots.length, y: 0.5 } }));

/** Lying on the back, the beam from the belly. */
const fromBelly = (words: string, id: string): BodyView => ({ id, words, projection: 'belly to back' });

const hips = shippedPattern(
  idsOf(0x710),
  'Dog, hips',
  'animals',
  rowOfViews('Hips', joint('hip', 'both'), [
    fromBelly('legs stretched', 'stretched'),
    { ...fromBelly('legs bent', 'bent'), shape: 'square' }
  ])
);

const elbows = shippedPattern(
  idsOf(0x711),
  'Dog, elbows',
  'animals',
  inRow(
    (['right', 'left'] as const).flatMap((side) =>
      rowOfViews(`${sideWord[side]} elbow`, joint('elbow', side), [
        { ...front, id: `${side}-front` },
        { ...aside, id: `${side}-side`, words: 'from the side, bent' }
      ])
    )
  )
);

const stifles = bySide(0x712, 'animals', 'stifle', (side, name) =>
  rowOfViews(name, joint('stifle', side), [aside, front])
);

/** Both sides and the back: what lies on one side of the chest can hide on the other. */
const chest = shippedPattern(
  idsOf(0x714),
  'Dog, chest',
  'animals',
  rowOfViews('Chest', { kind: 'trunk', region: 'chest', whose: 'animal' }, [
    { ...aside, id: 'right-down', words: 'right side down', shape: 'lying', directions: ['P', 'F'] },
    { ...aside, id: 'left-down', words: 'left side down', shape: 'lying', directions: ['P', 'F'] },
    fromBelly('from the belly', 'belly')
  ])
);

/** The four directions in which a horse's lower limb is always looked at. */
const fourViews = (last: BodyView): readonly BodyView[] => [
  aside,
  front,
  { id: 'outer', words: 'oblique from the outside', projection: 'oblique' },
  last
];
const fetlockViews = fourViews({ id: 'inner', words: 'oblique from the inside', projection: 'oblique' });
const footViews = fourViews({ id: 'upright', words: 'on its toe', projection: 'axial' });

const limbs = (
  [
    [0x720, 'fore fetlock', fetlockViews],
    [0x722, 'hind fetlock', fetlockViews],
    [0x724, 'fore foot', footViews],
    [0x726, 'hind foot', footViews]
  ] as const
).flatMap(([id, region, views]) =>
  bySide(id, 'animals', region, (side, name) => rowOfViews(name, joint(region, side), views)).map(
    ({ pattern, route }): ShippedPattern => ({
      pattern: { ...pattern, name: `Horse, ${pattern.name[0].toLowerCase()}${pattern.name.slice(1)}` },
      route
    })
  )
);

/** Bones, joints and chests of animals in their usual views. */
export const animalBodies: readonly ShippedPattern[] = [hips, elbows, ...stifles, chest, ...limbs];
