import { z } from 'zod';
import { type PaperNames, paperNames } from '../report/paperHead';
import { type LetterBody, letterBodySchema } from './letterBody';
import type { LetterField } from './letterFields';
import type { Missing, PlaceFilled } from './letterMissing';

/** What of the visit a letter is about, in the words that stand in it. */
const picked = z.array(z.string().trim().min(1).max(300)).max(60);
const said = {
  names: z.enum(paperNames),
  colleagueId: z.uuid().nullable(),
  reasons: picked,
  procedures: picked
};

/** Of what a letter is begun: of a template of the clinic, or of one that ships. */
export const beginLetterWish = z.strictObject({
  template: z.union([
    z.strictObject({ templateId: z.uuid() }),
    z.strictObject({ shipped: z.string().max(60) })
  ]),
  ...said
});
export type BeginLetterWish = z.infer<typeof beginLetterWish>;

export const letterTitle = z
  .string()
  .trim()
  .min(1, 'Give it a name.')
  .max(120, 'A name has at most 120 letters.');

export const changeLetterWish = z.strictObject({
  /** Which change of it this was made of. */
  of: z.number().int().positive(),
  title: letterTitle,
  body: letterBodySchema,
  ...said
});
export type ChangeLetterWish = z.infer<typeof changeLetterWish>;

export interface LetterSaid {
  names: PaperNames;
  colleagueId: string | null;
  reasons: string[];
  procedures: string[];
}

/** A letter as its page has it. */
export interface Letter extends LetterSaid {
  letterId: string;
  visitId: string;
  title: string;
  body: LetterBody;
  seq: number;
}

export interface ListedLetter {
  letterId: string;
  title: string;
  to: string | null;
  by: string;
  at: string;
}

/** A picture in a place of a letter, as its page shows it. */
export interface PlaceShown extends PlaceFilled {
  name: string;
  /** What stands under it where nobody wrote anything. */
  caption: string;
  /** Where it is to be had, small. */
  preview: string;
}

/** What a letter is filled with now, and what it does not get. */
export interface LetterFilling {
  fields: Record<LetterField, string>;
  places: Record<string, PlaceShown | null>;
  /** Its table of readings. */
  readings: { name: string; value: string }[];
  missing: Missing[];
}

/** What a visit offers to be written about. */
export interface AboutOffered {
  reasons: string[];
  procedures: string[];
}
