import { z } from 'zod';
import { animalToothName, isAnimalTooth, toothedSpecies } from '../animalTeeth';
import { localCode, sct } from '../code';
import type { PlaceKind } from '../placeKind';

const schema = z
  .strictObject({
    kind: z.literal('animal tooth'),
    species: z.enum(toothedSpecies),
    tooth: z.number().int()
  })
  .refine(({ species, tooth }) => isAnimalTooth(species, tooth), 'no tooth of this species');
export type AnimalToothPlace = z.infer<typeof schema>;

/** A tooth of an animal. No public scheme codes Triadan numbers, so the code is ours and its meaning says all. */
export const animalToothPlaceKind: PlaceKind<AnimalToothPlace> = {
  kind: 'animal tooth',
  schema,
  words: ({ tooth }) => animalToothName(tooth),
  short: ({ tooth }) => String(tooth),
  key: ({ species, tooth }) => `animal tooth:${species}:${tooth}`,
  side: ({ tooth }) => ([1, 4].includes(((Math.floor(tooth / 100) - 1) % 4) + 1) ? 'right' : 'left'),
  codes: ({ tooth }) => ({
    region: sct('661005', 'Jaw region'),
    structure: { ...localCode(`Triadan ${tooth}`), meaning: `${animalToothName(tooth)}, Triadan ${tooth}` },
    bodyPart: 'JAW'
  }),
  map: ({ species }) => `${species} teeth`
};
