import { z } from 'zod';

/** A paper (PDF) that lies with a visit: a letter, a report, an insurance paper. */
export interface PaperView {
  paperId: string;
  visitId: string;
  title: string;
  /** As the PDF says. */
  pages: number;
  bytes: number;
  addedBy: string;
  addedAt: string;
  /** Who put it away; null for one that lies there. It can be brought back. */
  putAwayBy: string | null;
}

export const longestTitle = 200;

/** What can be done with a paper that is there. */
export const paperChange = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('named'),
    title: z.string().trim().min(1, 'A paper needs a name.').max(longestTitle)
  }),
  z.strictObject({ kind: z.literal('put away') }),
  z.strictObject({ kind: z.literal('brought back') })
]);
export type PaperChange = z.infer<typeof paperChange>;

/** How a paper is called before anybody names it: its file's name without the ending. */
export const titleOfFile = (fileName: string): string =>
  fileName
    .replace(/\.pdf$/i, '')
    .trim()
    .slice(0, longestTitle) || 'A paper';
