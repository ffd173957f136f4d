import type { BodyMap } from '$core/anatomy/placeKind';
import { animalTeeth, milkTeeth, personsTeeth } from './arches';
import type { BodyDrawing } from './drawing';
import { animalsBones, bothEyes, personsBones } from './figures';

/** One sheet of a map: a child's mouth has two, everything else one. */
export interface Sheet {
  id: string;
  words: string;
  drawing: BodyDrawing;
}

const sheets: Record<BodyMap, () => Sheet[]> = {
  teeth: () => [
    { id: 'teeth', words: 'Teeth', drawing: personsTeeth() },
    { id: 'milk teeth', words: 'Milk teeth', drawing: milkTeeth() }
  ],
  'dog teeth': () => [{ id: 'dog teeth', words: 'Teeth', drawing: animalTeeth('dog') }],
  'cat teeth': () => [{ id: 'cat teeth', words: 'Teeth', drawing: animalTeeth('cat') }],
  'horse teeth': () => [{ id: 'horse teeth', words: 'Teeth', drawing: animalTeeth('horse') }],
  bones: () => [{ id: 'bones', words: 'Bones', drawing: personsBones() }],
  'animal bones': () => [{ id: 'animal bones', words: 'Bones', drawing: animalsBones() }],
  eyes: () => [{ id: 'eyes', words: 'Eyes', drawing: bothEyes() }]
};

export const sheetsOf = (maps: readonly BodyMap[]): Sheet[] => maps.flatMap((map) => sheets[map]());

/** The crown from above: round for front teeth, with more corners further back. */
export function crownPath(width: number, depth: number): string {
  const w = width / 2;
  const d = depth / 2;
  const k = 0.62;
  return `M0 ${-d} C${w * k} ${-d} ${w} ${-d * k} ${w} 0 S${w * k} ${d} 0 ${d} S${-w} ${d * k} ${-w} 0 S${-w * k} ${-d} 0 ${-d}Z`;
}
