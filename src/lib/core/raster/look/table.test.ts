import { describe, expect, it } from 'vitest';
import { windowFunction } from '../filters/tables';
import { type Look, inverted, isInverted, windowLook, windowOf, withWindow } from './look';
import { lookOfFirstVersion, lookSchema } from './lookSchema';
import { greyTable, isPointwise, pixelTable } from './table';

describe('a linear window', () => {
  const of = (center: number, width: number) => windowFunction('linear', center, width);
  it('gives the worked values of PS3.3 C.11.2.1.2.1 for c=2048, w=4096', () => {
    expect(of(2048, 4096)(0)).toBe(0);
    expect(of(2048, 4096)(4095)).toBeCloseTo(1, 12);
    expect(of(2048, 4096)(2047.5)).toBe(0.5);
  });
  it('is a threshold at width 1', () => {
    expect(of(2048, 1)(2047)).toBe(0);
    expect(of(2048, 1)(2048)).toBe(1);
  });
  it('refuses a width below one', () => expect(() => of(1, 0)).toThrow(RangeError));
  it('never falls while the value rises', () => {
    for (let x = 1; x < 300; x++) expect(of(120, 37)(x)).toBeGreaterThanOrEqual(of(120, 37)(x - 1));
  });
});

describe('tables', () => {
  it('invert exactly', () => {
    const look = windowLook({ center: 128, width: 256 });
    const plain = greyTable(look, 8);
    const turned = greyTable(inverted(look), 8);
    expect(plain.every((v, i) => v + turned[i] === 255)).toBe(true);
  });
  it('take the offset of signed pictures into account', () => {
    expect(greyTable(windowLook({ center: 0, width: 100 }), 12, -1024)[1024]).toBe(129);
  });
  it('hold several steps in their order, as each alone gives', () => {
    const look: Look = {
      steps: [
        { kind: 'window', center: 100, width: 80, by: 'sigmoid' },
        { kind: 'gamma', gamma: 2 },
        { kind: 'invert' }
      ]
    };
    const table = greyTable(look, 8);
    for (const value of [0, 70, 100, 140, 255])
      expect(table[value]).toBe(
        Math.round(255 * (1 - Math.sqrt(1 / (1 + Math.exp((-4 * (value - 100)) / 80)))))
      );
  });
  it('are refused for a look that needs neighbours: it is never shown half', () => {
    const look: Look = {
      steps: [...windowLook({ center: 1, width: 2 }).steps, { kind: 'smooth', sigmaPx: 1 }]
    };
    expect(isPointwise(look)).toBe(false);
    expect(() => greyTable(look, 8)).toThrow('smooth');
  });
  it('pack opaque greys', () => expect(pixelTable(Uint8Array.of(0x12))[0]).toBe(0xff121212));
});

describe('a look', () => {
  const gamma = { kind: 'gamma', gamma: 1.5 } as const;
  it('gets another window in the place of its first, and keeps the rest', () => {
    const look: Look = { steps: [{ kind: 'window', center: 5, width: 9, by: 'sigmoid' }, gamma] };
    const changed = withWindow(look, { center: 7, width: 3 });
    expect(changed.steps).toEqual([{ kind: 'window', center: 7, width: 3, by: 'sigmoid' }, gamma]);
    expect(windowOf(changed)).toEqual({ center: 7, width: 3, by: 'sigmoid' });
    expect(windowOf({ steps: [gamma] })).toBeNull();
    expect(withWindow({ steps: [gamma] }, { center: 7, width: 3 }).steps).toHaveLength(2);
  });
  it('is inverted and back', () => {
    const look = windowLook({ center: 5, width: 9 });
    expect([isInverted(look), isInverted(inverted(look)), inverted(inverted(look))]).toEqual([
      false,
      true,
      look
    ]);
  });
  it('of the first version is read as what it was, and what can’t be one is refused', () => {
    expect(lookOfFirstVersion({ window: { center: 5, width: 9 }, inverted: true })).toEqual(
      windowLook({ center: 5, width: 9 }, true)
    );
    const wrong: unknown[] = [
      { steps: [{ kind: 'window', center: 1, width: 0.5, by: 'linear' }] },
      { steps: [{ kind: 'window', center: Number.NaN, width: 5, by: 'linear' }] },
      { steps: [{ kind: 'dream' }] },
      { steps: [{ kind: 'invert', extra: 1 }] },
      { steps: Array.from({ length: 25 }, () => ({ kind: 'invert' })) }
    ];
    for (const each of wrong) expect(lookSchema.safeParse(each).success, JSON.stringify(each)).toBe(false);
  });
});
