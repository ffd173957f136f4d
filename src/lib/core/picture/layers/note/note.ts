import { z } from 'zod';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  /** What it is called; empty for the name of its kind. */
  name: z.string().trim().max(60),
  hidden: z.boolean(),
  /** The id of the reading that this one is taken again of. */
  repeatOf: z.string().max(60).nullable()
});
export type ItemNote = z.infer<typeof schema>;

export const noNote: ItemNote = { name: '', hidden: false, repeatOf: null };

/** What a drawing or reading is called and whether it is shown; has the id of what it is about. */
export const noteLayer = layerKind<'note', ItemNote>({
  kind: 'note',
  words: 'Name',
  version: 1,
  many: true,
  schema,
  upcasters: {}
});
