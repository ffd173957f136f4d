import { describe, expect, it } from 'vitest';
import { hoursOf } from './hours';

const at = (begins: string, minutes: number) => {
  const [hour, minute] = begins.split(':').map(Number);
  return { begins: hour * 60 + minute, ends: hour * 60 + minute + minutes };
};

describe('the hours of a day', () => {
  it('are the usual ones while nothing lies outside them', () => {
    expect(hoursOf([])).toEqual({ first: 8, last: 18 });
    expect(hoursOf([at('08:00', 30), at('17:45', 15)])).toEqual({ first: 8, last: 18 });
  });
  it('hold an early and a late appointment whole', () => {
    expect(hoursOf([at('06:40', 20), at('20:30', 45)])).toEqual({ first: 6, last: 22 });
    expect(hoursOf([at('23:30', 60)])).toEqual({ first: 8, last: 24 });
  });
});
