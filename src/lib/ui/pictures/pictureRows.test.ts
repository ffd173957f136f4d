import { describe, expect, it } from 'vitest';
import type { ListedPicture } from '$core/picture/pictureSearch';
import { rowOf, rowsOf, stepped } from './pictureRows';

const of = (visitId: string, ids: string, trayNumber: number | null = 1) =>
  [...ids].map((pictureId) => ({ pictureId, visitId, trayNumber }) as ListedPicture);
const pictures = [...of('v1', 'abcde'), ...of('v2', 'fg'), ...of('v2', 'h', 2)];
const shape = (columns: number, grouped: boolean) =>
  rowsOf(pictures, columns, grouped).map((row) =>
    row.kind === 'head' ? row.visitId : row.pictures.map(({ pictureId }) => pictureId).join('')
  );

describe('pictures in rows', () => {
  it('lie by visit and tray under a head, or all together', () => {
    expect(shape(3, true)).toEqual(['v1', 'abc', 'de', 'v2', 'fg', 'v2', 'h']);
    expect(shape(3, false)).toEqual(['abc', 'def', 'gh']);
    expect(rowsOf([], 3, true)).toEqual([]);
    const keys = rowsOf(pictures, 2, true).map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('are walked by keys across rows and heads, and never out of the list', () => {
    const rows = rowsOf(pictures, 3, true);
    const walk = (from: string, ...keys: string[]) => keys.reduce((at, key) => stepped(rows, at, key), from);
    expect(walk('c', 'ArrowDown')).toBe('e');
    expect(walk('e', 'ArrowDown', 'ArrowDown')).toBe('h');
    expect(walk('h', 'ArrowUp', 'ArrowUp', 'ArrowUp')).toBe('a');
    expect(walk('e', 'ArrowRight', 'ArrowRight', 'ArrowLeft')).toBe('f');
    expect(walk('a', 'ArrowLeft', 'ArrowUp')).toBe('a');
    expect(walk('a', 'End', 'ArrowRight', 'ArrowDown')).toBe('h');
    expect(walk('g', 'Home')).toBe('a');
    expect(walk('x', 'ArrowDown')).toBe('x');
    expect(rowOf(rows, 'g')).toEqual({ row: 4, at: 1 });
  });
});
