import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { numberedSeries } from './numbered';

const of = (...names: string[]) => numberedSeries(names, (name) => name);

describe('numbered pictures', () => {
  it('are one series a folder in the order of their numbers, whatever order they came in', () => {
    const random = seededRandom(3);
    const names = Array.from({ length: 12 }, (_, i) => `scan/slice ${i + 1}.jpg`);
    const mixed = names.toSorted(() => random.uniform() - 0.5);
    const [series, ...more] = of(...mixed, 'scan/notes.txt', 'other/slice 1.jpg');
    expect(more).toEqual([]);
    expect(series).toEqual({ name: 'scan, slice', files: names, remarks: [] });
  });
  it('are told apart by what stands before and after the number', () => {
    const both = of(...[1, 2, 3, 4].flatMap((n) => [`a${n}.png`, `b${n}.png`]));
    expect(both.map(({ files }) => files.length)).toEqual([4, 4]);
  });
  it('say which numbers are missing and which came twice', () => {
    const [{ remarks, files }] = of('s/01.png', 's/02.png', 's/2.png', 's/05.png', 's/06.png');
    expect(files).toHaveLength(5);
    expect(remarks).toEqual([
      'Numbers 3, 4 are missing in the row.',
      'Number 2 came more than once; each is a picture of the row.'
    ]);
  });
  it('that are counted by tens miss nothing', () => {
    expect(of('x10.tif', 'x20.tif', 'x30.tif', 'x40.tif')[0].remarks).toEqual([]);
  });
  it('are no series where they are few, or not numbered', () => {
    expect(of('a1.png', 'a2.png', 'a3.png', 'letter.png')).toEqual([]);
  });
});
