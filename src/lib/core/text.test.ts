import { describe, expect, it } from 'vitest';
import { seededRandom } from './random';
import { cleanText, cleanTexts, shortened } from './text';

describe('a text that is cleaned', () => {
  it('loses what can’t be stored or seen, and keeps all that can be read', () => {
    expect(cleanText('Pan\0der\u001b[31m\u007f')).toBe('Pander[31m');
    expect(cleanText('two\nlines\tand a tab\r')).toBe('two\nlines\tand a tab\r');
    expect(cleanText('half \ud800 pair, \udc00 too; whole 😀')).toBe(
      'half \ufffd pair, \ufffd too; whole 😀'
    );
    expect(cleanText('Ódile 王小 길')).toBe('Ódile 王小 길');
  });
  it('of any units at all is well formed, without a NUL, and the same when cleaned again', () => {
    const random = seededRandom(6);
    for (let i = 0; i < 400; i++) {
      const units = Array.from({ length: 20 }, () => {
        const kind = random.uniform();
        return (
          Math.floor((kind < 0.3 ? 0x20 : kind < 0.6 ? 0x10000 : 0x800) * random.uniform()) +
          (kind > 0.6 ? 0xd800 : 0)
        );
      });
      const clean = cleanText(String.fromCharCode(...units.map((unit) => unit & 0xffff)));
      expect(Buffer.from(clean, 'utf8').toString('utf8')).toBe(clean);
      expect(JSON.parse(JSON.stringify(clean))).toBe(clean);
      expect(clean).not.toContain('\0');
      expect(cleanText(clean)).toBe(clean);
    }
  });
  it('is found wherever it stands, keys too, and nothing else is touched', () => {
    const bytes = Uint8Array.from([0, 1]);
    const date = new Date(0);
    const cleaned = cleanTexts({ 'na\0me': ['a\0', { deep: '\0' }, 5, null, true], bytes, date });
    expect(cleaned).toEqual({ name: ['a', { deep: '' }, 5, null, true], bytes, date });
    expect((cleaned as unknown as { bytes: Uint8Array }).bytes).toBe(bytes);
  });
  it('is cut between characters, never through one', () => {
    expect(shortened('ab😀cd', 3)).toBe('ab😀');
    expect(shortened('short', 200)).toBe('short');
  });
});
