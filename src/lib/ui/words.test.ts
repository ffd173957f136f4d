import { describe, expect, it } from 'vitest';
import { countWords } from './words';

describe('countWords', () => {
  it('knows one from many', () => {
    expect([countWords(1, 'take', 'takes'), countWords(0, 'take', 'takes')]).toEqual(['1 take', '0 takes']);
  });
});
