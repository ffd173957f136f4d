import { z } from 'zod';
import type { Versioned } from '../versioned';
import { type PicturePlace, mostPlaces, picturePlaceSchema } from './letterPlace';

/** What a letter says, as its editor has it: a tree of blocks with text, fields and places in them. */
export type LetterMark = { type: 'bold' | 'italic' | 'underline' };
export type LetterInline =
  | { type: 'text'; text: string; marks?: LetterMark[] }
  | { type: 'hardBreak' }
  /** What the visit, the patient or the clinic has to put there. Any name: one may have been given up since. */
  | { type: 'field'; attrs: { name: string }; marks?: LetterMark[] };
export type Alignment = 'left' | 'center' | 'right' | 'justify';
export type LetterBlock =
  | { type: 'paragraph'; attrs?: { textAlign?: Alignment | null }; content?: LetterInline[] }
  | { type: 'heading'; attrs: { level: 1 | 2 | 3; textAlign?: Alignment | null }; content?: LetterInline[] }
  | { type: 'bulletList' | 'orderedList'; content?: LetterListItem[] }
  | { type: 'table'; content?: LetterRow[] }
  | { type: 'horizontalRule' | 'readings' | 'bodyMap' | 'signature' }
  | { type: 'pictures'; attrs: { places: PicturePlace[] } };
export interface LetterListItem {
  type: 'listItem';
  content?: LetterBlock[];
}
export interface LetterCell {
  type: 'tableCell' | 'tableHeader';
  attrs?: { colspan?: number; rowspan?: number; colwidth?: number[] | null };
  content?: LetterBlock[];
}
export interface LetterRow {
  type: 'tableRow';
  content?: LetterCell[];
}
export interface LetterBody {
  type: 'doc';
  content: LetterBlock[];
}

const mostBlocks = 400;
const mostLetters = 20_000;
const mostDeep = 40;
const mostAcross = 12;

const mark = z.object({ type: z.enum(['bold', 'italic', 'underline']) });
const marks = z.array(mark).max(3).optional();
const inline = z.discriminatedUnion('type', [
  z.object({ type: z.literal('text'), text: z.string().min(1).max(mostLetters), marks }),
  z.object({ type: z.literal('hardBreak') }),
  z.object({ type: z.literal('field'), attrs: z.object({ name: z.string().min(1).max(60) }), marks })
]);
const inlines = z.array(inline).max(2_000).optional();
const textAlign = z.enum(['left', 'center', 'right', 'justify']).nullish();

const block: z.ZodType<LetterBlock> = z.lazy(() =>
  z.discriminatedUnion('type', [
    z.object({ type: z.literal('paragraph'), attrs: z.object({ textAlign }).optional(), content: inlines }),
    z.object({
      type: z.literal('heading'),
      attrs: z.object({ level: z.union([z.literal(1), z.literal(2), z.literal(3)]), textAlign }),
      content: inlines
    }),
    z.object({
      type: z.enum(['bulletList', 'orderedList']),
      content: z.array(item).max(mostBlocks).optional()
    }),
    z.object({ type: z.literal('table'), content: z.array(row).max(mostBlocks).optional() }),
    z.object({ type: z.enum(['horizontalRule', 'readings', 'bodyMap', 'signature']) }),
    z.object({
      type: z.literal('pictures'),
      attrs: z.object({ places: z.array(picturePlaceSchema).min(1).max(mostPlaces) })
    })
  ])
);
const blocks = z.array(block).max(mostBlocks);
const item: z.ZodType<LetterListItem> = z.object({ type: z.literal('listItem'), content: blocks.optional() });
const span = z.number().int().min(1).max(mostAcross).optional();
const cell: z.ZodType<LetterCell> = z.object({
  type: z.enum(['tableCell', 'tableHeader']),
  attrs: z
    .object({ colspan: span, rowspan: span, colwidth: z.array(z.number().min(0).max(4_000)).nullish() })
    .optional(),
  content: blocks.optional()
});
const row: z.ZodType<LetterRow> = z.object({
  type: z.literal('tableRow'),
  content: z.array(cell).max(mostAcross).optional()
});

/** Whether something is nested no deeper than a letter can be: what reads it goes as deep as it does. */
function isShallow(body: unknown): boolean {
  let level: unknown[] = [body];
  for (let deep = 0; level.length > 0; deep++) {
    if (deep > mostDeep) return false;
    level = level.flatMap((each) => (each !== null && typeof each === 'object' ? Object.values(each) : []));
  }
  return true;
}

export const letterBodySchema: z.ZodType<LetterBody> = z
  .unknown()
  .refine(isShallow, 'This letter is nested too deep to be one.')
  .pipe(z.object({ type: z.literal('doc'), content: blocks.min(1) })) as unknown as z.ZodType<LetterBody>;
export const letterBody: Versioned<LetterBody> = { version: 1, schema: letterBodySchema, upcasters: {} };

export const emptyLetter: LetterBody = { type: 'doc', content: [{ type: 'paragraph' }] };

/** Every part of a letter that stands in it, from the top to the foot. */
export function* partsOf(body: LetterBody): Generator<LetterBlock | LetterInline> {
  const waiting: { type: string; content?: readonly unknown[] }[] = [...body.content].reverse();
  while (waiting.length > 0) {
    const part = waiting.pop()!;
    yield part as LetterBlock | LetterInline;
    for (const inner of [...(part.content ?? [])].reverse()) waiting.push(inner as LetterBlock);
  }
}

/** The places for pictures that a letter has, in its order. */
export const placesOfLetter = (body: LetterBody): PicturePlace[] =>
  [...partsOf(body)].flatMap((part) => (part.type === 'pictures' ? part.attrs.places : []));

/** Names of the fields that stand in a letter, each once. */
export const fieldsOfLetter = (body: LetterBody): string[] => [
  ...new Set([...partsOf(body)].flatMap((part) => (part.type === 'field' ? [part.attrs.name] : [])))
];

/** All that somebody wrote into a letter: a name may stand in it. */
export const wordsOfLetter = (body: LetterBody): string =>
  [...partsOf(body)]
    .flatMap((part) =>
      part.type === 'text'
        ? [part.text]
        : part.type === 'pictures'
          ? part.attrs.places.map(({ caption }) => caption)
          : []
    )
    .join(' ');
