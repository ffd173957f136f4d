import { z } from 'zod';
import { paperNames } from '../report/paperHead';
import type { Versioned } from '../versioned';
import { filmSizeNames } from './film';

export const filmWays = ['true', 'grid'] as const;

/** What goes onto film, and how. */
export const filmWish = z.strictObject({
  destinationId: z.uuid(),
  pictureIds: z.array(z.uuid()).min(1, 'Choose at least one picture.').max(200),
  /** True to scale, a picture a film; or many in rows. */
  way: z.enum(filmWays),
  across: z.number().int().min(1).max(6),
  down: z.number().int().min(1).max(6),
  size: z.enum(filmSizeNames),
  lying: z.boolean(),
  names: z.enum(paperNames),
  captions: z.boolean(),
  drawn: z.boolean(),
  copies: z.number().int().min(1).max(9)
});
export type FilmWish = z.infer<typeof filmWish>;
/** How a film is parted: a picture true to scale has it by itself. */
export const filmParted = ({ way, across, down }: FilmWish): { across: number; down: number } =>
  way === 'true' ? { across: 1, down: 1 } : { across, down };
/** The same as it is kept with what is on its way. */
export const filmKept: Versioned<FilmWish> = { version: 1, schema: filmWish, upcasters: {} };
