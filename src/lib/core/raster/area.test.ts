import { describe, expect, it } from 'vitest';
import { overlap } from './area';

describe('areas', () => {
  it('agree by how much of the smaller lies in both', () => {
    expect(
      overlap({ left: 0, top: 0, width: 10, height: 10 }, { left: 5, top: 0, width: 10, height: 10 })
    ).toBe(0.5);
    expect(overlap({ left: 0, top: 0, width: 4, height: 4 }, { left: 4, top: 0, width: 4, height: 4 })).toBe(
      0
    );
  });
});
