import { z } from 'zod';
import { sct } from '../code';
import type { PlaceKind } from '../placeKind';

const schema = z.strictObject({
  kind: z.literal('trunk'),
  region: z.enum(['chest', 'belly']),
  whose: z.enum(['person', 'animal'])
});
export type TrunkPlace = z.infer<typeof schema>;

const codes = {
  chest: { region: sct('816094009', 'Chest'), bodyPart: 'CHEST' },
  belly: { region: sct('818981001', 'Abdomen'), bodyPart: 'ABDOMEN' }
};

/** The chest or the belly. */
export const trunkPlaceKind: PlaceKind<TrunkPlace> = {
  kind: 'trunk',
  schema,
  words: ({ region }) => region,
  short: ({ region }) => region,
  key: ({ region, whose }) => `trunk:${whose}:${region}`,
  side: () => null,
  codes: ({ region }) => codes[region],
  map: ({ whose }) => (whose === 'person' ? 'bones' : 'animal bones')
};
