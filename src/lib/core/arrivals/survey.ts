import { z } from 'zod';
import { bundleKeyOf } from './bundleKey';
import { type Says, nameAsRead } from './says';

/** One study of one person, as the heads of its files tell of it before they have been read. */
export const surveyedSchema = z.object({
  /** By which its bundle will be known. */
  key: z.string(),
  name: z.string(),
  id: z.string(),
  /** YYYY-MM-DD, or empty. */
  birthDate: z.string(),
  /** Of the study: YYYY-MM-DD, or empty. */
  date: z.string(),
  description: z.string(),
  /** How many pictures there are of it. */
  files: z.number().int()
});
export type Surveyed = z.infer<typeof surveyedSchema>;

/** What a person is told of one study that is being read: how many of its pictures are here. */
export interface Coming extends Surveyed {
  here: number;
}

/** More than a disc holds people; a folder of a whole archive is told of by its first ones. */
const mostTold = 2_000;

/** What heads of files tell, study by study, in the order in which each is met first. */
export function surveyOf(heads: readonly Says[]): Surveyed[] {
  const one = (says: Says): Surveyed => ({
    key: bundleKeyOf(says),
    name: nameAsRead(says.person.name),
    id: says.person.id,
    birthDate: says.person.birthDate,
    date: says.study.date,
    description: says.study.description,
    files: 1
  });
  return addedTo([], heads.map(one));
}

/** A survey and what was found further on, as one. */
export function addedTo(survey: readonly Surveyed[], more: readonly Surveyed[]): Surveyed[] {
  const byKey = new Map(survey.map((each) => [each.key, each]));
  for (const each of more) {
    const before = byKey.get(each.key);
    if (before) byKey.set(each.key, { ...before, files: before.files + each.files });
    else if (byKey.size < mostTold) byKey.set(each.key, each);
  }
  return [...byKey.values()];
}
