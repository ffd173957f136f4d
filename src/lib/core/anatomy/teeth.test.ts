import { describe, expect, it } from 'vitest';
import { permanentTeeth, showTooth, toothKind, toothName, universalNumber } from './teeth';

describe('tooth notations', () => {
  it('maps FDI to Universal one to one, 1 to 32', () => {
    const numbers = permanentTeeth.map(universalNumber);
    expect([...numbers].sort((a, b) => a - b)).toEqual(Array.from({ length: 32 }, (_, i) => i + 1));
  });
  it('agrees with the corners of the Universal chart', () => {
    expect([18, 11, 21, 28, 38, 31, 41, 48].map(universalNumber)).toEqual([1, 8, 9, 16, 17, 24, 25, 32]);
  });
  it('shows the upper right first molar in each notation', () => {
    expect(showTooth(16, 'fdi')).toBe('16');
    expect(showTooth(16, 'universal')).toBe('3');
    expect(showTooth(16, 'palmer')).toBe('6⏌');
    expect(showTooth(36, 'palmer')).toBe('⎾6');
  });
  it('gives 32 different Palmer marks', () => {
    expect(new Set(permanentTeeth.map((t) => showTooth(t, 'palmer'))).size).toBe(32);
  });
  it('names teeth in words', () => {
    expect(toothName(41)).toBe('lower right central incisor');
    expect(toothKind(25)).toBe('premolar');
  });
  it('refuses a number that is no tooth', () => expect(() => toothName(19)).toThrow(RangeError));
});
