import { describe, expect, it } from 'vitest';
import { inWords } from '../measurement/inWords';
import { dateInWords, dayInWords } from './clinicTime';
import { decimalMark, languageName, languageOf, languages, numberIn } from './language';

describe('dates and numbers', () => {
  it('are written as the language does', () => {
    expect(dateInWords('2026-10-07', 'en-GB')).toBe('7 Oct 2026');
    expect(dateInWords('2026-10-07', 'en-US')).toBe('Oct 7, 2026');
    expect(dateInWords('2026-10-07', 'de')).toBe('7. Okt. 2026');
    expect(inWords({ value: 1234.56, plusMinus: 0.21, unit: 'mm' }, 'de')).toBe('1234,56 ± 0,21 mm');
    expect(inWords({ value: -31.4, plusMinus: 0.6, unit: 'deg' }, 'en-US')).toBe('-31.4 ± 0.6°');
  });

  it('are of the day that it is at the clinic, in every language', () => {
    const late = new Date('2026-10-06T23:30:00Z');
    for (const language of languages)
      expect(dayInWords(late, { timeZone: 'Asia/Tokyo', language })).toBe(
        dateInWords('2026-10-07', language)
      );
  });

  it('say day and year in digits that everybody reads, and no number stands with marks for thousands', () => {
    for (const language of languages) {
      const words = dateInWords('2026-10-27', language);
      expect(words, language).toMatch(/\b27\b/);
      expect(words, language).toMatch(/\b2026\b/);
      expect(numberIn(1234567.25, 2, language), language).toBe(`1234567${decimalMark(language)}25`);
      expect(['.', ','], language).toContain(decimalMark(language));
      expect(languageName(language).trim(), language).not.toBe('');
    }
  });

  it('of a language that is none of ours are written plainly', () => {
    expect([languageOf('de'), languageOf('xx'), languageOf('')]).toEqual(['de', 'en-GB', 'en-GB']);
  });
});
