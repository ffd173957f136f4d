import { describe, expect, it } from 'vitest';
import { settingWords } from './settingWords';

describe('a change of a setting in words', () => {
  it('says what it was and is where that is short, and nothing that nobody may read', () => {
    expect(settingWords('clinic', { name: 'Q', bin_days: 90 }, { name: 'Q', bin_days: 30 })).toBe(
      'The clinic: the days of the bin (90 → 30)'
    );
    const token = { address: { token: 'secret' } };
    expect(
      settingWords('destination', { name: 'Bench', settings: token }, { name: 'Bench', settings: {} })
    ).toBe('Destinations: Bench');
    expect(settingWords('letterhead', { address: 'One\nTwo' }, { address: 'Three' })).toBe(
      'The head of papers: the address'
    );
  });

  it('says values as the settings name them', () => {
    const before = { notation: 'palmer', time_zone: 'America/New_York', language: 'en-GB' };
    const after = { notation: 'fdi', time_zone: 'Europe/Vienna', language: 'en-GB' };
    expect(settingWords('clinic', before, after)).toBe(
      'The clinic: how teeth are written (Palmer → FDI (ISO 3950)), the time zone (America/New York → Europe/Vienna)'
    );
    expect(settingWords('clinic', { language: 'de-DE' }, { language: 'en-GB' })).not.toMatch(/de-DE|en-GB/);
  });

  it('names what came and what went', () => {
    expect(settingWords('marker', null, { name: 'Ball' })).toBe('Things of known size: Ball, added');
    expect(settingWords('printer', { name: 'Desk' }, null)).toBe('Printers: Desk, taken off the list');
    expect(
      settingWords(
        'colleague',
        { name: 'Dr Wick', retired_at: null },
        { name: 'Dr Wick', retired_at: '2026-11-29' }
      )
    ).toBe('Colleagues: Dr Wick, whether it is in use');
  });
});
