import { describe, expect, it } from 'vitest';
import { mapOfKey, mapsInUse, mapsOfTrade } from './maps';
import { type Place, placeKey, placeMap } from './place';
import { placeOfKey } from './placeOfKey';

describe('the drawing of a place', () => {
  it('is told from its stored key as from the place itself', () => {
    const places: Place[] = [
      { kind: 'tooth', tooth: 36 },
      { kind: 'animal tooth', species: 'cat', tooth: 404 },
      { kind: 'bone', region: 'wrist', side: 'right', whose: 'person' },
      { kind: 'bone', region: 'tarsus', side: 'both', whose: 'animal' },
      { kind: 'spine', region: 'loin', whose: 'animal' },
      { kind: 'trunk', region: 'chest', whose: 'person' },
      { kind: 'eye', side: 'left', gaze: 'up' },
      { kind: 'photograph', view: 'wound' },
      { kind: 'wide view', view: 'panoramic' }
    ];
    for (const place of places) {
      expect(mapOfKey(placeKey(place)), placeKey(place)).toBe(placeMap(place));
      expect(placeOfKey(placeKey(place))).toEqual(place);
    }
  });
  it('is none for a key that names nothing', () => {
    for (const key of [
      'tooth:19',
      'bone:person:wrist:middle',
      'eye:right:sideways',
      'tooth:16:x',
      'dream',
      ''
    ])
      expect(placeOfKey(key), key).toBeNull();
  });
});

describe('the drawings of a chart', () => {
  const dog = { kind: 'animal', species: 'Dog, crossbreed' } as const;
  const person = { kind: 'person', species: null } as const;
  it('follow the trade: a wrist or an eye gets no map of teeth', () => {
    expect(mapsOfTrade('bones', person)).toEqual(['bones']);
    expect(mapsOfTrade('eyes', person)).toEqual(['eyes']);
    expect(mapsOfTrade('animals', dog)).toEqual(['dog bones', 'dog teeth']);
    expect(mapsOfTrade('teeth', dog)).toEqual(['dog teeth', 'dog bones']);
    const teethOf = (species: string) => mapsOfTrade('teeth', { kind: 'animal', species })[0];
    expect(['dog, sheepdog', 'Cat', 'pony', 'sheep', 'cattle', 'muscat duck'].map(teethOf)).toEqual([
      'dog teeth',
      'cat teeth',
      'horse teeth',
      'animal bones',
      'animal bones',
      'animal bones'
    ]);
  });
  it('begin with the one that holds most, and leave out what says nothing', () => {
    const counts = { 'tooth:11': 1, 'bone:person:wrist:right': 3, 'photograph:wound': 9 };
    expect(mapsInUse(counts, ['teeth'])).toEqual(['bones', 'teeth']);
    expect(mapsInUse({}, ['eyes'])).toEqual(['eyes']);
    expect(mapsInUse({}, [])).toEqual([]);
    // An animal's bones stand on its own species' drawing, and on no second one.
    expect(mapsInUse({ 'bone:animal:hip:left': 2 }, ['dog bones', 'dog teeth'])).toEqual([
      'dog bones',
      'dog teeth'
    ]);
    expect(mapsInUse({ 'bone:animal:hip:left': 2 }, ['dog teeth'])).toEqual(['animal bones', 'dog teeth']);
  });
});
