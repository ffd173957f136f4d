import { type Place, placeKey, placeSchema, placeWords } from './place';
import type { Notation } from './teeth';

/** A place from its stored key; null for a key that names none. */
export function placeOfKey(key: string): Place | null {
  const [kind, first, second, third] = key.split(':');
  const read = placeSchema.safeParse(wanted(kind, first, second, third));
  return read.success && placeKey(read.data) === key ? read.data : null;
}

/** A place in words, by its stored key; a key that names none as it stands. */
export function placeKeyWords(key: string, notation: Notation): string {
  const place = placeOfKey(key);
  return place ? placeWords(place, notation) : key;
}

function wanted(kind: string, first = '', second = '', third = ''): unknown {
  switch (kind) {
    case 'tooth':
      return { kind, tooth: Number(first) };
    case 'animal tooth':
      return { kind, species: first, tooth: Number(second) };
    case 'bone':
      return { kind, whose: first, region: second, side: third === 'middle' ? null : third };
    case 'spine':
    case 'trunk':
      return { kind, whose: first, region: second };
    case 'eye':
      return { kind, side: first, gaze: second || null };
    default:
      return { kind, view: first };
  }
}
