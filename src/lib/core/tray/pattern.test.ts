import { describe, expect, it } from 'vitest';
import { bookOf, fullOrder, orderSchema, refSchema, sameRef, slotsSchema } from './pattern';
import { fourBitewings } from './shipped/fourBitewings';
import { fullMouth } from './shipped/fullMouth';
import { rightWrist } from './shipped/wrist';

const { pattern, route } = fourBitewings;
const next = { ...pattern, ref: { ...pattern.ref, version: pattern.ref.version + 1 }, name: 'Renamed' };

describe('patterns', () => {
  it('are found by their number and version, and never another version instead', () => {
    const book = bookOf([pattern, next], [route]);
    expect(book.pattern(pattern.ref)).toBe(pattern);
    expect(book.pattern(next.ref).name).toBe('Renamed');
    expect(book.route(route.ref)).toBe(route);
    expect(() => book.pattern({ ...pattern.ref, version: 99 })).toThrow('version 99');
    expect(() => book.route(pattern.ref)).toThrow('no route');
  });
  it('are the same when number and version are, and none is the same as none', () => {
    expect(sameRef(pattern.ref, { ...pattern.ref })).toBe(true);
    expect(sameRef(pattern.ref, next.ref)).toBe(false);
    expect([sameRef(null, null), sameRef(null, pattern.ref), sameRef(pattern.ref, null)]).toEqual([
      true,
      false,
      false
    ]);
    expect(refSchema.safeParse({ ...pattern.ref, slots: [] }).success).toBe(false);
    expect(refSchema.safeParse({ ...pattern.ref, version: 0 }).success).toBe(false);
  });
  it('are stored with slots that can be told apart, and at least one', () => {
    expect(slotsSchema.parse(pattern.slots)).toEqual(pattern.slots);
    expect(slotsSchema.safeParse([]).success).toBe(false);
    expect(slotsSchema.safeParse([pattern.slots[0], pattern.slots[0]]).error?.issues[0].message).toBe(
      'two slots have the same id'
    );
    const offTray = { ...pattern.slots[0], at: { x: 1.2, y: 0 } };
    expect(slotsSchema.safeParse([offTray]).success).toBe(false);
    const withMore = { ...pattern.slots[0], planted: true };
    expect(slotsSchema.safeParse([withMore]).success).toBe(false);
  });
});

describe('the order of a route', () => {
  it('holds every slot once: those it names first, the others as the pattern has them', () => {
    const ids = pattern.slots.map((slot) => slot.id);
    expect(fullOrder(pattern, [ids[2]])).toEqual([ids[2], ids[0], ids[1], ids[3]]);
    expect(fullOrder(pattern, ['gone', ids[3]])).toEqual([ids[3], ids[0], ids[1], ids[2]]);
    expect(fullOrder(pattern, [])).toEqual(ids);
    for (const each of [fourBitewings, fullMouth, rightWrist])
      expect([...fullOrder(each.pattern, each.route.order)].sort()).toEqual(
        each.pattern.slots.map((slot) => slot.id).sort()
      );
  });
  it('names no slot twice', () => {
    expect(orderSchema.safeParse(['a', 'b', 'a']).success).toBe(false);
    expect(orderSchema.parse(['a', 'b'])).toEqual(['a', 'b']);
  });
});
