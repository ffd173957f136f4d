/** A permanent tooth in FDI notation (ISO 3950): quadrant 1 to 4, then place 1 to 8 from the midline. */
export type Tooth = number;

export const notations = ['fdi', 'universal', 'palmer'] as const;
export type Notation = (typeof notations)[number];

/** The 32 permanent teeth in the order they are drawn: upper right to upper left, then lower right to lower left. */
export const upperArch: readonly Tooth[] = [18, 17, 16, 15, 14, 13, 12, 11, 21, 22, 23, 24, 25, 26, 27, 28];
export const lowerArch: readonly Tooth[] = [48, 47, 46, 45, 44, 43, 42, 41, 31, 32, 33, 34, 35, 36, 37, 38];
export const permanentTeeth: readonly Tooth[] = [...upperArch, ...lowerArch];

export type ToothKind = 'incisor' | 'canine' | 'premolar' | 'molar';

const kinds: ToothKind[] = [
  'incisor',
  'incisor',
  'canine',
  'premolar',
  'premolar',
  'molar',
  'molar',
  'molar'
];
const placeNames = [
  'central incisor',
  'lateral incisor',
  'canine',
  'first premolar',
  'second premolar',
  'first molar',
  'second molar',
  'third molar'
];
const quadrantNames = ['upper right', 'upper left', 'lower left', 'lower right'];
/** Palmer's quadrant marks, as the Unicode corners that stand for them. */
const palmerCorners = ['⏌', '⎿', '⎾', '⏋'];

export function isTooth(value: number): value is Tooth {
  return permanentTeeth.includes(value);
}

function parts(tooth: Tooth): { quadrant: number; place: number } {
  if (!isTooth(tooth)) throw new RangeError(`${tooth} is no permanent tooth in FDI notation (11 to 48)`);
  return { quadrant: Math.floor(tooth / 10), place: tooth % 10 };
}

export function toothKind(tooth: Tooth): ToothKind {
  return kinds[parts(tooth).place - 1];
}

/** `toothName(16)` is "upper right first molar". */
export function toothName(tooth: Tooth): string {
  const { quadrant, place } = parts(tooth);
  return `${quadrantNames[quadrant - 1]} ${placeNames[place - 1]}`;
}

/**
 * Universal numbering counts 1 to 32 clockwise, seen from the front, from the upper right third molar.
 * `universalNumber(18)` is 1, `universalNumber(48)` is 32.
 */
export function universalNumber(tooth: Tooth): number {
  const { quadrant, place } = parts(tooth);
  if (quadrant === 1) return 9 - place;
  if (quadrant === 2) return 8 + place;
  if (quadrant === 3) return 25 - place;
  return 24 + place;
}

/** The tooth in the clinic's notation: 16, 3 or 6⏌. */
export function showTooth(tooth: Tooth, notation: Notation): string {
  if (notation === 'universal') return String(universalNumber(tooth));
  const { quadrant, place } = parts(tooth);
  if (notation === 'fdi') return String(tooth);
  const corner = palmerCorners[quadrant - 1];
  return quadrant === 1 || quadrant === 4 ? `${place}${corner}` : `${corner}${place}`;
}

export function showTeeth(teeth: readonly Tooth[], notation: Notation): string {
  return teeth.map((tooth) => showTooth(tooth, notation)).join(' ');
}
