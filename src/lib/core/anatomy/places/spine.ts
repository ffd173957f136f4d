import { z } from 'zod';
import { type Code, sct } from '../code';
import type { PlaceKind } from '../placeKind';

const regions = {
  neck: { words: 'neck', code: sct('122494005', 'Cervical spine'), bodyPart: 'CSPINE' },
  chest: { words: 'thoracic spine', code: sct('122495006', 'Thoracic spine'), bodyPart: 'TSPINE' },
  loin: { words: 'lumbar spine', code: sct('122496007', 'Lumbar spine'), bodyPart: 'LSPINE' },
  'chest and loin': {
    words: 'thoracolumbar spine',
    code: sct('297172009', 'Thoraco-lumbar spine'),
    bodyPart: 'TLSPINE'
  },
  'loin and pelvis': {
    words: 'lumbosacral spine',
    code: sct('297173004', 'Lumbo-sacral spine'),
    bodyPart: 'LSSPINE'
  },
  whole: { words: 'whole spine', code: sct('421060004', 'Spine'), bodyPart: 'SPINE' }
} satisfies Record<string, { words: string; code: Code; bodyPart: string }>;

export type SpineRegion = keyof typeof regions;
export const spineRegions = Object.keys(regions) as [SpineRegion, ...SpineRegion[]];

const schema = z.strictObject({
  kind: z.literal('spine'),
  region: z.enum(spineRegions),
  whose: z.enum(['person', 'animal'])
});
export type SpinePlace = z.infer<typeof schema>;

/** A stretch of the spine. */
export const spinePlaceKind: PlaceKind<SpinePlace> = {
  kind: 'spine',
  schema,
  words: ({ region }) => regions[region].words,
  short: ({ region }) => regions[region].words,
  key: ({ region, whose }) => `spine:${whose}:${region}`,
  side: () => null,
  codes: ({ region }) => ({ region: regions[region].code, bodyPart: regions[region].bodyPart }),
  map: ({ whose }) => (whose === 'person' ? 'bones' : 'animal bones')
};
