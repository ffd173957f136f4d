import { describe, expect, it } from 'vitest';
import { toothPlaces } from '../anatomy/place';
import type { Scale } from '../calibration/scale';
import { windowLook } from '../raster/look/look';
import { Unreadable } from '../versioned';
import type { LayerStep } from './layerLog';
import { layerKindOf } from './layers/all';
import { layersOf, noLayers, scaleInUse, withLayer } from './pictureLayers';
import { type PictureView, lookOf, orientationOf, pictureName, placesOf } from './pictureView';

const look = (center: number) => windowLook({ center, width: 10 });
const end = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });
const length = (x: number) => ({ ends: [end(x, 0), end(x, 9)] });
const turned = { quarterTurns: 1, mirrored: false } as const;

describe('what stands on a picture', () => {
  it('has one look, and readings side by side in the order they were made', () => {
    const set = (kind: 'look' | 'length', item: string | null, body: unknown) => ({ kind, item, body });
    let layers = [set('look', null, look(1)), set('length', 'a', 1), set('length', 'b', 2)].reduce(
      withLayer,
      noLayers
    );
    layers = withLayer(layers, set('length', 'a', 3));
    layers = withLayer(layers, set('look', null, look(2)));
    expect(layers.look).toEqual(look(2));
    expect(layers.items).toEqual([
      { id: 'a', kind: 'length', body: 3, by: '' },
      { id: 'b', kind: 'length', body: 2, by: '' }
    ]);
    layers = withLayer(layers, set('length', 'a', null));
    expect(layers.items.map(({ id }) => id)).toEqual(['b']);
    expect(withLayer(layers, set('length', 'gone', null))).toEqual(layers);
    expect(noLayers.items).toEqual([]);
  });
  it('is read from its log step by step, and a log from a newer program is not guessed at', () => {
    const step = (seq: number, kind: 'look' | 'length', item: string | null, body: unknown): LayerStep => ({
      seq,
      act: `act ${seq}`,
      by: 'ann',
      item,
      undoes: null,
      kind,
      version: layerKindOf(kind).version,
      body
    });
    const log = [step(1, 'look', null, look(4)), step(2, 'length', 'a', length(3))];
    const layers = layersOf(log);
    expect(layers.look).toEqual(look(4));
    expect(layers.items).toMatchObject([{ id: 'a', kind: 'length' }]);
    const early = { kind: 'length', ...length(3) };
    expect(layersOf([{ ...log[1], version: 1, body: early }]).items[0].body).toEqual(length(3));
    expect(() => layersOf([{ ...log[1], version: 1, body: 'damaged' }])).toThrow(Unreadable);
    expect(() => layersOf([{ ...log[0], version: 99 }])).toThrow(Unreadable);
    expect(() => layersOf([{ ...log[0], kind: 'dream' }])).toThrow(Unreadable);
    expect(() => layersOf([{ ...log[0], body: { planted: 1 } }])).toThrow(Unreadable);
  });
});

describe('a picture as pages see it', () => {
  const view = {
    fileName: 'a.png',
    links: [],
    placed: false,
    slot: null,
    firstLook: look(1),
    firstOrientation: turned,
    layers: noLayers
  } as unknown as PictureView;
  const slot = { name: 'Right molars', places: toothPlaces([16]) } as PictureView['slot'];

  it('opens as it came, and then as somebody left it', () => {
    expect([lookOf(view), orientationOf(view)]).toEqual([look(1), turned]);
    const upright = { quarterTurns: 0, mirrored: true } as const;
    const changed = { ...view, layers: { ...noLayers, look: look(7), orientation: upright } };
    expect([lookOf(changed), orientationOf(changed)]).toEqual([look(7), upright]);
  });
  it('shows the places it was linked to before those of its slot', () => {
    expect(placesOf(view)).toEqual([]);
    expect(placesOf({ ...view, slot })).toEqual(toothPlaces([16]));
    expect(placesOf({ ...view, slot, links: toothPlaces([21]), placed: true })).toEqual(toothPlaces([21]));
    expect(placesOf({ ...view, slot, placed: true })).toEqual([]);
  });
  it('is called by its slot, else its file, else where it lies', () => {
    expect(pictureName({ ...view, slot })).toBe('Right molars');
    expect(pictureName(view)).toBe('a.png');
    expect(pictureName({ ...view, fileName: '' })).toBe('On the bench');
  });
  it('is measured by the scale it was given, else by its file’s own', () => {
    const fileScale = { source: 'detector', mmPerPixelX: 0.02, mmPerPixelY: 0.02 } as Scale;
    expect(scaleInUse(noLayers, fileScale)).toBe(fileScale);
    expect(scaleInUse(noLayers, null)).toBeNull();
  });
});
