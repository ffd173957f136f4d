import { z } from 'zod';
import type { BodyMap, PlaceCodes, PlaceKind } from './placeKind';
import { animalToothPlaceKind } from './places/animalTooth';
import { bonePlaceKind } from './places/bone';
import { eyePlaceKind } from './places/eye';
import { photographPlaceKind } from './places/photograph';
import { spinePlaceKind } from './places/spine';
import { toothPlaceKind } from './places/tooth';
import { trunkPlaceKind } from './places/trunk';
import { wideViewPlaceKind } from './places/wideView';
import { type Side, commonSide } from './side';
import type { Notation, Tooth } from './teeth';

/** Every kind of place in the body, for all trades. A new kind is a file in `places/` and a line here. */
const kinds = [
  toothPlaceKind,
  animalToothPlaceKind,
  bonePlaceKind,
  spinePlaceKind,
  trunkPlaceKind,
  eyePlaceKind,
  photographPlaceKind,
  wideViewPlaceKind
] as const;

export type Place = (typeof kinds)[number] extends PlaceKind<infer P> ? P : never;

const byName = new Map<string, PlaceKind<Place>>(
  kinds.map((kind): [string, PlaceKind<Place>] => [kind.kind, kind as unknown as PlaceKind<Place>])
);
const kindOf = (place: Place): PlaceKind<Place> => byName.get(place.kind)!;

export const placeSchema = z.union(kinds.map((kind) => kind.schema)) as unknown as z.ZodType<Place>;

export const placeWords = (place: Place, notation: Notation): string => kindOf(place).words(place, notation);
export const placeKey = (place: Place): string => kindOf(place).key(place);
export const placeCodes = (place: Place): PlaceCodes => kindOf(place).codes(place);
export const placeMap = (place: Place): BodyMap | null => kindOf(place).map(place);
export const samePlace = (a: Place, b: Place): boolean => placeKey(a) === placeKey(b);

/** "16 17 46", "right wrist": places in the shortest words that still tell them apart. */
export function showPlaces(places: readonly Place[], notation: Notation): string {
  const teeth = places.every((place) => place.kind === 'tooth' || place.kind === 'animal tooth');
  return places.map((place) => kindOf(place).short(place, notation)).join(teeth ? ' ' : ', ');
}

/** "teeth 16 17", "right wrist", "": as it stands after a slot's name. */
export function placesInWords(places: readonly Place[], notation: Notation): string {
  if (places.length === 0) return '';
  if (places.some((place) => place.kind === 'tooth' || place.kind === 'animal tooth'))
    return `${places.length === 1 ? 'tooth' : 'teeth'} ${showPlaces(places, notation)}`;
  return places.map((place) => placeWords(place, notation)).join(', ');
}

export const sideOf = (places: readonly Place[]): Side | null =>
  commonSide(places.map((place) => kindOf(place).side(place)));

/** The permanent and deciduous teeth of people among places. */
export const teethOf = (places: readonly Place[]): Tooth[] =>
  places.flatMap((place) => (place.kind === 'tooth' ? [place.tooth] : []));

export const toothPlaces = (teeth: readonly Tooth[]): Place[] =>
  teeth.map((tooth) => ({ kind: 'tooth', tooth }));
