import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type ListedPicture, everyPicture, searchOf } from '$core/picture/pictureSearch';
import { FoundPictures } from './found.svelte';

const page = vi.hoisted(() => ({ address: '' }));
vi.mock('$app/navigation', () => ({ replaceState: (to: string) => (page.address = to) }));
vi.mock('svelte-sonner', () => ({ toast: { error: () => {} } }));

const picture = (pictureId: string) => ({ pictureId }) as ListedPicture;
const pictures = (...ids: string[]) => ids.map(picture);
const idsOf = (found: FoundPictures) => found.pictures.map(({ pictureId }) => pictureId).join('');

/** Every question that was asked, each to be answered by the test when it wants. */
let asked: { query: URLSearchParams; answer: (body: object, status?: number) => Promise<void> }[];
const settled = () => new Promise((done) => setTimeout(done));

beforeEach(() => {
  asked = [];
  page.address = '';
  vi.stubGlobal('location', { pathname: '/patients/p' });
  vi.stubGlobal('fetch', (url: string) => {
    const query = new URL(url, 'http://clinic').searchParams;
    return new Promise((resolve) =>
      asked.push({
        query,
        answer: async (body, status = 200) => {
          resolve(new Response(JSON.stringify(body), { status }));
          await settled();
        }
      })
    );
  });
});
const opened = () =>
  new FoundPictures('/api/p', everyPicture, { pictures: pictures('a', 'b'), older: 'after-b', found: 5 });

describe('pictures that are searched for', () => {
  it('come page by page, each asked for once, until the last', async () => {
    const found = opened();
    void found.more();
    void found.more();
    expect(asked).toHaveLength(1);
    expect(asked[0].query.get('after')).toBe('after-b');
    await asked[0].answer({ pictures: pictures('c', 'd'), older: 'after-d' });
    expect([idsOf(found), found.all]).toEqual(['abcd', false]);
    void found.more();
    await asked[1].answer({ pictures: pictures('e'), older: null });
    expect([idsOf(found), found.all]).toEqual(['abcde', true]);
    await found.more();
    expect(asked).toHaveLength(2);
  });

  it('are those of the last question, whichever answer comes first', async () => {
    const found = opened();
    void found.ask({ words: 'crown' });
    void found.ask({ words: 'crown 36' });
    await asked[1].answer({ pictures: pictures('x'), older: null, found: 1 });
    await asked[0].answer({ pictures: pictures('y', 'z'), older: null, found: 2 });
    expect([idsOf(found), found.found, found.looking]).toEqual(['x', 1, false]);
  });

  it('take in no older page of what was asked before', async () => {
    const found = opened();
    void found.more();
    void found.ask({ kinds: ['photograph'] });
    await asked[0].answer({ pictures: pictures('c'), older: null });
    await asked[1].answer({ pictures: pictures('k'), older: 'after-k', found: 3 });
    expect([idsOf(found), found.all]).toEqual(['k', false]);
    void found.more();
    expect(asked[2].query.get('after')).toBe('after-k');
    expect(asked[2].query.getAll('kinds')).toEqual(['photograph']);
  });

  it('that did not come are said to lack, are not asked for by themselves, and come when somebody asks', async () => {
    const found = opened();
    void found.more();
    await asked[0].answer({ sentence: 'Not now.', next: 'Later.' }, 503);
    expect([found.failed, found.all, idsOf(found)]).toEqual([true, false, 'ab']);
    await found.more();
    expect(asked).toHaveLength(1);
    void found.more(true);
    await asked[1].answer({ pictures: pictures('c'), older: null });
    expect([found.failed, found.all, idsOf(found)]).toEqual([false, true, 'abc']);
  });

  it('stay as they were when a question is refused', async () => {
    const found = opened();
    void found.ask({ words: 'x' });
    expect(found.looking).toBe(true);
    await asked[0].answer({ sentence: 'No.', next: 'No.' }, 400);
    expect([idsOf(found), found.looking]).toEqual(['ab', false]);
  });

  it('stand in the address as they are asked for, by places that are chosen and dropped', () => {
    const found = opened();
    const tooth = (is: number) => ({ kind: 'tooth' as const, tooth: is });
    const inAddress = () => searchOf(new URLSearchParams(page.address.split('?')[1]))!.places;
    found.choose(tooth(36));
    found.pick([tooth(36), tooth(37)], true);
    expect(inAddress()).toEqual(['tooth:36', 'tooth:37']);
    expect(found.places).toEqual([tooth(36), tooth(37)]);
    expect(found.limited).toBe(true);
    found.choose(tooth(36));
    expect(inAddress()).toEqual(['tooth:37']);
    found.pick([tooth(37)], false);
    expect(page.address).toBe('/patients/p');
    expect(found.limited).toBe(false);
  });
});
