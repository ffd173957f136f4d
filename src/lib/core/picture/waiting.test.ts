import { describe, expect, it } from 'vitest';
import type { PictureNow } from './guideSets';
import { confirmable } from './layers/confirmed/confirmed';
import { type PictureItem, noLayers } from './pictureLayers';
import type { PictureView } from './pictureView';
import { waitingOn } from './waiting';

const end = { x: 1, y: 2, uncertaintyPx: 1 };
const line = (id: string): PictureItem => ({
  id,
  kind: 'length',
  body: { ends: [end, { ...end, x: 9 }] },
  by: 'mara'
});
const guide = (set: string, view: string): PictureItem => ({
  id: set,
  kind: 'guide',
  body: { set, guide: 'distal-radius', version: 1, view, points: { 'axis upper': end } },
  by: 'mara'
});
const confirmed = ({ id, body }: PictureItem): PictureItem => ({
  id,
  kind: 'confirmed',
  body: { as: confirmable(body) },
  by: 'orsin'
});
const picture = (pictureId: string, items: PictureItem[]): PictureNow => ({
  picture: { pictureId } as PictureView,
  layers: { ...noLayers, items }
});
const told = (pictures: PictureNow[]) =>
  waitingOn(pictures).map(({ pictureId, set, items }) => [pictureId, set, items.map(({ item }) => item.id)]);

describe('what waits for a clinician', () => {
  it('is told picture by picture: its readings together, each guide by itself, its parts one after the other', () => {
    expect(
      told([
        picture('front', [guide('one', 'front'), line('a'), guide('two', 'front'), line('b')]),
        picture('side', [line('c'), guide('one', 'side')])
      ])
    ).toEqual([
      ['front', null, ['a', 'b']],
      ['front', 'one', ['one']],
      ['side', 'one', ['one']],
      ['front', 'two', ['two']],
      ['side', null, ['c']]
    ]);
  });

  it('is nothing that was confirmed, until it is moved', () => {
    const set = guide('one', 'front');
    const moved = { ...set, body: { ...(set.body as object), points: { 'axis upper': { ...end, x: 3 } } } };
    expect(told([picture('p', [set, confirmed(set), line('a'), confirmed(line('a'))])])).toEqual([]);
    expect(told([picture('p', [moved, confirmed(set)])])).toEqual([['p', 'one', ['one']]]);
  });

  it('is no note, finding or drawing', () => {
    const arrow: PictureItem = { id: 'x', kind: 'arrow', body: { ends: [end, { ...end, x: 9 }] }, by: '' };
    expect(told([picture('p', [arrow]), picture('q', [])])).toEqual([]);
  });
});
