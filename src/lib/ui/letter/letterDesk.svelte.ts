import type { Notation } from '$core/anatomy/teeth';
import { placeKeyWords } from '$core/anatomy/placeOfKey';
import {
  type LetterBlock,
  type LetterBody,
  type LetterInline,
  placesOfLetter
} from '$core/letter/letterBody';
import { fieldWords, isLetterField } from '$core/letter/letterFields';
import type { PicturePlace } from '$core/letter/letterPlace';
import type { LetterFilling } from '$core/letter/letterView';

/** What an editor's sheet and what lies beside it know of one another. */
export class LetterDesk {
  body = $state.raw<LetterBody>({ type: 'doc', content: [] });
  /** What fills it now; null for a template, whose fields and places say what they will hold. */
  filling = $state.raw<LetterFilling | null>(null);
  /** The place that is worked on, by its id. */
  selected = $state<string | null>(null);
  /** Gives a place other properties, or takes it out; known once the sheet is there. */
  changePlace: (id: string, change: Partial<PicturePlace> | null) => void = () => {};
  /** Puts a part where somebody last was: in the words, or after the row of a place; else at the end. */
  put: (part: LetterBlock | LetterInline) => void = () => {};
  /** All places of the row in which one lies. */
  rowOf: (id: string) => readonly PicturePlace[] = () => [];
  changeRow: (id: string, places: readonly PicturePlace[]) => void = () => {};

  readonly places = $derived(placesOfLetter(this.body));
  readonly place = $derived(this.places.find(({ id }) => id === this.selected) ?? null);

  constructor(
    body: LetterBody,
    readonly notation: () => Notation,
    readonly mayWrite: boolean
  ) {
    this.body = body;
  }

  numberOf = (id: string): number => this.places.findIndex((each) => each.id === id) + 1;

  /** A place in the body, by its key. */
  placeWords = (key: string): string => placeKeyWords(key, this.notation());

  /** What stands where a field is: its value where it is known, else what it will be. */
  fieldSays(name: string): { words: string; state: 'value' | 'empty' | 'name' | 'unknown' | 'kept back' } {
    if (!isLetterField(name)) return { words: name, state: 'unknown' };
    if (!this.filling) return { words: fieldWords[name], state: 'name' };
    if (this.filling.missing.some(({ kind, of }) => kind === 'kept back' && of === name))
      return { words: fieldWords[name], state: 'kept back' };
    const value = this.filling.fields[name];
    return value.trim() === ''
      ? { words: fieldWords[name], state: 'empty' }
      : { words: value, state: 'value' };
  }
}
