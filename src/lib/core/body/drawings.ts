import { placeKey } from '../anatomy/place';
import type { BodyMap } from '../anatomy/placeKind';
import { animalTeeth, milkTeeth, mixedTeeth, personsTeeth } from './arches';
import type { BodyDrawing } from './drawing';
import { animalsBones, bothEyes, handsAndFeet, personsBones } from './figures';

/** One sheet of a map: a mouth has three, a person's bones two, everything else one. */
export interface Sheet {
  id: string;
  words: string;
  drawing: BodyDrawing;
}

const sheets: Record<BodyMap, () => Sheet[]> = {
  teeth: () => [
    { id: 'teeth', words: 'Teeth', drawing: personsTeeth() },
    { id: 'mixed teeth', words: 'Mixed', drawing: mixedTeeth() },
    { id: 'milk teeth', words: 'Milk teeth', drawing: milkTeeth() }
  ],
  'dog teeth': () => [{ id: 'dog teeth', words: 'Teeth', drawing: animalTeeth('dog') }],
  'cat teeth': () => [{ id: 'cat teeth', words: 'Teeth', drawing: animalTeeth('cat') }],
  'horse teeth': () => [{ id: 'horse teeth', words: 'Teeth', drawing: animalTeeth('horse') }],
  bones: () => [
    { id: 'bones', words: 'Bones', drawing: personsBones() },
    { id: 'hands and feet', words: 'Hands and feet', drawing: handsAndFeet() }
  ],
  'animal bones': () => [{ id: 'animal bones', words: 'Bones', drawing: animalsBones() }],
  'dog bones': () => [{ id: 'dog bones', words: 'Bones', drawing: animalsBones('dog') }],
  'cat bones': () => [{ id: 'cat bones', words: 'Bones', drawing: animalsBones('cat') }],
  'horse bones': () => [{ id: 'horse bones', words: 'Bones', drawing: animalsBones('horse') }],
  eyes: () => [{ id: 'eyes', words: 'Eyes', drawing: bothEyes() }]
};

/** Sheets of a mouth that grows: shown to children, and where there are pictures of milk teeth. */
export const growingSheets: readonly string[] = ['mixed teeth', 'milk teeth'];

export const sheetsOf = (maps: readonly BodyMap[]): Sheet[] => maps.flatMap((map) => sheets[map]());

/** The sheet on whose places most pictures are; of equals the first. */
export function fullest(sheets: readonly Sheet[], counts: Readonly<Record<string, number>>): Sheet {
  const on = ({ drawing }: Sheet) =>
    drawing.spots.reduce((sum, { place }) => sum + (counts[placeKey(place)] ?? 0), 0);
  return sheets.reduce((best, each) => (on(each) > on(best) ? each : best));
}

/** The crown from above: round for front teeth, with more corners further back. */
export function crownPath(width: number, depth: number): string {
  const w = width / 2;
  const d = depth / 2;
  const k = 0.62;
  return `M0 ${-d} C${w * k} ${-d} ${w} ${-d * k} ${w} 0 S${w * k} ${d} 0 ${d} S${-w} ${d * k} ${-w} 0 S${-w * k} ${-d} 0 ${-d}Z`;
}
