import { describe, expect, it } from 'vitest';
import { shifted } from './route';

describe('a line in which one goes by', () => {
  it('places earlier or later, and no further than the line reaches', () => {
    const line = ['a', 'b', 'c', 'd'];
    expect(shifted(line, 2, -1)).toEqual(['a', 'c', 'b', 'd']);
    expect(shifted(line, 0, 2)).toEqual(['b', 'c', 'a', 'd']);
    expect(shifted(line, 1, -9)).toEqual(['b', 'a', 'c', 'd']);
    expect(shifted(line, 1, 9)).toEqual(['a', 'c', 'd', 'b']);
    expect(line).toEqual(['a', 'b', 'c', 'd']);
  });
});
