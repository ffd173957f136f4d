import type { Place } from '../../anatomy/place';
import type { Scale } from '../../calibration/scale';
import { inverted } from '../../raster/look/look';
import { fullMouth } from '../../tray/shipped/fullMouth';
import { leftWrist, rightWrist } from '../../tray/shipped/wrist';
import { exampleFacts } from './exampleFacts.test-data';
import type { ObjectFacts, ObjectPixels } from './objectFacts';

export const look = exampleFacts().look;
export const lossy = { ratio: 11.4, method: 'ISO_10918_1' };
export const bytes = (count: number) => Uint8Array.from({ length: count }, (_, i) => (i * 3) % 256);
const pixels = (changes: Partial<ObjectPixels>): ObjectPixels => ({
  ...exampleFacts().pixels,
  ...changes
});
const grey8 = pixels({ bitsStored: 8, bytes: bytes(24) });
const colour = pixels({ channels: 3, bitsStored: 8, bytes: bytes(72) });
export const loop = (frameMs: number | null, of = grey8) =>
  pixels({ ...of, frames: 3, frameMs, bytes: bytes(3 * of.bytes.length) });
export const signed = pixels({
  bitsStored: 12,
  offset: -2048,
  bytes: new Uint8Array(Uint16Array.from({ length: 24 }, (_, i) => i * 170).buffer)
});
export const lined: Scale = {
  source: 'line',
  mmPerPixelX: 0.1,
  mmPerPixelY: 0.15,
  relativeUncertainty: 0.004,
  description: 'a line over 10 mm'
};
export const unplaced = {
  slot: null,
  places: [],
  directions: null,
  detectorSpacingMm: null,
  scale: null
} satisfies Partial<ObjectFacts>;
const oriented = { slot: null, directions: ['R', 'F'] } satisfies Partial<ObjectFacts>;
export const wrist = { slot: rightWrist.pattern.slots[0], places: rightWrist.pattern.slots[0].places };
const eye: Place[] = [{ kind: 'eye', side: 'left', gaze: 'up and nose' }];
export const animal = {
  name: 'Pike^Nettle',
  id: 'A1',
  birthDate: '20190211',
  sex: 'F',
  species: 'dog, sheepdog',
  owner: 'Osmund Pike'
} as const;

/** What each object that is written can be made of. */
export const everyKind: Record<string, Partial<ObjectFacts>> = {
  'a bitewing': {},
  'a bitewing seen inverted': { look: inverted(look) },
  'a bitewing seen by a sigmoid': {
    look: { steps: [{ kind: 'window', center: 30000, width: 9000, by: 'sigmoid' }] }
  },
  'an upper front tooth': { slot: fullMouth.pattern.slots.find(({ id }) => id === 'pa-upper-incisors')! },
  'a lower molar that may hold lettering': { slot: fullMouth.pattern.slots.at(-1)!, burnedIn: null },
  'a bitewing scaled by a line': { scale: lined },
  'a wrist from the front': wrist,
  'a wrist from the side, scaled': {
    slot: leftWrist.pattern.slots[1],
    places: leftWrist.pattern.slots[1].places,
    scale: lined
  },
  'a radiograph of nobody knows what': { ...unplaced, ...oriented, detectorSpacingMm: [0.1, 0.1] },
  'a radiograph that lies nobody knows how': {
    ...unplaced,
    detectorSpacingMm: [0.1, 0.1],
    places: wrist.places
  },
  'an animal’s tooth': { patient: animal, places: [{ kind: 'animal tooth', species: 'dog', tooth: 108 }] },
  'an animal’s hips': {
    patient: animal,
    ...oriented,
    places: [{ kind: 'bone', region: 'hip', side: 'both', whose: 'animal' }]
  },
  'a pony’s fetlock': {
    patient: { ...animal, species: 'pony' },
    ...oriented,
    places: [{ kind: 'bone', region: 'fore fetlock', side: 'left', whose: 'animal' }]
  },
  'a neck': { ...oriented, places: [{ kind: 'spine', region: 'neck', whose: 'person' }] },
  'a panoramic view': { ...oriented, places: [{ kind: 'wide view', view: 'panoramic' }] },
  'a photograph of a face': {
    ...unplaced,
    kind: 'photograph',
    pixels: colour,
    places: [{ kind: 'photograph', view: 'face from the front' }]
  },
  'a photograph of a wound that was a JPEG': {
    ...unplaced,
    kind: 'photograph',
    pixels: colour,
    lossy,
    burnedIn: null
  },
  'a scaled photograph': { ...unplaced, kind: 'photograph', pixels: colour, scale: lined },
  'an ultrasound frame': { ...unplaced, kind: 'ultrasound', pixels: grey8, burnedIn: null },
  'an ultrasound loop, scaled': {
    ...unplaced,
    kind: 'ultrasound',
    pixels: loop(41.7),
    scale: lined,
    burnedIn: true
  },
  'a colour ultrasound loop': { ...unplaced, kind: 'ultrasound', pixels: loop(41.7, colour) },
  'a ring picture': { ...unplaced, kind: 'rings', pixels: grey8, places: eye },
  'a ring picture straight ahead': {
    ...unplaced,
    kind: 'rings',
    pixels: grey8,
    places: [{ kind: 'eye', side: 'right', gaze: 'straight ahead' }]
  },
  'frames of a kind that has no object': { ...unplaced, kind: 'other', pixels: loop(null) },
  'frames of sixteen bits': { ...unplaced, kind: 'other', pixels: loop(100, exampleFacts().pixels) },
  'colour frames without a time': { ...unplaced, kind: 'other', pixels: loop(null, colour) },
  'a signed picture': { ...unplaced, kind: 'other', pixels: signed },
  'a picture in no slot': unplaced,
  'a picture in no slot, inverted': { ...unplaced, look: inverted(look), burnedIn: true },
  'a picture with pixels that are not square': { ...unplaced, scale: lined },
  'a slot’s picture that was a JPEG': { lossy },
  'someone of no known birthday': { patient: { name: 'Only^Name', id: 'X1', birthDate: '', sex: '' } }
};
