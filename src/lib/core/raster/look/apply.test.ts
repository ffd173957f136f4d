import { expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { patchOf, wholeOf } from '../patch';
import { KeptSteps, type Source, greys, prepared } from './apply';
import type { Look } from './look';
import { lookOfFirstVersion } from './lookSchema';
import { greyTable } from './table';

const size = { width: 150, height: 90 };
const random = seededRandom(11);
const samples = Uint16Array.from(
  { length: size.width * size.height },
  (_, i) => 2000 + 1500 * Math.sin((i % size.width) / 20) + 60 * random.normal()
);
const source: Source = (window) => patchOf(samples, size, window);

const long: Look = {
  steps: [
    { kind: 'median', radiusPx: 1 },
    { kind: 'local contrast', tiles: 4, clip: 3, low: 0, high: 4095 },
    { kind: 'unsharp', sigmaPx: 2, amount: 0.7, threshold: 5 },
    { kind: 'equalise' },
    { kind: 'smooth', sigmaPx: 0.8 },
    { kind: 'keep edges', radiusPx: 2, range: 0.05 },
    { kind: 'gamma', gamma: 1.3 },
    { kind: 'invert' }
  ]
};

it('a long look gives the same pixels in windows as at once', () => {
  const look = prepared(long, source, size);
  const whole = greys(look, source, wholeOf(size), size);
  expect(Math.max(...whole) - Math.min(...whole)).toBeGreaterThan(200);
  for (const window of [
    { left: 0, top: 0, width: 75, height: 90 },
    { left: 75, top: 0, width: 75, height: 41 },
    { left: 75, top: 41, width: 75, height: 49 }
  ]) {
    const part = greys(look, source, window, size);
    for (let y = 0; y < window.height; y++)
      for (let x = 0; x < window.width; x++)
        expect(part[y * window.width + x]).toBe(whole[(window.top + y) * size.width + window.left + x]);
  }
});

it('a look that a table holds gives the same greys with and without the table', () => {
  const look = lookOfFirstVersion({ window: { center: 2100, width: 1800 }, inverted: true });
  const table = greyTable(look, 16);
  const out = greys(prepared(look, source, size), source, wholeOf(size), size);
  for (let i = 0; i < out.length; i++) expect(out[i]).toBe(table[samples[i]]);
});

it('what is kept from one making to the next changes nothing of what comes out', () => {
  const kept = new KeptSteps();
  const window = { left: 20, top: 10, width: 90, height: 60 };
  for (const [amount, sigmaPx, clip, part] of [
    [0.7, 2, 3, window],
    [1.9, 2, 3, window],
    [1.9, 2, 3, { ...window, left: 40, width: 50 }],
    [0.4, 3.5, 3, window],
    [0.4, 3.5, 6, window]
  ] as const) {
    const look = prepared(
      {
        steps: [
          { kind: 'local contrast', tiles: 4, clip, low: 0, high: 4095 },
          { kind: 'unsharp', sigmaPx, amount, threshold: 5 },
          { kind: 'window', center: 2000, width: 3000, by: 'linear' }
        ]
      },
      source,
      size
    );
    expect(greys(look, source, part, size, kept)).toEqual(greys(look, source, part, size));
  }
});

it('the order of steps matters and is kept', () => {
  const window = { kind: 'window', center: 2000, width: 2000, by: 'linear' } as const;
  const gamma = { kind: 'gamma', gamma: 2 } as const;
  const of = (steps: Look['steps']) => greys(prepared({ steps }, source, size), source, wholeOf(size), size);
  const one = of([window, gamma, { kind: 'invert' }]);
  const other = of([window, { kind: 'invert' }, gamma]);
  expect(one).not.toEqual(other);
});
