import { toothedSpecies } from '../anatomy/animalTeeth';
import { mapsOfTrade } from '../anatomy/maps';
import type { Trade } from './pattern';

/** Words that tell nothing of what is to be taken. */
const empty = new Set(['of', 'the', 'and', 'in', 'on', 'a', 'an', 'views', 'view', 'standing', 'usual']);
/** What people write for the same thing. */
const alike: Record<string, string> = {
  bw: 'bitewing',
  bws: 'bitewing',
  feet: 'foot',
  opg: 'panoramic',
  photo: 'photograph',
  shin: 'tibia',
  back: 'spine',
  fmx: 'mouth'
};
const numbers = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

/** Words as they are compared: small, in the singular, figures in letters. */
function wordsOf(text: string): string[] {
  return text
    .toLowerCase()
    .split(/[^\p{L}\d]+/u)
    .filter((word) => word !== '' && !empty.has(word))
    .map((word) => (/^\d$|^10$/.test(word) ? numbers[Number(word)] : word))
    .map((word) => alike[word] ?? word)
    .map((word) => (/[^su]s$/.test(word) && word.length > 3 ? word.slice(0, -1) : word));
}

const sides = new Set(['right', 'left']);
/** Species that a pattern's name begins with. */
const speciesWords: readonly string[] = toothedSpecies;

export interface Asked {
  /** Why the patient comes, in somebody's words. */
  reason: string;
  trade: Trade;
  patient: { kind: 'person' | 'animal'; species: string | null };
}

/** `fitting`: everything the pattern names was asked for; `near`: some of it was; `other`; `foreign`: for another species. */
export type Likelihood = 'fitting' | 'near' | 'other' | 'foreign';

/**
 * How likely a pattern is what a visit wants, by its name and the words of the reason. "Left wrist, after a fall" fits
 * "Left wrist", is near "Left hand" no more than "Right wrist": a side alone says nothing, another side rules out.
 */
export function likelihoodOf(patternName: string, { reason, patient }: Asked): Likelihood {
  const named = wordsOf(patternName);
  const species = named.find((word) => speciesWords.includes(word));
  const own = toothedSpecies.find((each) => mapsOfTrade('animals', patient).includes(`${each} teeth`));
  if (species && patient.kind === 'animal' && own && own !== species) return 'foreign';
  const asked = new Set([...wordsOf(reason), ...(own ? [own] : [])]);
  const wanted = named.filter((word) => word !== species);
  if (wanted.length > 0 && wanted.every((word) => asked.has(word))) return 'fitting';
  const otherSide = wanted.some((word) => sides.has(word) && !asked.has(word));
  const anySide = [...asked].some((word) => sides.has(word));
  if (otherSide && anySide) return 'other';
  return wanted.some((word) => !sides.has(word) && asked.has(word)) ? 'near' : 'other';
}

/** The one pattern that a reason names without doubt: it fits, and none that fits names more. */
export function namedByReason<T extends { name: string }>(patterns: readonly T[], asked: Asked): T | null {
  const fitting = patterns
    .filter((each) => likelihoodOf(each.name, asked) === 'fitting')
    .sort((a, b) => wordsOf(b.name).length - wordsOf(a.name).length);
  const [first, second] = fitting;
  if (!first) return null;
  return second && wordsOf(second.name).length === wordsOf(first.name).length ? null : first;
}
