import type { Trade } from '../tray/pattern';
import { type ToothedSpecies, toothedSpecies } from './animalTeeth';
import { type BodyMap, bodyMaps } from './placeKind';

/** The drawing on which the place with this key stands; null for one that lies on the shelf beside it. */
export function mapOfKey(key: string): BodyMap | null {
  const [kind, second] = key.split(':');
  if (kind === 'tooth') return 'teeth';
  if (kind === 'animal tooth') return `${second as ToothedSpecies} teeth`;
  if (kind === 'eye') return 'eyes';
  if (kind === 'bone' || kind === 'spine' || kind === 'trunk')
    return second === 'animal' ? 'animal bones' : 'bones';
  return null;
}

/** How a species is written, for those whose teeth are numbered. */
const speciesWords: Record<ToothedSpecies, RegExp> = {
  dog: /(dog|dogs|hound|puppy)\b/i,
  cat: /\b(cat|kitten)\b/i,
  horse: /\b(horse|pony|mare|foal|donkey)\b/i
};

/** The drawings on which pictures of a patient are placed in a room of this trade, the usual one first. */
export function mapsOfTrade(
  trade: Trade,
  patient: { kind: 'person' | 'animal'; species: string | null }
): BodyMap[] {
  if (trade === 'eyes') return ['eyes'];
  if (patient.kind === 'person') return trade === 'teeth' ? ['teeth'] : ['bones'];
  const species = toothedSpecies.find((each) => speciesWords[each].test(patient.species ?? ''));
  const teeth: BodyMap[] = species ? [`${species} teeth`] : [];
  const bones: BodyMap = species ? `${species} bones` : 'animal bones';
  return trade === 'teeth' ? [...teeth, bones] : [bones, ...teeth];
}

/** Drawings on which any animal's bones stand; which of them is shown says its species. */
const ofAnimalBones: readonly BodyMap[] = ['dog bones', 'cat bones', 'horse bones'];

/** The drawing that stands for another on which the same places are: an animal's bones as its species has them. */
export function ownMap(map: BodyMap, usual: readonly BodyMap[]): BodyMap {
  if (map !== 'animal bones') return map;
  return usual.find((each) => ofAnimalBones.includes(each)) ?? map;
}

/** The drawings that say where a patient's pictures are, the one that says most first, then the usual ones. */
export function mapsInUse(counts: Record<string, number>, usual: readonly BodyMap[]): BodyMap[] {
  const weight = new Map<BodyMap, number>(usual.map((map) => [map, 0]));
  for (const [key, count] of Object.entries(counts)) {
    const of = mapOfKey(key);
    const map = of && ownMap(of, usual);
    if (map) weight.set(map, (weight.get(map) ?? 0) + count);
  }
  const rank = (map: BodyMap) => (usual.includes(map) ? usual.indexOf(map) : usual.length);
  return bodyMaps
    .filter((map) => weight.has(map))
    .sort((a, b) => weight.get(b)! - weight.get(a)! || rank(a) - rank(b));
}
