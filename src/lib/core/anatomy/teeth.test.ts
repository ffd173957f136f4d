import { describe, expect, it } from 'vitest';
import { deciduousTeeth, permanentTeeth, showTooth, toothKind, toothName, universal } from './teeth';

describe('tooth notations', () => {
  it('maps permanent teeth to Universal one to one, 1 to 32, and deciduous ones to A to T', () => {
    const numbers = permanentTeeth.map((tooth) => Number(universal(tooth)));
    expect([...numbers].sort((a, b) => a - b)).toEqual(Array.from({ length: 32 }, (_, i) => i + 1));
    expect(deciduousTeeth.map(universal).sort().join('')).toBe('ABCDEFGHIJKLMNOPQRST');
  });
  it('agrees with the corners of the Universal chart', () => {
    expect([18, 11, 21, 28, 38, 31, 41, 48].map(universal).map(Number)).toEqual([
      1, 8, 9, 16, 17, 24, 25, 32
    ]);
    expect([55, 51, 61, 65, 75, 71, 81, 85].map(universal).join('')).toBe('AEFJKOPT');
  });
  it('shows the upper right first molar in each notation', () => {
    expect(showTooth(16, 'fdi')).toBe('16');
    expect(showTooth(16, 'universal')).toBe('3');
    expect(showTooth(16, 'palmer')).toBe('6⏌');
    expect(showTooth(36, 'palmer')).toBe('⎾6');
    expect(showTooth(74, 'palmer')).toBe('⎾D');
  });
  it('gives 52 different Palmer marks', () => {
    const all = [...permanentTeeth, ...deciduousTeeth];
    expect(new Set(all.map((tooth) => showTooth(tooth, 'palmer'))).size).toBe(52);
  });
  it('names teeth in words', () => {
    expect(toothName(41)).toBe('lower right central incisor');
    expect(toothName(54)).toBe('upper right deciduous first molar');
    expect([25, 54, 83].map(toothKind)).toEqual(['premolar', 'molar', 'canine']);
  });
  it('refuses a number that is no tooth', () => {
    for (const none of [19, 56, 90, 0, 11.5]) expect(() => toothName(none)).toThrow(RangeError);
  });
});
