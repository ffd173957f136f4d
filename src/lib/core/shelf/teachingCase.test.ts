import { describe, expect, it } from 'vitest';
import { ageBandOn, ageBands, caseNumber, caseWords, ruleForCases, textOf } from './teachingCase';

describe('the age of a case', () => {
  it.each([
    ['2026-03-01', '2026-02-28', 'not said'],
    ['2026-03-01', '2026-03-01', 'under 1'],
    ['2025-03-01', '2026-02-28', 'under 1'],
    ['2025-03-01', '2026-03-01', '1 to 5'],
    ['2008-11-29', '2026-11-28', '12 to 17'],
    ['2008-11-28', '2026-11-28', '18 to 29'],
    ['1951-11-28', '2026-11-28', '75 and over'],
    ['1800-01-01', '2026-11-28', '75 and over'],
    [null, '2026-11-28', 'not said']
  ])('of somebody born on %s is on %s: %s', (born, on, band) => expect(ageBandOn(born, on)).toBe(band));

  it('grows with every day, and never jumps over a band', () => {
    let last = 1;
    for (let days = 0; days < 36_500; days += 50) {
      const on = new Date(Date.UTC(1926, 0, 1) + days * 86_400_000).toISOString().slice(0, 10);
      const at = ageBands.indexOf(ageBandOn('1926-01-01', on));
      expect(at - last === 0 || at - last === 1).toBe(true);
      last = at;
    }
    expect(last).toBe(ageBands.length - 1);
  });
});

it('a number is told with four digits, and with more where it has more', () =>
  expect([1, 42, 12_345].map(caseNumber)).toEqual(['0001', '0042', '12345']));

it('the rule for cases tells no dates and keeps drawings, as far as there is one', () => {
  const rule = (name: string, dates: 'kept' | 'moved' | 'removed', graphics: 'removed' | 'cleaned') =>
    ({ name, rule: { dates, graphics } }) as never as {
      name: string;
      rule: { dates: 'removed'; graphics: 'cleaned' };
    };
  const all = [rule('a', 'moved', 'removed'), rule('b', 'moved', 'cleaned'), rule('c', 'removed', 'cleaned')];
  expect(ruleForCases(all)?.name).toBe('c');
  expect(ruleForCases(all.slice(0, 2))?.name).toBe('b');
  expect(ruleForCases(all.slice(0, 1))?.name).toBe('a');
  expect(ruleForCases([])).toBeUndefined();
});

it('all that is written is looked through, and a case without a title is none', () => {
  const words = {
    title: 'T1',
    description: 'D2',
    keyWords: ['K3', 'K4'],
    ageBand: '6 to 11' as const,
    diagnosis: { system: 'ICD-10' as const, code: 'C5', words: 'W6' },
    findings: 'F7'
  };
  for (const part of ['T1', 'D2', 'K3', 'K4', '6 to 11', 'ICD-10', 'C5', 'W6', 'F7'])
    expect(textOf(words)).toContain(part);
  expect(caseWords.schema.safeParse(words).success).toBe(true);
  expect(caseWords.schema.safeParse({ ...words, title: '  ' }).success).toBe(false);
  expect(caseWords.schema.safeParse({ ...words, diagnosis: { ...words.diagnosis, code: '' } }).success).toBe(
    false
  );
});
