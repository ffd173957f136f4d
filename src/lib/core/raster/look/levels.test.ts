import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { halved } from '../pyramid';
import type { Raster } from '../raster';
import { KeptSteps } from './apply';
import { atLevel, isTable, preparedForLevel, throughLook } from './levels';
import type { Look } from './look';
import { greyTable } from './table';

const random = seededRandom(5);
const width = 320;
const height = 200;
/** A slow wave with a little noise. */
const raster: Raster = {
  width,
  height,
  channels: 1,
  bitsStored: 12,
  offset: -200,
  data: Uint16Array.from(
    { length: width * height },
    (_, i) => 2000 + 1200 * Math.sin((i % width) / 25) * Math.cos(i / width / 30) + 20 * random.normal()
  )
};
const window = { kind: 'window', center: 1800, width: 3000, by: 'linear' } as const;
const steps: Look['steps'] = [
  { kind: 'smooth', sigmaPx: 4 },
  { kind: 'unsharp', sigmaPx: 12, amount: 1, threshold: 0 },
  { kind: 'local contrast', tiles: 4, clip: 3, low: 0, high: 4000 },
  window,
  { kind: 'equalise' }
];
const meanDifference = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i] - b[i]);
  return sum / a.length;
};

describe('a look on a level of a picture', () => {
  it('looks as it does at full size, seen from as far', () => {
    for (const step of steps) {
      const look: Look = {
        steps: step.kind === 'window' || step.kind === 'equalise' ? [window, step] : [step, window]
      };
      const full = halved(throughLook(preparedForLevel(look, raster, 1)));
      const half = throughLook(preparedForLevel(look, halved(raster), 2));
      expect(meanDifference(full.data, half.data), step.kind).toBeLessThan(4);
    }
  });
  it('that a table holds is what the table gives', () => {
    const look: Look = { steps: [window, { kind: 'gamma', gamma: 1.4 }, { kind: 'invert' }] };
    const table = greyTable(look, 12, -200);
    const seen = throughLook(preparedForLevel(look, raster, 1), { left: 30, top: 20, width: 50, height: 10 });
    for (let y = 0; y < 10; y++)
      for (let x = 0; x < 50; x++)
        expect(seen.data[y * 50 + x]).toBe(table[raster.data[(20 + y) * width + 30 + x]]);
  });
  it('leaves out what does nothing there, and what is switched off', () => {
    const look: Look = {
      steps: [
        { kind: 'median', radiusPx: 1 },
        { kind: 'smooth', sigmaPx: 0.8 },
        { ...window, off: true },
        { kind: 'invert' }
      ]
    };
    expect(atLevel(look, 1).steps.map(({ kind }) => kind)).toEqual(['median', 'smooth', 'invert']);
    expect(atLevel(look, 4).steps.map(({ kind }) => kind)).toEqual(['invert']);
    expect([isTable(look), isTable(look, 4)]).toEqual([false, true]);
  });
  it('keeps equalising with its own step where an earlier one falls away on the coarser level', () => {
    const big = { ...raster, width: 900, height: 10, data: new Uint16Array(9000).map((_, i) => i % 900) };
    const look: Look = { steps: [{ kind: 'median', radiusPx: 1 }, window, { kind: 'equalise' }] };
    const seen = throughLook(preparedForLevel(look, big, 1));
    expect(seen.data[890]).toBeGreaterThan(seen.data[10] + 150);
  });
  it('is the same with steps kept from one making to the next, whatever changes in between', () => {
    const random = seededRandom(31).uniform;
    let kept = [new KeptSteps()];
    let before = raster;
    const amounts = [0.5, 2, 2, 1];
    for (let i = 0; i < 24; i++) {
      const look: Look = {
        steps: [
          window,
          { kind: 'local contrast', tiles: 4, clip: i % 7 === 0 ? 2 : 3, low: 0, high: 1 },
          { kind: 'smooth', sigmaPx: i % 5 === 0 ? 1 : 2 },
          { kind: 'unsharp', sigmaPx: 3, amount: amounts[i % 4], threshold: 0 }
        ]
      };
      const part = {
        left: Math.floor(random() * 60),
        top: Math.floor(random() * 60),
        width: 80 + Math.floor(random() * 100),
        height: 90
      };
      const shown = i % 9 === 8 ? { ...raster, offset: -300 } : raster;
      // What was kept is of another picture then.
      if (shown.offset !== before.offset) kept = [new KeptSteps()];
      before = shown;
      const ready = preparedForLevel(look, shown, 1);
      expect(throughLook(ready, part, kept).data, String(i)).toEqual(throughLook(ready, part).data);
    }
  });
  it('of a colour picture keeps its channels apart', () => {
    const colour: Raster = {
      width: 4,
      height: 1,
      channels: 3,
      bitsStored: 8,
      offset: 0,
      data: Uint8Array.from([9, 0, 0, 9, 0, 0, 9, 200, 0, 9, 0, 255])
    };
    const look: Look = { steps: [{ kind: 'window', center: 128, width: 256, by: 'linear' }] };
    expect([...throughLook(preparedForLevel(look, colour, 1)).data]).toEqual([...colour.data]);
  });
});
