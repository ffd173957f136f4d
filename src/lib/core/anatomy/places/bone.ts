import { z } from 'zod';
import { type Code, localCode, sct } from '../code';
import type { PlaceKind } from '../placeKind';
import { sides } from '../side';

interface Region {
  code: Code;
  bodyPart?: string;
  /** Whether there is one on each side. */
  paired: boolean;
  of: 'people' | 'animals' | 'all';
}

/** Bones and joints by the word they are asked for with. Codes: DICOM PS3.16 CID 4031 and annex L. */
const regions = {
  hand: { code: sct('85562004', 'Hand'), bodyPart: 'HAND', paired: true, of: 'people' },
  finger: { code: sct('7569003', 'Finger'), bodyPart: 'FINGER', paired: true, of: 'people' },
  thumb: { code: sct('76505004', 'Thumb'), bodyPart: 'THUMB', paired: true, of: 'people' },
  'index finger': { code: sct('83738005', 'Index finger'), bodyPart: 'FINGER', paired: true, of: 'people' },
  'middle finger': { code: sct('65531009', 'Middle finger'), bodyPart: 'FINGER', paired: true, of: 'people' },
  'ring finger': { code: sct('82002001', 'Ring finger'), bodyPart: 'FINGER', paired: true, of: 'people' },
  'little finger': { code: sct('12406000', 'Little finger'), bodyPart: 'FINGER', paired: true, of: 'people' },
  wrist: { code: sct('74670003', 'Wrist joint'), bodyPart: 'WRIST', paired: true, of: 'people' },
  forearm: { code: sct('14975008', 'Forearm'), bodyPart: 'FOREARM', paired: true, of: 'all' },
  elbow: { code: sct('16953009', 'Elbow joint'), bodyPart: 'ELBOW', paired: true, of: 'all' },
  'upper arm': { code: sct('40983000', 'Upper arm'), bodyPart: 'UPPERARM', paired: true, of: 'all' },
  shoulder: { code: sct('16982005', 'Shoulder'), bodyPart: 'SHOULDER', paired: true, of: 'all' },
  clavicle: { code: sct('51299004', 'Clavicle'), bodyPart: 'CLAVICLE', paired: true, of: 'people' },
  pelvis: { code: sct('816092008', 'Pelvis'), bodyPart: 'PELVIS', paired: false, of: 'all' },
  hip: { code: sct('24136001', 'Hip joint'), bodyPart: 'HIP', paired: true, of: 'all' },
  femur: { code: sct('71341001', 'Femur'), bodyPart: 'FEMUR', paired: true, of: 'all' },
  knee: { code: sct('72696002', 'Knee'), bodyPart: 'KNEE', paired: true, of: 'people' },
  'lower leg': { code: sct('30021000', 'Lower leg'), bodyPart: 'LEG', paired: true, of: 'all' },
  ankle: { code: sct('70258002', 'Ankle joint'), bodyPart: 'ANKLE', paired: true, of: 'people' },
  foot: { code: sct('56459004', 'Foot'), bodyPart: 'FOOT', paired: true, of: 'people' },
  heel: { code: sct('80144004', 'Calcaneus'), bodyPart: 'CALCANEUS', paired: true, of: 'people' },
  'great toe': { code: sct('78883009', 'Great toe'), bodyPart: 'TOE', paired: true, of: 'people' },
  'second toe': { code: sct('55078004', 'Second toe'), bodyPart: 'TOE', paired: true, of: 'people' },
  'third toe': { code: sct('78132007', 'Third toe'), bodyPart: 'TOE', paired: true, of: 'people' },
  'fourth toe': { code: sct('80349001', 'Fourth toe'), bodyPart: 'TOE', paired: true, of: 'people' },
  'little toe': { code: sct('39915008', 'Fifth toe'), bodyPart: 'TOE', paired: true, of: 'people' },
  'whole leg': { code: sct('61685007', 'Lower limb'), paired: true, of: 'people' },
  skull: { code: sct('89546000', 'Skull'), bodyPart: 'SKULL', paired: false, of: 'all' },
  stifle: { code: localCode('Stifle'), bodyPart: 'STIFLE', paired: true, of: 'animals' },
  carpus: { code: localCode('Carpus'), paired: true, of: 'animals' },
  tarsus: { code: localCode('Tarsus'), paired: true, of: 'animals' },
  'fore fetlock': { code: localCode('Fore fetlock'), paired: true, of: 'animals' },
  'hind fetlock': { code: localCode('Hind fetlock'), paired: true, of: 'animals' },
  'fore foot': { code: localCode('Fore foot'), paired: true, of: 'animals' },
  'hind foot': { code: localCode('Hind foot'), paired: true, of: 'animals' }
} satisfies Record<string, Region>;

export type BoneRegion = keyof typeof regions;
export const boneRegions = Object.keys(regions) as [BoneRegion, ...BoneRegion[]];
const regionOf = (region: BoneRegion): Region => regions[region];
export const isPaired = (region: BoneRegion): boolean => regionOf(region).paired;
export const bonesOf = (whose: 'people' | 'animals'): BoneRegion[] =>
  boneRegions.filter((region) => [whose, 'all'].includes(regionOf(region).of));

const schema = z
  .strictObject({
    kind: z.literal('bone'),
    region: z.enum(boneRegions),
    /** Null for what has no side; both where one picture shows the two. */
    side: z.enum(sides).nullable(),
    /** Whose skeleton it is: which figure it stands on. */
    whose: z.enum(['person', 'animal'])
  })
  .refine(({ region, side }) => isPaired(region) === (side !== null), 'a side is needed where there are two');
export type BonePlace = z.infer<typeof schema>;

const marks = { right: 'R ', left: 'L ', both: '' } as const;

/** A bone or a joint. */
export const bonePlaceKind: PlaceKind<BonePlace> = {
  kind: 'bone',
  schema,
  words: ({ region, side }) =>
    side === null ? region : side === 'both' ? `both ${plural(region)}` : `${side} ${region}`,
  short: ({ region, side }) => `${side ? marks[side] : ''}${side === 'both' ? plural(region) : region}`,
  key: ({ region, side, whose }) => `bone:${whose}:${region}:${side ?? 'middle'}`,
  side: ({ side }) => side,
  codes: ({ region }) => ({ region: regionOf(region).code, bodyPart: regionOf(region).bodyPart }),
  map: ({ whose }) => (whose === 'person' ? 'bones' : 'animal bones')
};

function plural(region: BoneRegion): string {
  if (/foot$/.test(region)) return region.replace('foot', 'feet');
  return /s$/.test(region) ? region : `${region}s`;
}
