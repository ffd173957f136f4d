import { describe, expect, it } from 'vitest';
import { courseBox, courseDrawing } from './courseDrawing';
import { postureFigure } from './postureFigure';
import { postureBox, postureShapes } from './postureShapes';
import type { GuideResult } from '../measurement/guides/evaluate';

const step = (month: number, value: number, plusMinus = 1) => ({
  takenAt: `2026-0${month}-01T00:00:00Z`,
  value,
  plusMinus
});
const numbersIn = (d: string) => (d.match(/-?\d+(\.\d+)?/g) ?? []).map(Number);

describe('a result over time, drawn small', () => {
  it('has its times to scale, its values upright and each ± as a bar', () => {
    const [line, ...marks] = courseDrawing([step(1, 10), step(2, 20), step(9, 10)]);
    const [x1, y1, x2, y2, x3, y3] = numbersIn(line.d);
    expect(x1).toBeLessThan(x2);
    expect((x2 - x1) / (x3 - x1)).toBeCloseTo(31 / 243, 2);
    expect(y2).toBeLessThan(y1);
    expect(y3).toBeCloseTo(y1, 2);
    const bars = marks.filter(({ d }) => d.includes('V')).map(({ d }) => numbersIn(d));
    expect(bars).toHaveLength(3);
    for (const [x, top, bottom] of bars) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(courseBox.width);
      expect(top).toBeLessThan(bottom);
    }
  });
  it('shows limits where they lie in sight alone', () => {
    const steps = [step(1, 10), step(3, 20)];
    const dashed = (range: { low: number | null; high: number | null }) =>
      courseDrawing(steps, range).filter((shape) => shape.dashed).length;
    expect(dashed({ low: 12, high: 15 })).toBe(2);
    expect(dashed({ low: null, high: 15 })).toBe(1);
    expect(dashed({ low: 0, high: 100 })).toBe(0);
  });
  it('is nothing for one time, and holds for values and times that are all one', () => {
    expect(courseDrawing([step(1, 10)])).toEqual([]);
    const same = courseDrawing([step(1, 10, 0), step(1, 10, 0)]);
    expect(same.length).toBeGreaterThan(0);
    for (const { d } of same) expect(d).not.toContain('NaN');
  });
});

it('the figure of a posture lies within its box, head over chest over pelvis', () => {
  const result = (key: string, unit: 'mm' | 'deg', value: number) =>
    ({ formula: { key }, outcome: 'value', value: { value, plusMinus: 1, unit } }) as unknown as GuideResult;
  const figure = postureFigure([
    result('chest left', 'mm', 40),
    result('head left', 'mm', -30),
    ...['pelvis', 'chest', 'head'].map((part, i) => result(`${part} roll`, 'deg', 4 * i))
  ]);
  const shapes = postureShapes(figure!.front!, 'front');
  const reds = shapes
    .filter(({ stroke, width }) => stroke === '#b5371f' && width === 6)
    .map(({ d }) => numbersIn(d));
  expect(reds).toHaveLength(3);
  const [pelvis, chest, head] = reds;
  expect(head[1]).toBeLessThan(chest[1]);
  expect(chest[1]).toBeLessThan(pelvis[1]);
  // The chest is shifted to the left of the body, which is the right of the drawing; the head leans most.
  expect((chest[0] + chest[2]) / 2).toBeCloseTo(40, 1);
  expect(Math.abs(head[3] - head[1]) / (head[2] - head[0])).toBeCloseTo(Math.tan((8 * Math.PI) / 180), 2);
  for (const [x1, y1, x2, y2] of reds)
    for (const [x, y] of [
      [x1, y1],
      [x2, y2]
    ]) {
      expect(x).toBeGreaterThan(postureBox.left);
      expect(x).toBeLessThan(postureBox.left + postureBox.width);
      expect(y).toBeGreaterThan(postureBox.top);
      expect(y).toBeLessThan(postureBox.top + postureBox.height);
    }
});
