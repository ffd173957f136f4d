import type { ToothedSpecies } from '../../anatomy/animalTeeth';
import { animalToothKind } from '../../anatomy/animalTeeth';
import type { Slot } from '../slot';
import { archRow } from './oral';
import { type ShippedPattern, idsOf, shippedPattern } from './shippedPattern';

type Named = [id: string, name: string, teeth: number[]];

const onTheRight = (tooth: number) => [1, 4].includes(Math.floor(tooth / 100));
const isUpper = (tooth: number) => [1, 2].includes(Math.floor(tooth / 100));

/** A view of an animal's teeth. Incisors and canines stand, cheek teeth lie, as in people. */
export function animalTeethView(
  species: ToothedSpecies,
  [id, name, teeth]: Named,
  at: { x: number; y: number }
): Slot {
  const front = teeth.every((tooth) => ['incisor', 'canine'].includes(animalToothKind(tooth)));
  const right = teeth.every(onTheRight);
  const both = !right && teeth.some(onTheRight);
  return {
    id,
    name,
    places: teeth.map((tooth) => ({ kind: 'animal tooth', species, tooth })),
    projection: 'periapical',
    orientation: front
      ? { quarterTurns: isUpper(teeth[0]) ? 0 : 2, mirrored: false }
      : { quarterTurns: right ? 1 : 3, mirrored: false },
    directions: [both ? 'L' : right ? 'A' : 'P', 'F'],
    at,
    shape: front ? 'standing' : 'lying'
  };
}

/** Views of one quadrant from the back to the canine, by what lies in it. */
type Quadrant = (of: number, word: string) => Named[];

const dogUpper: Quadrant = (of, word) => [
  [`${of}-molars`, `${word} molars`, [of + 10, of + 9, of + 8]],
  [`${of}-premolars`, `${word} premolars`, [of + 7, of + 6, of + 5]],
  [`${of}-canine`, `${word} canine`, [of + 4]]
];
const dogLower: Quadrant = (of, word) => [
  [`${of}-molars`, `${word} molars`, [of + 11, of + 10, of + 9]],
  [`${of}-premolars`, `${word} premolars`, [of + 8, of + 7, of + 6, of + 5]],
  [`${of}-canine`, `${word} canine`, [of + 4]]
];
const catUpper: Quadrant = (of, word) => [
  [`${of}-cheek`, `${word} cheek teeth`, [of + 9, of + 8, of + 7, of + 6]],
  [`${of}-canine`, `${word} canine`, [of + 4]]
];
const catLower: Quadrant = (of, word) => [
  [`${of}-cheek`, `${word} cheek teeth`, [of + 9, of + 8, of + 7]],
  [`${of}-canine`, `${word} canine`, [of + 4]]
];

function jawRow(species: ToothedSpecies, quadrant: Quadrant, upper: boolean): Slot[] {
  const [right, left, word] = upper ? [100, 200, 'Upper'] : [400, 300, 'Lower'];
  const incisors = [right + 3, right + 2, right + 1, left + 1, left + 2, left + 3];
  const views: Named[] = [
    ...quadrant(right, `${word} right`),
    [`${right}-incisors`, `${word} incisors`, incisors],
    ...quadrant(left, `${word} left`).reverse()
  ];
  return archRow(views, upper ? 0 : 1, (each, at) => animalTeethView(species, each, at));
}

function mouthOf(
  id: number,
  species: 'dog' | 'cat',
  [upper, lower]: readonly [Quadrant, Quadrant]
): ShippedPattern[] {
  const word = species === 'dog' ? 'Dog' : 'Cat';
  const above = jawRow(species, upper, true);
  const below = jawRow(species, lower, false);
  const whole = shippedPattern(
    idsOf(id),
    `${word}, full mouth`,
    'animals',
    [...above, ...below],
    [...above, ...[...below].reverse()].map((slot) => slot.id)
  );
  const quadrants = [
    [100, 'upper right', upper],
    [200, 'upper left', upper],
    [300, 'lower left', lower],
    [400, 'lower right', lower]
  ] as const;
  return [
    whole,
    ...quadrants.map(([of, where, quadrant], i) => {
      const views = quadrant(of, where[0].toUpperCase() + where.slice(1));
      const inOrder = of === 100 || of === 400 ? views : views.reverse();
      return shippedPattern(
        idsOf(id + 1 + i),
        `${word}, ${where} teeth`,
        'animals',
        archRow(inOrder, 0.5, (each, at) => animalTeethView(species, each, { ...at, x: 0.2 + 0.6 * at.x }))
      );
    })
  ];
}

export const animalMouths: readonly ShippedPattern[] = [
  ...mouthOf(0x510, 'dog', [dogUpper, dogLower]),
  ...mouthOf(0x520, 'cat', [catUpper, catLower])
];
