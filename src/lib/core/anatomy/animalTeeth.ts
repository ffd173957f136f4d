/**
 * Teeth of animals in modified Triadan notation (Floyd, 1991): a quadrant (1 upper right, 2 upper left, 3 lower left,
 * 4 lower right; 5 to 8 the same for deciduous teeth), then a place 01 to 11 from the midline. 04 is the canine, 09 the
 * first molar in every species; places that a species has lost are left out, not counted over.
 */
export type AnimalTooth = number;

export const toothedSpecies = ['dog', 'cat', 'horse'] as const;
export type ToothedSpecies = (typeof toothedSpecies)[number];

interface Dentition {
  /** Places that are there, upper and lower, permanent and deciduous. */
  upper: number[];
  lower: number[];
  deciduousUpper: number[];
  deciduousLower: number[];
}

const to = (last: number) => Array.from({ length: last }, (_, i) => i + 1);

const dentitions: Record<ToothedSpecies, Dentition> = {
  dog: {
    upper: to(10),
    lower: to(11),
    deciduousUpper: [1, 2, 3, 4, 6, 7, 8],
    deciduousLower: [1, 2, 3, 4, 6, 7, 8]
  },
  cat: {
    upper: [1, 2, 3, 4, 6, 7, 8, 9],
    lower: [1, 2, 3, 4, 7, 8, 9],
    deciduousUpper: [1, 2, 3, 4, 6, 7, 8],
    deciduousLower: [1, 2, 3, 4, 7, 8]
  },
  horse: {
    upper: to(11),
    lower: [1, 2, 3, 4, 6, 7, 8, 9, 10, 11],
    deciduousUpper: [1, 2, 3, 6, 7, 8],
    deciduousLower: [1, 2, 3, 6, 7, 8]
  }
};

/** The permanent teeth of a species in the order they are drawn: from the right to the left, upper or lower. */
export function animalArch(species: ToothedSpecies, jaw: 'upper' | 'lower'): AnimalTooth[] {
  const places = dentitions[species][jaw];
  const [right, left] = jaw === 'upper' ? [100, 200] : [400, 300];
  return [...[...places].reverse().map((place) => right + place), ...places.map((place) => left + place)];
}

export function isAnimalTooth(species: ToothedSpecies, tooth: number): boolean {
  const quadrant = Math.floor(tooth / 100);
  if (!Number.isInteger(tooth) || quadrant < 1 || quadrant > 8) return false;
  const upper = [1, 2, 5, 6].includes(quadrant);
  const { [upper ? 'upper' : 'lower']: permanent, [upper ? 'deciduousUpper' : 'deciduousLower']: deciduous } =
    dentitions[species];
  return (quadrant > 4 ? deciduous : permanent).includes(tooth % 100);
}

export type AnimalToothKind = 'incisor' | 'canine' | 'premolar' | 'molar';

export function animalToothKind(tooth: AnimalTooth): AnimalToothKind {
  const place = tooth % 100;
  return place <= 3 ? 'incisor' : place === 4 ? 'canine' : place <= 8 ? 'premolar' : 'molar';
}

const quadrantNames = ['upper right', 'upper left', 'lower left', 'lower right'];
const ordinals = ['first', 'second', 'third', 'fourth'];

/** `animalToothName(108)` is "upper right fourth premolar", `animalToothName(504)` "upper right deciduous canine". */
export function animalToothName(tooth: AnimalTooth): string {
  const quadrant = Math.floor(tooth / 100);
  const place = tooth % 100;
  const kind = animalToothKind(tooth);
  const count = { incisor: place, canine: 0, premolar: place - 4, molar: place - 8 }[kind];
  const parts = [
    quadrantNames[(quadrant - 1) % 4],
    quadrant > 4 ? 'deciduous' : '',
    ordinals[count - 1] ?? '',
    kind
  ];
  return parts.filter(Boolean).join(' ');
}
