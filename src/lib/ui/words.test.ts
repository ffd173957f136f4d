import { describe, expect, it } from 'vitest';
import { ageWords, countWords } from './words';

describe('ageWords', () => {
  it('counts whole years only after the birthday', () => {
    expect(ageWords('1987-03-14', '2026-03-13')).toBe('38 years');
    expect(ageWords('1987-03-14', '2026-03-14')).toBe('39 years');
  });
  it('says months for the very young', () => {
    expect(ageWords('2026-01-20', '2026-06-19')).toBe('4 months');
  });
});

describe('countWords', () => {
  it('knows one from many', () => {
    expect([countWords(1, 'take', 'takes'), countWords(0, 'take', 'takes')]).toEqual(['1 take', '0 takes']);
  });
});
