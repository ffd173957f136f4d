import { describe, expect, it } from 'vitest';
import { fourBitewings } from './shipped/fourBitewings';
import { photographPatterns } from './shipped/photographs';
import { fullMouth } from './shipped/fullMouth';
import { shippedPatterns } from './shipped/shipped';
import { captionPx, layClose, layWells } from './layout';

const trays = [
  { width: 1030, height: 272 },
  { width: 770, height: 272 },
  { width: 1030, height: 240 },
  { width: 1600, height: 400 }
];

describe.each(shippedPatterns.map(({ pattern }) => [pattern.name, pattern.slots] as const))(
  '%s',
  (_, slots) => {
    it.each(trays)(
      'lies on a tray of $width x $height with no well over another or over the edge',
      (tray) => {
        const frames = layWells(slots, tray);
        for (const [i, a] of frames.entries()) {
          expect(a.left).toBeGreaterThanOrEqual(0);
          expect(a.top).toBeGreaterThanOrEqual(0);
          expect(a.left + a.width).toBeLessThanOrEqual(tray.width);
          expect(a.top + a.height).toBeLessThanOrEqual(tray.height);
          for (const b of frames.slice(i + 1)) {
            const apart =
              a.left + a.width <= b.left ||
              b.left + b.width <= a.left ||
              a.top + a.height <= b.top ||
              b.top + b.height <= a.top;
            expect(apart, `${slots[i].id}`).toBe(true);
          }
        }
      }
    );
  }
);

describe('wells', () => {
  it('stand where the sensor stands and lie where it lies, so that no tooth is cut off', () => {
    const { slots } = fullMouth.pattern;
    const frames = layWells(slots, trays[0]);
    for (const [i, { shape }] of slots.entries()) {
      const picture = frames[i].height - captionPx;
      expect(frames[i].width < picture, slots[i].id).toBe(shape === 'standing');
    }
  });
  it('of photographs stand in a row on a low tray, large enough for their names, and crosswise on a high one', () => {
    const [mouth] = photographPatterns;
    const low = layWells(mouth.pattern.slots, { width: 770, height: 206 });
    for (const { width, top } of low) {
      expect(width).toBeGreaterThan(104);
      expect(top).toBe(low[0].top);
    }
    const high = layWells(mouth.pattern.slots, { width: 1200, height: 620 });
    expect(new Set(high.map(({ top }) => top)).size).toBe(3);
  });
  it('are large where there are few', () => {
    const of = (pattern: typeof fullMouth) => layWells(pattern.pattern.slots, trays[0])[0].width;
    expect(of(fourBitewings)).toBeGreaterThan(1.4 * of(fullMouth));
  });
});

it('what is laid close keeps its size, its rows in their order, and stands in the middle', () => {
  const tray = { width: 800, height: 612 };
  const slots = fullMouth.pattern.slots;
  const [far, close] = [layWells(slots, tray, 480), layClose(slots, tray, 480)];
  for (const [i, { width, height, left }] of close.entries())
    expect([width, height, left]).toEqual([far[i].width, far[i].height, far[i].left]);
  const span = (frames: typeof far) => [
    Math.min(...frames.map(({ top }) => top)),
    Math.max(...frames.map(({ top, height }) => top + height))
  ];
  const [top, bottom] = span(close);
  expect(bottom - top).toBeLessThan(0.85 * (span(far)[1] - span(far)[0]));
  expect(Math.abs(top - (tray.height - bottom))).toBeLessThan(24);
  const order = (frames: typeof far) =>
    slots.map((_, i) => i).sort((a, b) => frames[a].top - frames[b].top || a - b);
  expect(order(close).slice(0, 5)).toEqual(order(far).slice(0, 5));
});
