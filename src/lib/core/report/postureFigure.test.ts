import { describe, expect, it } from 'vitest';
import type { GuideResult } from '../measurement/guides/evaluate';
import { posture } from '../measurement/guides/posture';
import { postureFigure } from './postureFigure';

const results = (values: Record<string, number>, length: 'mm' | 'px' = 'mm'): GuideResult[] =>
  posture.formulas.map((formula): GuideResult => {
    const value = values[formula.key];
    if (value === undefined) return { formula, outcome: 'missing', points: [] };
    const unit = formula.power === 1 ? length : formula.unit;
    return { formula, outcome: 'value', value: { value, unit, plusMinus: 1 }, standing: null, stage: null };
  });
const front = { 'head roll': 0, 'chest roll': 10, 'pelvis roll': -5, 'chest left': 12, 'head left': -20 };
const side = {
  'head forward left': 30,
  'chest forward left': 10,
  'head pitch left': 20,
  'chest pitch left': 0,
  'pelvis pitch left': 5
};

describe('the figure of somebody’s posture', () => {
  it('has each part as far aside as it was measured, one upon the other, and turned as much', () => {
    const { front: parts, side: none } = postureFigure(results(front))!;
    expect(none).toBeNull();
    const by = Object.fromEntries(parts!.map((part) => [part.key, part]));
    expect([by.pelvis.middle.x, by.chest.middle.x, by.head.middle.x]).toEqual([0, 12, -8]);
    // The left side is on the right, and above 0 it is the higher.
    expect(by.chest.to.y).toBeLessThan(by.chest.from.y);
    expect(by.pelvis.to.y).toBeGreaterThan(by.pelvis.from.y);
    const { from, to } = by.chest;
    expect((Math.atan2(from.y - to.y, to.x - from.x) * 180) / Math.PI).toBeCloseTo(10, 9);
  });

  it('is seen from the right whichever side was photographed: forward is to the right', () => {
    const { side: parts } = postureFigure(results(side))!;
    const by = Object.fromEntries(parts!.map((part) => [part.key, part]));
    expect([by.chest.middle.x, by.head.middle.x]).toEqual([10, 40]);
    expect(by.head.to.y).toBeLessThan(by.head.from.y);
  });

  it('is not drawn of what is missing or in pixels', () => {
    expect(postureFigure(results({ ...front, 'chest left': NaN }, 'px'))).toBeNull();
    expect(postureFigure(results(front, 'px'))).toBeNull();
    const { 'head roll': _, ...rest } = front;
    expect(postureFigure(results({ ...rest, ...side }))!.front).toBeNull();
  });
});
