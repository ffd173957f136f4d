import { z } from 'zod';
import type { Look } from '../raster/look/look';
import { lookSchema } from '../raster/look/lookSchema';
import type { PaperView } from '../papers/paper';
import type { Orientation } from '../raster/orientation';
import { orientationSchema } from '../raster/orientationSchema';

/** What a visit's story tells in words, in the order in which it is read. */
export const storyTexts = ['reason', 'question', 'history', 'plan', 'colleague'] as const;
export type StoryText = (typeof storyTexts)[number];

export const mostStoryLetters = 8000;
export const mostStoryPictures = 200;

/** A picture at its place in the story: as it is seen at any time, or as it was seen when it was put there. */
export interface StoryPicture {
  /** Of this place, so that one picture can stand twice. */
  id: string;
  pictureId: string;
  /** Null: as it is seen now. Else the step of the picture, with the look and the turn it had then. */
  as: { seq: number; look: Look; orientation: Orientation } | null;
  words: string;
}

const storyPicture: z.ZodType<StoryPicture> = z.strictObject({
  id: z.uuid(),
  pictureId: z.uuid(),
  as: z
    .strictObject({ seq: z.number().int().min(0), look: lookSchema, orientation: orientationSchema })
    .nullable(),
  words: z.string().max(300)
});

const text = z.string().max(mostStoryLetters, 'That is longer than a story can be.');

/** One part of a story as somebody writes it. */
export const storyWriting = z.discriminatedUnion('part', [
  ...(storyTexts.map((part) => z.strictObject({ part: z.literal(part), body: text })) as [
    z.ZodObject<{ part: z.ZodLiteral<StoryText>; body: typeof text }>
  ]),
  z.strictObject({ part: z.literal('planned on'), body: z.iso.date().nullable() }),
  z.strictObject({
    part: z.literal('pictures'),
    body: z
      .array(storyPicture)
      .max(mostStoryPictures)
      .refine(
        (pictures) => new Set(pictures.map(({ id }) => id)).size === pictures.length,
        'Two places have one name.'
      )
  })
]);
export type StoryWriting = z.infer<typeof storyWriting>;
export type StoryPart = StoryWriting['part'];

/** A part's newest wording, who wrote it, and how many wordings came before. */
export interface Written<T> {
  body: T;
  by: string;
  at: string;
  earlier: number;
}

/** The story as it stands; parts that nobody has written are missing. */
export interface Story {
  /** Of the newest wording of any part; 0 while nothing is written. */
  seq: number;
  texts: Partial<Record<StoryText, Written<string>>>;
  plannedOn: Written<string | null> | null;
  pictures: StoryPicture[];
  /** Those that were put away too. */
  papers: PaperView[];
}

export const isTold = ({ texts, plannedOn, pictures, papers }: Story): boolean =>
  Object.values(texts).some(({ body }) => body.trim() !== '') ||
  Boolean(plannedOn?.body) ||
  pictures.length > 0 ||
  papers.some(({ putAwayBy }) => putAwayBy === null);
