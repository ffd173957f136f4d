import { z } from 'zod';
import { layerKind } from '../layerKind';

const schema = z.strictObject({
  /** The reading as it was confirmed: {@link confirmable}. Once it is another one, this counts no longer. */
  as: z.string().max(300_000)
});
export type Confirmed = z.infer<typeof schema>;

/** A reading in letters, the same for the same points. */
export const confirmable = (body: unknown): string =>
  JSON.stringify(body, (_, value: unknown) =>
    value && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value
  );

/** Somebody who may confirm has looked at where a reading's points lie; has the id of what it is about. */
export const confirmedLayer = layerKind<'confirmed', Confirmed>({
  kind: 'confirmed',
  words: 'Confirmation',
  version: 1,
  many: true,
  schema,
  upcasters: {},
  right: 'confirm'
});
