import { z } from 'zod';
import { gradeReasons, grades } from '../../gradeReasons';
import { layerKind } from '../layerKind';

const schema = z
  .strictObject({
    grade: z.enum(grades),
    reasons: z.array(z.enum(gradeReasons)).max(gradeReasons.length)
  })
  .refine(({ reasons }) => new Set(reasons).size === reasons.length, 'a reason stands twice');
export type Graded = z.infer<typeof schema>;

/** How well the picture serves, by a person. */
export const gradeLayer = layerKind<'grade', Graded>({
  kind: 'grade',
  words: 'Grade',
  version: 1,
  many: false,
  schema,
  upcasters: {}
});
