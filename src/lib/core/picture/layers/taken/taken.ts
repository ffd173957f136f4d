import { z } from 'zod';
import { layerKind } from '../layerKind';

const schema = z.strictObject({ at: z.iso.datetime() });
export type TakenAt = z.infer<typeof schema>;

/** When the picture was taken, where a person knows it better than its file or device. */
export const takenLayer = layerKind<'taken', TakenAt>({
  kind: 'taken',
  words: 'Date taken',
  version: 1,
  many: false,
  schema,
  upcasters: {}
});
