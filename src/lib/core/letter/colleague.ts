import { z } from 'zod';

/** How somebody likes to get a letter. */
export const likings = ['mail', 'folder', 'paper'] as const;
export type Liking = (typeof likings)[number];
export const likingWords: Record<Liking, string> = {
  mail: 'by mail',
  folder: 'into a shared folder',
  paper: 'on paper'
};

export const colleagueSchema = z.strictObject({
  name: z.string().trim().min(1, 'Give the name.').max(200, 'A name has at most 200 letters.'),
  /** How a letter to them begins: "Dear Dr Wick". */
  greeting: z.string().trim().max(200),
  practice: z.string().trim().max(200),
  /** In lines. */
  address: z.string().trim().max(600),
  likes: z.enum(likings),
  /** Where letters to them go; null where they are printed, or nobody has said. */
  destinationId: z.uuid().nullable()
});
export type ColleagueSaid = z.infer<typeof colleagueSchema>;

/** Somebody who refers patients, or whom the clinic writes to. */
export interface Colleague extends ColleagueSaid {
  colleagueId: string;
}
