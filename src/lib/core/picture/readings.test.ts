import { describe, expect, it } from 'vitest';
import type { Scale } from '../calibration/scale';
import type { LayerName } from './layers/all';
import { confirmable } from './layers/confirmed/confirmed';
import { noNote } from './layers/note/note';
import { type PictureLayers, noLayers } from './pictureLayers';
import { grouped, isReading, readingsOf, valuesOf, wordsOf } from './readings';

const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });
const length = (x: number) => ({ ends: [at(0, 0), at(x, 0)] });
const scale: Scale = {
  source: 'line',
  mmPerPixelX: 0.5,
  mmPerPixelY: 1,
  relativeUncertainty: 0.01,
  description: ''
};
const layersWith = (
  ...items: [id: string, kind: LayerName, body: unknown, by?: string][]
): PictureLayers => ({
  ...noLayers,
  items: items.map(([id, kind, body, by = 'ann']) => ({ id, kind, body, by }))
});
const note = (changes: Partial<typeof noNote>) => ({ ...noNote, ...changes });

describe('readings of a picture', () => {
  it('are called by their kind and number, or as somebody named them', () => {
    const readings = readingsOf(
      layersWith(
        ['a', 'length', length(10)],
        ['b', 'length', length(20)],
        ['b', 'note', note({ name: 'Crown', hidden: true })],
        ['c', 'arrow', { points: [at(0, 0), at(1, 1)] }]
      ),
      null
    );
    expect(readings.map(({ name, note: { hidden } }) => [name, hidden])).toEqual([
      ['Length 1', false],
      ['Crown', true],
      ['Arrow 1', false]
    ]);
    expect(readings.map(({ item }) => isReading(item.kind))).toEqual([true, true, false]);
  });
  it('are in mm through a scale, in pixels of equal sides without one', () => {
    const down = { ends: [at(0, 0), at(0, 10)] };
    const valueWith = (given: Scale | null, aspect?: number) =>
      readingsOf(layersWith(['a', 'length', down]), given, aspect)[0].values[0].value;
    expect(valueWith(scale)).toMatchObject({ value: 10, unit: 'mm' });
    expect(valueWith(null, 2)).toMatchObject({ value: 20, unit: 'px' });
  });
  it('say why they give no value, and the others do all the same', () => {
    const same = { points: [at(3, 3), at(3, 3), at(3, 3)] };
    const [angle, area] = readingsOf(
      layersWith(['a', 'angle', same], ['b', 'area', { points: [at(0, 0), at(2, 0), at(0, 2)] }]),
      null
    );
    expect(angle).toMatchObject({ values: [], refused: expect.stringMatching(/coincide/) });
    expect(area.values[0].value.value).toBe(2);
  });
  it('are measured anew with another scale, and once with the same', () => {
    const layers = layersWith(['a', 'length', length(10)]);
    const first = readingsOf(layers, scale)[0];
    expect(readingsOf({ ...layers, items: [...layers.items] }, { ...scale })[0].values).toBe(first.values);
    const finer = { ...scale, mmPerPixelX: 0.1 };
    expect(readingsOf(layers, finer)[0].values[0].value.value).toBeCloseTo(1, 9);
    expect(readingsOf(layers, null)[0].values[0].value.unit).toBe('px');
  });
  it('are confirmed by somebody as they are, and no longer once a point has moved', () => {
    const confirmed = { as: confirmable(length(10)) };
    const by = (body: unknown) =>
      readingsOf(layersWith(['a', 'length', body], ['a', 'confirmed', confirmed, 'ben']), null)[0]
        .confirmedBy;
    expect(by(length(10))).toBe('ben');
    expect(by({ ends: [{ uncertaintyPx: 0.5, y: 0, x: 0 }, at(10, 0)] })).toBe('ben');
    expect(by(length(11))).toBeNull();
  });
  it('have all their values, the main one first', () => {
    const points = Array.from({ length: 8 }, (_, i) =>
      at(20 * Math.cos((i * Math.PI) / 4), 5 * Math.sin((i * Math.PI) / 4))
    );
    const [longest, shortest] = valuesOf('ellipse', { points }, null);
    expect([longest.value.value, shortest.value.value].map((each) => Math.round(each))).toEqual([40, 10]);
    expect(shortest.words).toBe('across');
    expect(valuesOf('arrow', {}, null)).toEqual([]);
  });
});

describe('what stands beside a drawing', () => {
  it('is its name, what it says itself, and all its values', () => {
    const points = Array.from({ length: 8 }, (_, i) =>
      at(20 * Math.cos((i * Math.PI) / 4), 5 * Math.sin((i * Math.PI) / 4))
    );
    const [ellipse, text, label] = readingsOf(
      layersWith(
        ['a', 'ellipse', { points }],
        ['a', 'note', note({ name: 'Crown' })],
        ['b', 'text', { at: at(0, 0), words: 'Loose' }],
        ['b', 'note', note({ name: 'Remark' })],
        ['c', 'label', { at: at(0, 0), place: { kind: 'tooth', tooth: 16 } }]
      ),
      null
    );
    expect(wordsOf(ellipse, 'fdi')).toMatch(/^Crown, 40\S* ± \S+ px, across 10\S* ± \S+ px$/);
    expect(wordsOf(text, 'fdi')).toBe('Remark, Loose');
    expect([wordsOf(label, 'fdi'), wordsOf(label, 'universal')]).toEqual(['16', '3']);
  });
});

describe('what is measured again', () => {
  const three = readingsOf(
    layersWith(
      ['a', 'length', length(10)],
      ['b', 'length', length(12)],
      ['b', 'note', note({ repeatOf: 'a' })],
      ['c', 'length', length(11)],
      ['c', 'note', note({ repeatOf: 'a' })],
      ['d', 'length', length(50)]
    ),
    null
  );
  it('stands with what it repeats, with the spread of all', () => {
    const [first, other] = grouped(three);
    expect(first.again.map(({ item }) => item.id)).toEqual(['b', 'c']);
    expect(first.spread).toMatchObject({ count: 3, mean: 11, standardDeviation: 1 });
    expect(other).toMatchObject({ again: [], spread: null });
  });
  it('stands for itself where what it repeated is gone, or is something else', () => {
    expect(grouped(three.filter(({ item }) => item.id !== 'a')).map(({ first }) => first.item.id)).toEqual([
      'b',
      'c',
      'd'
    ]);
    const odd = readingsOf(
      layersWith(
        ['a', 'area', { points: [at(0, 0), at(2, 0), at(0, 2)] }],
        ['b', 'length', length(12)],
        ['b', 'note', note({ repeatOf: 'a' })]
      ),
      null
    );
    expect(grouped(odd)).toHaveLength(2);
  });
});
