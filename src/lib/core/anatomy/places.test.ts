import { describe, expect, it } from 'vitest';
import { animalArch, animalToothName, isAnimalTooth, toothedSpecies } from './animalTeeth';
import {
  type Place,
  placeCodes,
  placeKey,
  placeMap,
  placeSchema,
  placesInWords,
  showPlaces,
  sideOf,
  toothPlaces
} from './place';
import { bodyMaps } from './placeKind';
import { boneRegions, isPaired } from './places/bone';
import { gazes } from './places/eye';
import { photographViews } from './places/photograph';
import { spineRegions } from './places/spine';
import { wideViews } from './places/wideView';
import { deciduousTeeth, permanentTeeth } from './teeth';

/** Every place there is. */
const all: Place[] = [
  ...toothPlaces([...permanentTeeth, ...deciduousTeeth]),
  ...toothedSpecies.flatMap((species) =>
    [...animalArch(species, 'upper'), ...animalArch(species, 'lower')].map((tooth): Place => ({
      kind: 'animal tooth',
      species,
      tooth
    }))
  ),
  ...(['person', 'animal'] as const).flatMap((whose): Place[] => [
    ...boneRegions.flatMap((region) =>
      (isPaired(region) ? (['right', 'left', 'both'] as const) : [null]).map((side): Place => ({
        kind: 'bone',
        region,
        side,
        whose
      }))
    ),
    ...spineRegions.map((region): Place => ({ kind: 'spine', region, whose })),
    { kind: 'trunk', region: 'chest', whose },
    { kind: 'trunk', region: 'belly', whose }
  ]),
  ...(['right', 'left'] as const).flatMap((side) =>
    [null, ...gazes].map((gaze): Place => ({ kind: 'eye', side, gaze }))
  ),
  ...photographViews.map((view): Place => ({ kind: 'photograph', view })),
  ...wideViews.map((view): Place => ({ kind: 'wide view', view }))
];

describe('places in the body', () => {
  it('each have a key and codes of their own, words, and a drawing that is there or none', () => {
    expect(all.length).toBeGreaterThan(300);
    expect(new Set(all.map(placeKey)).size).toBe(all.length);
    for (const place of all) {
      expect(placeSchema.parse(place)).toEqual(place);
      const { region, structure } = placeCodes(place);
      for (const code of [region, structure ?? region]) {
        // SH and LO of DICOM: 16 characters of value, 64 of meaning.
        expect(code.value.length, placeKey(place)).toBeLessThanOrEqual(16);
        expect(code.meaning.length, placeKey(place)).toBeLessThanOrEqual(64);
        expect(code.value).toMatch(code.scheme === 'SCT' ? /^\d{6,9}$/ : /\S/);
      }
      expect([...bodyMaps, null]).toContain(placeMap(place));
      expect(showPlaces([place], 'fdi')).not.toBe('');
    }
  });
  it('keep the keys they were stored with', () => {
    expect(placeKey({ kind: 'tooth', tooth: 16 })).toBe('tooth:16');
    expect(placeKey({ kind: 'bone', region: 'wrist', side: 'right', whose: 'person' })).toBe(
      'bone:person:wrist:right'
    );
    expect(placeKey({ kind: 'eye', side: 'left', gaze: 'up' })).toBe('eye:left:up');
  });
  it('are refused when they can’t be', () => {
    const wrong: unknown[] = [
      { kind: 'tooth', tooth: 19 },
      { kind: 'tooth', tooth: 16, extra: true },
      { kind: 'animal tooth', species: 'cat', tooth: 110 },
      { kind: 'animal tooth', species: 'hen', tooth: 101 },
      { kind: 'bone', region: 'wrist', side: null, whose: 'person' },
      { kind: 'bone', region: 'pelvis', side: 'left', whose: 'person' },
      { kind: 'eye', side: 'both', gaze: null },
      { kind: 'elsewhere' }
    ];
    for (const place of wrong)
      expect(placeSchema.safeParse(place).success, JSON.stringify(place)).toBe(false);
  });
  it('are told in words, alone and together', () => {
    const wrist: Place = { kind: 'bone', region: 'wrist', side: 'right', whose: 'person' };
    expect(placesInWords([wrist], 'fdi')).toBe('right wrist');
    expect(placesInWords(toothPlaces([16, 17, 46]), 'fdi')).toBe('teeth 16 17 46');
    expect(placesInWords(toothPlaces([16]), 'universal')).toBe('tooth 3');
    expect(placesInWords([{ kind: 'bone', region: 'hind foot', side: 'both', whose: 'animal' }], 'fdi')).toBe(
      'both hind feet'
    );
    expect(placesInWords([], 'fdi')).toBe('');
  });
  it('have one side together, or both', () => {
    expect(sideOf(toothPlaces([16, 46]))).toBe('right');
    expect(sideOf(toothPlaces([11, 21]))).toBe('both');
    expect(sideOf([{ kind: 'spine', region: 'neck', whose: 'person' }])).toBeNull();
    expect(sideOf([])).toBeNull();
  });
});

describe('teeth of animals', () => {
  it('are as many as the dental formulas say', () => {
    const count = (species: (typeof toothedSpecies)[number]) =>
      animalArch(species, 'upper').length + animalArch(species, 'lower').length;
    // Dog 2(I3/3 C1/1 P4/4 M2/3), cat 2(I3/3 C1/1 P3/2 M1/1), horse with upper wolf teeth 2(I3/3 C1/1 P4/3 M3/3).
    expect([count('dog'), count('cat'), count('horse')]).toEqual([42, 30, 42]);
  });
  it('are named by their place in the whole dentition, also where some are missing', () => {
    expect(animalToothName(108)).toBe('upper right fourth premolar');
    expect(animalToothName(309)).toBe('lower left first molar');
    expect(animalToothName(504)).toBe('upper right deciduous canine');
    expect(isAnimalTooth('cat', 305)).toBe(false);
    expect(isAnimalTooth('dog', 411)).toBe(true);
    expect(isAnimalTooth('dog', 111)).toBe(false);
  });
});
