import { z } from 'zod';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  /** What the view is called; empty where its slot says it. */
  name: z.string().max(80),
  remark: z.string().max(1000)
});
export type AboutPicture = z.infer<typeof schema>;

/** What a person calls the view, and a remark on it. */
export const aboutLayer = layerKind<'about', AboutPicture>({
  kind: 'about',
  words: 'Name and remark',
  version: 1,
  many: false,
  schema,
  upcasters: {}
});
