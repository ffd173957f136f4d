import { describe, expect, it } from 'vitest';
import { starter } from '$core/raster/look/starters';
import { addable, positionOf, positionsOf, slidersOf, valueAt } from './beads';

const sliders = addable.flatMap(({ kind }) => slidersOf(starter(kind), 1));

describe('sliders of adjustments', () => {
  it('reach both ends, and every position of one is a value that stands there again', () => {
    for (const slider of sliders) {
      const last = positionsOf(slider);
      expect([valueAt(slider, 0), valueAt(slider, last)], slider.label).toEqual([slider.least, slider.most]);
      for (let position = 0; position <= last; position++)
        expect(positionOf({ ...slider, value: valueAt(slider, position) }), slider.label).toBe(position);
    }
  });
  it('change nothing but what they are for', () => {
    const [amount, width] = slidersOf(starter('unsharp'), 1);
    expect(amount.with(2)).toEqual({ ...starter('unsharp'), amount: 2 });
    expect(width.with(7)).toEqual({ ...starter('unsharp'), sigmaPx: 7 });
    expect(slidersOf(starter('median'), 1)[0].with(2)).toEqual({ kind: 'median', radiusPx: 2 });
  });
});
