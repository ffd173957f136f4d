import { describe, expect, it } from 'vitest';
import { everyPicture, isLimited, searchOf, searchQuery, type PictureSearch } from './pictureSearch';

const full: PictureSearch = {
  places: ['tooth:16', 'bone:person:wrist:right'],
  beside: 'loops',
  kinds: ['radiograph', 'rings'],
  from: '2025-01-01T00:00:00.000Z',
  until: '2026-01-01T00:00:00.000Z',
  categoryId: '01900001-0000-7000-8000-000000000001',
  device: 'Sensor 2 & co',
  who: 'Mara Öst',
  grade: 'not diagnostic',
  words: 'crack = 100 %',
  sort: 'who',
  up: true
};

describe('a search in an address', () => {
  it('comes back as it was, with everything in it and with nothing', () => {
    expect(searchOf(searchQuery(full))).toEqual(full);
    expect(searchQuery(everyPicture).toString()).toBe('');
    expect(searchOf(new URLSearchParams())).toEqual(everyPicture);
    for (const [name, value] of Object.entries(full)) {
      const one = { ...everyPicture, [name]: value };
      expect(searchOf(new URLSearchParams(searchQuery(one).toString()))).toEqual(one);
      expect(isLimited(one), name).toBe(name !== 'sort' && name !== 'up');
    }
  });

  it('is none where a part of it is none', () => {
    for (const bad of ['kinds=spell', 'from=yesterday', 'grade=best', 'categoryId=1', 'sort=luck'])
      expect(searchOf(new URLSearchParams(bad)), bad).toBeNull();
  });
});
