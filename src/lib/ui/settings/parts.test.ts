import { describe, expect, it } from 'vitest';
import { foundParts, hrefOf, settingsParts } from './parts';

describe('the parts of the settings', () => {
  it('are found by their names and by what they hold, in small letters and large', () => {
    const found = (words: string) => foundParts(settingsParts, words).map(({ part, by }) => [part.key, by]);
    expect(found('LOGO')).toEqual([['papers', 'logo']]);
    expect(found('pedal')).toEqual([['rooms', '']]);
    expect(found('mail').map(([key]) => key)).toEqual(['arrivals', 'destinations']);
    expect(found('looks')).toEqual([
      ['looks', ''],
      ['devices', 'looks']
    ]);
    expect(found('  ')).toHaveLength(settingsParts.length);
    expect(found('nothing of the kind')).toEqual([]);
  });

  it('have each a name and a place of their own', () => {
    expect(new Set(settingsParts.map(({ words }) => words)).size).toBe(settingsParts.length);
    expect(new Set(settingsParts.map(hrefOf)).size).toBe(settingsParts.length);
  });
});
