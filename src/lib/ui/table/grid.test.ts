import { describe, expect, it } from 'vitest';
import { gridFor } from './grid';

const room = { width: 800, height: 600 };
const lying = (count: number) => Array.from({ length: count }, () => ({ width: 400, height: 200 }));
const standing = (count: number) => Array.from({ length: count }, () => ({ width: 200, height: 400 }));

describe('how pictures lie side by side', () => {
  it.each([
    ['one fills the stage', lying(1), 1, 1],
    ['two that lie go below each other', lying(2), 1, 2],
    ['two that stand go beside each other', standing(2), 2, 1],
    ['three that stand make a row', standing(3), 3, 1],
    ['four make a square', lying(4), 2, 2],
    ['six that stand make two rows', standing(6), 3, 2],
    ['six that lie make three rows', lying(6), 2, 3]
  ] as const)('%s', (_, sides, columns, rows) => {
    expect(gridFor([...sides], room)).toEqual({ columns, rows });
  });
  it('two squares go beside each other where there is as much to see either way', () => {
    const squares = [
      { width: 10, height: 10 },
      { width: 10, height: 10 }
    ];
    expect(gridFor(squares, { width: 600, height: 600 })).toEqual({ columns: 2, rows: 1 });
  });
});
