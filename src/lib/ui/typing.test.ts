import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { afterTyping } from './typing';

describe('what is typed', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('is asked for once, when nothing more is typed, without the spaces about it', () => {
    const asked: string[] = [];
    const typed = afterTyping((words) => asked.push(words));
    for (const each of ['m', 'mo', 'mol', ' molar ']) {
      typed(each);
      vi.advanceTimersByTime(100);
    }
    expect(asked).toEqual([]);
    vi.advanceTimersByTime(1_000);
    expect(asked).toEqual(['molar']);
    typed('');
    vi.advanceTimersByTime(1_000);
    expect(asked).toEqual(['molar', '']);
  });
  it('in one field does not hold up what is typed in another', () => {
    const asked: string[] = [];
    const [one, other] = ['one', 'other'].map((field) =>
      afterTyping((words) => asked.push(`${field} ${words}`))
    );
    one('a');
    other('b');
    vi.advanceTimersByTime(1_000);
    expect(asked).toEqual(['one a', 'other b']);
  });
});
