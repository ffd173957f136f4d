/**
 * A tooth of a person in FDI notation (ISO 3950): a quadrant, then a place from the midline. Permanent: quadrants 1 to 4
 * with places 1 to 8; deciduous: quadrants 5 to 8 with places 1 to 5.
 */
export type Tooth = number;

export const notations = ['fdi', 'universal', 'palmer'] as const;
export type Notation = (typeof notations)[number];

export const notationNames: Readonly<Record<Notation, string>> = {
  fdi: 'FDI (ISO 3950)',
  universal: 'Universal',
  palmer: 'Palmer'
};

/** The 32 permanent teeth in the order they are drawn: upper right to upper left, then lower right to lower left. */
export const upperArch: readonly Tooth[] = [18, 17, 16, 15, 14, 13, 12, 11, 21, 22, 23, 24, 25, 26, 27, 28];
export const lowerArch: readonly Tooth[] = [48, 47, 46, 45, 44, 43, 42, 41, 31, 32, 33, 34, 35, 36, 37, 38];
export const permanentTeeth: readonly Tooth[] = [...upperArch, ...lowerArch];

/** The 20 deciduous teeth in the same order. */
export const deciduousUpperArch: readonly Tooth[] = [55, 54, 53, 52, 51, 61, 62, 63, 64, 65];
export const deciduousLowerArch: readonly Tooth[] = [85, 84, 83, 82, 81, 71, 72, 73, 74, 75];
export const deciduousTeeth: readonly Tooth[] = [...deciduousUpperArch, ...deciduousLowerArch];

const known = new Set([...permanentTeeth, ...deciduousTeeth]);

export type ToothKind = 'incisor' | 'canine' | 'premolar' | 'molar';

const permanentKinds: readonly ToothKind[] = [
  'incisor',
  'incisor',
  'canine',
  'premolar',
  'premolar',
  'molar',
  'molar',
  'molar'
];
const deciduousKinds: readonly ToothKind[] = ['incisor', 'incisor', 'canine', 'molar', 'molar'];
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
const deciduousNames = ['central incisor', 'lateral incisor', 'canine', 'first molar', 'second molar'];
const quadrantNames = ['upper right', 'upper left', 'lower left', 'lower right'];
/** Palmer's quadrant marks, as the Unicode corners that stand for them. */
const palmerCorners = ['⏌', '⎿', '⎾', '⏋'];

export const isTooth = (value: number): value is Tooth => known.has(value);

interface ToothParts {
  /** 1 to 4: upper right, upper left, lower left, lower right. */
  quadrant: number;
  /** From the midline, 1 to 8 or, of a deciduous one, 1 to 5. */
  place: number;
  deciduous: boolean;
}

/** @throws RangeError when there is no such tooth */
export function toothParts(tooth: Tooth): ToothParts {
  if (!isTooth(tooth)) throw new RangeError(`${tooth} is no tooth in FDI notation (11 to 48, 51 to 85)`);
  const first = Math.floor(tooth / 10);
  return { quadrant: first > 4 ? first - 4 : first, place: tooth % 10, deciduous: first > 4 };
}

export function toothKind(tooth: Tooth): ToothKind {
  const { place, deciduous } = toothParts(tooth);
  return (deciduous ? deciduousKinds : permanentKinds)[place - 1];
}

export const isUpperTooth = (tooth: Tooth): boolean => toothParts(tooth).quadrant <= 2;

/** `toothName(16)` is "upper right first molar", `toothName(54)` is "upper right deciduous first molar". */
export function toothName(tooth: Tooth): string {
  const { quadrant, place, deciduous } = toothParts(tooth);
  const name = deciduous ? `deciduous ${deciduousNames[place - 1]}` : placeNames[place - 1];
  return `${quadrantNames[quadrant - 1]} ${name}`;
}

/**
 * Universal numbering counts clockwise, seen from the front, from the upper right: 1 to 32 for permanent teeth, A to T
 * for deciduous ones. `universal(18)` is "1", `universal(48)` is "32", `universal(55)` is "A", `universal(85)` is "T".
 */
export function universal(tooth: Tooth): string {
  const { quadrant, place, deciduous } = toothParts(tooth);
  const each = deciduous ? 5 : 8;
  const fromMiddle = quadrant === 2 || quadrant === 4;
  const number = (quadrant - 1) * each + (fromMiddle ? place : each + 1 - place);
  return deciduous ? String.fromCharCode(64 + number) : String(number);
}

/** The tooth in a notation: 16, 3 or 6⏌; a deciduous one 54, B or D⏌. */
export function showTooth(tooth: Tooth, notation: Notation): string {
  if (notation === 'universal') return universal(tooth);
  if (notation === 'fdi') return String(tooth);
  const { quadrant, place, deciduous } = toothParts(tooth);
  const corner = palmerCorners[quadrant - 1];
  const mark = deciduous ? String.fromCharCode(64 + place) : String(place);
  return quadrant === 1 || quadrant === 4 ? `${mark}${corner}` : `${corner}${mark}`;
}
