import { describe, expect, it } from 'vitest';
import type { ListedPicture } from '$core/picture/pictureSearch';
import { Picked } from './picked.svelte';

const list = [...'abcdef'].map((pictureId) => ({ pictureId }) as ListedPicture);
const [a, , c, , e] = list;
const picked = () => new Picked();

describe('pictures that are picked', () => {
  it('are picked and dropped one by one, and kept in the order they were picked in', () => {
    const some = picked();
    for (const each of [e, a, c, a]) some.toggle(each);
    expect(some.ids).toEqual(['e', 'c']);
    expect([some.has('e'), some.has('a'), some.count]).toEqual([true, false, 2]);
  });

  it('are picked in a stretch from the last one, either way; without one alone', () => {
    const down = picked();
    down.stretch(list, c);
    expect(down.ids).toEqual(['c']);
    down.stretch(list, e);
    expect(down.ids).toEqual(['c', 'd', 'e']);
    const up = picked();
    up.toggle(e);
    up.stretch(list, a);
    expect(up.ids.toSorted()).toEqual(['a', 'b', 'c', 'd', 'e']);
  });

  it('stay picked when the list holds others, and none is left after all are dropped', () => {
    const some = picked();
    some.toggle(a);
    some.all(list.slice(3));
    expect(some.ids).toEqual(['a', 'd', 'e', 'f']);
    some.none();
    expect(some.count).toBe(0);
    some.stretch(list, c);
    expect(some.ids).toEqual(['c']);
  });
});
