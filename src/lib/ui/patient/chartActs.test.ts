import { beforeEach, describe, expect, it, vi } from 'vitest';
import { toothPlaces } from '$core/anatomy/place';
import type { ListedPicture } from '$core/picture/pictureSearch';
import { Picked } from '../pictures/picked.svelte';
import { ChartActs } from './chartActs.svelte';

type Said = { words: string; action?: { label: string; onClick: () => void } };
const page = vi.hoisted(() => ({ went: '', said: [] as Said[], warned: [] as string[] }));
vi.mock('$app/navigation', () => ({ goto: (to: string) => (page.went = to) }));
vi.mock('svelte-sonner', () => ({
  toast: Object.assign(
    (words: string, more?: { action?: Said['action'] }) => page.said.push({ words, action: more?.action }),
    { error: () => {}, warning: (words: string) => page.warned.push(words) }
  )
}));

let sent: { url: string; body: Record<string, unknown> }[];
let answer: { status: number; body: object };
let shownAnew: number;
const picture = (pictureId: string, places: number[], slot: number[] = []) =>
  ({
    pictureId,
    visitId: `visit of ${pictureId}`,
    placed: places.length > 0,
    links: toothPlaces(places),
    slot: slot.length > 0 ? { places: toothPlaces(slot) } : null
  }) as unknown as ListedPicture;
const settled = () => new Promise((done) => setTimeout(done));

function acting(chosen: number[], ...pictures: ListedPicture[]) {
  const picked = new Picked();
  picked.all(pictures);
  const acts = new ChartActs(() => ({
    picked,
    chosen: toothPlaces(chosen),
    notation: 'fdi',
    anew: async () => void shownAnew++
  }));
  return { acts, picked };
}
const linksSent = (at: number) =>
  (sent[at].body.links as { pictureId: string; places: { tooth: number }[] }[]).map(({ pictureId, places }) =>
    `${pictureId} ${places.map(({ tooth }) => tooth).join(' ')}`.trim()
  );

beforeEach(() => {
  [sent, shownAnew, answer] = [[], 0, { status: 200, body: {} }];
  Object.assign(page, { went: '', said: [], warned: [] });
  vi.stubGlobal('fetch', async (url: string, { body }: { body: string }) => {
    sent.push({ url, body: JSON.parse(body) });
    return new Response(JSON.stringify(answer.body), { status: answer.status });
  });
});

describe('what is done with picked pictures', () => {
  it('links each to what is chosen beside what it shows already, and undoes it to what it was', async () => {
    const { acts, picked } = acting([36, 37], picture('a', [36]), picture('b', [], [46]));
    await acts.link();
    expect(linksSent(0)).toEqual(['a 36 37', 'b 46 36 37']);
    expect([picked.count, shownAnew]).toEqual([0, 1]);
    expect(page.said[0].words).toBe('2 pictures linked to teeth 36 37.');
    page.said[0].action!.onClick();
    await settled();
    expect(linksSent(1)).toEqual(['a 36', 'b 46']);
    expect(shownAnew).toBe(2);
  });

  it('takes off what is chosen and nothing else, down to no place at all', async () => {
    const { acts } = acting([36], picture('a', [36, 37]), picture('b', [], [36]));
    await acts.unlink();
    expect(linksSent(0)).toEqual(['a 37', 'b']);
    expect(page.said[0].words).toContain('in the chart as before');
    expect(sent.every(({ url }) => url === '/api/links')).toBe(true);
  });

  it('deletes with a reason, warns of what has left, and brings all of it back by one press', async () => {
    answer.body = { sent: 1 };
    const { acts, picked } = acting([], picture('a', []), picture('b', []));
    expect(await acts.takeAway('bin', 'Twice')).toBe(true);
    expect(sent[0]).toEqual({
      url: '/api/pictures/delete',
      body: { pictureIds: ['a', 'b'], reason: 'Twice' }
    });
    expect(page.warned).toHaveLength(1);
    expect(picked.count).toBe(0);
    page.said[0].action!.onClick();
    await settled();
    expect(sent[1]).toEqual({ url: '/api/pictures/bring-back', body: { pictureIds: ['a', 'b'] } });
  });

  it('leaves all picked as it was when the server refuses', async () => {
    answer = { status: 403, body: { code: 'confirmed-takes', sentence: 'Confirmed.', next: 'Ask.' } };
    const { acts, picked } = acting([36], picture('a', []));
    expect(await acts.takeAway('arrivals', 'Whose?')).toBe(false);
    expect(await acts.file({ categoryId: 'k', name: 'Before' }, ['a'], true)).toBe(false);
    await acts.link();
    expect([picked.count, shownAnew, page.said.length]).toEqual([1, 0, 0]);
  });

  it('lays six side by side at most, and says where there are more; one alone is opened', () => {
    const many = acting([], ...[...'abcdefgh'].map((id) => picture(id, [])));
    many.acts.compare();
    expect(page.went).toBe('/visits/visit of a/measure?picture=a&on=a.b.c.d.e.f');
    expect(page.said[0].words).toContain('The first 6 of 8');
    acting([], picture('z', [])).acts.compare();
    expect(page.went).toBe('/visits/visit of z/measure?picture=z');
  });
});
