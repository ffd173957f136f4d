import { z } from 'zod';
import { placedPointSchema } from '../../placedPoint';
import { layerKind } from '../layerKind';

export const mostTextLetters = 120;

const schema = z.strictObject({
  at: placedPointSchema,
  words: z.string().trim().min(1).max(mostTextLetters)
});
export type TextOnPicture = z.infer<typeof schema>;

/** Words on the picture. */
export const textLayer = layerKind({
  kind: 'text',
  words: 'Text',
  version: 1,
  many: true,
  schema,
  upcasters: {},
  placed: {
    pointNames: ['Where the words stand'],
    pointsOf: ({ at }: TextOnPicture) => [at],
    withPoints: (body: TextOnPicture, [at]): TextOnPicture => ({ ...body, at }),
    says: ({ words }: TextOnPicture) => words,
    drawn: ({ at }: TextOnPicture) => ({ shapes: [], wordsAt: at })
  }
});
