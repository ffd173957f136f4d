import type { PaperNames } from '../report/paperHead';
import { type LetterBody, fieldsOfLetter, partsOf, placesOfLetter } from './letterBody';
import { type LetterField, fieldWords, isKeptBack, isLetterField } from './letterFields';
import { type PlaceWant, noneWords } from './letterPlace';

/** The picture that a place took. */
export interface PlaceFilled {
  pictureId: string;
  /** When it was taken, ISO 8601. */
  takenAt: string;
}

/** Something that is told before a letter is made. */
export interface Missing {
  kind: 'field' | 'unknown field' | 'kept back' | 'place' | 'gone' | 'old' | 'block';
  /** The field's name, or the place's id. */
  of: string;
  words: string;
}

interface Filled {
  fields: Readonly<Record<LetterField, string>>;
  /** By place; null where nothing fits. */
  places: Readonly<Record<string, PlaceFilled | null>>;
  /** How many readings its table would have. */
  readings: number;
  names: PaperNames;
  now: Date;
  placeWords: (key: string) => string;
}

const ofReceiver: readonly string[] = ['to', 'greeting', 'address'];
const monthMs = (365.25 / 12) * 86_400_000;

/** All that a letter asks for and does not get, and pictures that are older than they may be; in the letter's order. */
export function letterMissing(body: LetterBody, filled: Filled): Missing[] {
  const named = fieldsOfLetter(body);
  // Where nobody is named, what hangs on that is told once.
  const toNobody =
    filled.fields.to.trim() === '' ? named.find((name) => ofReceiver.includes(name)) : undefined;
  const fields = named.flatMap((name): Missing[] => {
    if (toNobody && ofReceiver.includes(name))
      return name === toNobody
        ? [{ kind: 'field', of: 'to', words: 'Nobody is named whom it goes to.' }]
        : [];
    if (!isLetterField(name))
      return [{ kind: 'unknown field', of: name, words: `There is no field “${name}” any more.` }];
    if (isKeptBack(name, filled.names))
      return [
        { kind: 'kept back', of: name, words: `${fieldWords[name]}: kept back, the letter is by initials.` }
      ];
    return filled.fields[name].trim() === ''
      ? [{ kind: 'field', of: name, words: `${fieldWords[name]}: there is nothing to put in.` }]
      : [];
  });
  const places = placesOfLetter(body).flatMap((place, i): Missing[] => {
    const taken = filled.places[place.id] ?? null;
    const called = `Picture ${i + 1}`;
    if (!taken) return [nothingFor(place.id, called, place.want, filled.placeWords)];
    const months = (filled.now.getTime() - Date.parse(taken.takenAt)) / monthMs;
    if (place.atMostMonths === null || months <= place.atMostMonths) return [];
    const old = Math.floor(months);
    return [
      {
        kind: 'old',
        of: place.id,
        words: `${called} is ${old} ${old === 1 ? 'month' : 'months'} old; at most ${place.atMostMonths} are wanted.`
      }
    ];
  });
  const wantsReadings = [...partsOf(body)].some(({ type }) => type === 'readings');
  return [
    ...fields,
    ...places,
    ...(wantsReadings && filled.readings === 0
      ? [
          {
            kind: 'block' as const,
            of: 'readings',
            words: 'The table of readings is empty: nothing was measured.'
          }
        ]
      : [])
  ];
}

function nothingFor(
  id: string,
  called: string,
  want: PlaceWant,
  placeWords: (key: string) => string
): Missing {
  if (want.kind === 'picked' && want.pictureId)
    return { kind: 'gone', of: id, words: `${called}: its picture is not in this chart any more.` };
  return { kind: 'place', of: id, words: `${called} is empty: ${noneWords(want, placeWords)}.` };
}
