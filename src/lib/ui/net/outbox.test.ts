import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { seededRandom } from '$core/random';

vi.mock('svelte-sonner', () => ({ toast: { error: () => {} } }));
vi.stubGlobal('navigator', {});

type Fault = 'none' | 'broke off' | 'lost on the way there' | 'lost on the way back' | 'busy' | 'signed out';

/** A server that takes each key once, behind a line that fails as it is told to. */
class Server {
  taken: { key: string; url: string; body: unknown; user: string }[] = [];
  asked = 0;
  faults: (call: number) => Fault = () => 'none';
  /** Addresses over which this server breaks off each time. */
  broken = new Set<string>();
  /** Addresses that this server can never take. */
  never = new Set<string>();

  fetch = async (url: string, init: RequestInit): Promise<Response> => {
    const fault = this.faults(this.asked++);
    const headers = init.headers as Record<string, string>;
    await Promise.resolve();
    if (fault === 'lost on the way there') throw new TypeError('no network');
    if (fault === 'signed out') return Response.json({ sentence: 'The session is over.' }, { status: 401 });
    if (fault === 'busy') return new Response('', { status: 503 });
    if (fault === 'broke off' || this.broken.has(url)) return new Response('', { status: 500 });
    if (this.never.has(url))
      return Response.json({ code: 'gone', sentence: 'It is gone.', next: 'Take another.' }, { status: 404 });
    const key = headers['idempotency-key'];
    if (!this.taken.some((each) => each.key === key))
      this.taken.push({ key, url, body: JSON.parse(String(init.body)), user: headers['yonder-user'] });
    if (fault === 'lost on the way back') throw new TypeError('no network');
    return Response.json({ seq: this.taken.findIndex((each) => each.key === key) + 1 });
  };
}

let server: Server;
const stops: (() => void)[] = [];

/** A page just loaded on this machine: what waits in the browser's database is all it has. */
async function page(userId: string | null) {
  vi.resetModules();
  const { outbox } = await import('./outbox.svelte');
  const stop = outbox.start(userId);
  stops.push(stop);
  await quiet();
  return {
    outbox,
    close: () => stops.splice(stops.indexOf(stop), 1).forEach((each) => each()),
    put: (lane: string, number: number, url = `/api/${lane}`) =>
      outbox.put({ url, body: { number }, lane, words: `Change ${number}` })
  };
}
type Page = Awaited<ReturnType<typeof page>>;

/** Until the browser's database and the line have nothing more to do by themselves. */
async function quiet(): Promise<void> {
  for (let i = 0; i < 40; i++) await new Promise((go) => setImmediate(go));
}

async function untilEmpty({ outbox }: Page): Promise<void> {
  for (let i = 0; i < 300; i++) {
    await quiet();
    if (outbox.waiting.length === 0) return;
    outbox.retry();
  }
  throw new Error(`${outbox.waiting.length} changes never went: ${outbox.held}`);
}

beforeEach(() => {
  vi.stubGlobal('indexedDB', new IDBFactory());
  server = new Server();
  vi.stubGlobal('fetch', server.fetch);
});
afterEach(async () => {
  stops.splice(0).forEach((stop) => stop());
  await quiet();
});

describe('changes made on a page', () => {
  it('over which the server breaks off are set aside and kept, and what is behind them goes', async () => {
    const here = await page('anna');
    server.broken.add('/api/bad');
    void here.put('files', 1, '/api/bad');
    void here.put('files', 2);
    void here.put('files', 3);
    for (let i = 0; i < 6; i++) {
      await quiet();
      here.outbox.retry();
    }
    await quiet();
    expect(server.taken.map((each) => (each.body as { number: number }).number)).toEqual([2, 3]);
    expect(here.outbox.refused.map((each) => each.words)).toEqual(['Change 1']);
    // Mended and asked for again it goes, once.
    server.broken.clear();
    await here.outbox.offerAgain(here.outbox.refused[0].key);
    await untilEmpty(here);
    expect(server.taken.map((each) => (each.body as { number: number }).number)).toEqual([2, 3, 1]);
    expect(here.outbox.refused).toEqual([]);
  });

  it('go in the order they were made, each with its maker’s name, and the maker hears what became of them', async () => {
    const { put, outbox } = await page('ann');
    const followed: number[] = [];
    outbox.follow((change) => followed.push(change.keptAs!));
    const answers = await Promise.all([put('a', 1), put('a', 2), put('a', 3)]);
    expect(server.taken.map(({ body, user }) => [body, user])).toEqual(
      [1, 2, 3].map((number) => [{ number }, 'ann'])
    );
    expect(answers).toEqual([{ seq: 1 }, { seq: 2 }, { seq: 3 }]);
    expect(followed).toEqual([1, 2, 3]);
    expect(outbox.waiting).toEqual([]);
  });

  it('are shown at once and until the page has heard of them, and then let go of', async () => {
    const { put, outbox } = await page('ann');
    const done = put('a', 1);
    expect(outbox.changes.map(({ order, keptAs }) => [order, keptAs])).toEqual([[0, null]]);
    await done;
    expect(outbox.changes.map(({ keptAs }) => keptAs)).toEqual([1]);
    outbox.forget(outbox.changes[0].key);
    expect(outbox.changes).toEqual([]);
  });

  it('wait while nothing answers, over a reload, and go once it does', async () => {
    server.faults = () => 'lost on the way there';
    const before = await page('ann');
    void before.put('a', 1);
    void before.put('b', 2);
    await quiet();
    expect(before.outbox.held).toBe('unreachable');
    expect(before.outbox.waiting).toHaveLength(2);
    before.close();
    const after = await page('ann');
    expect(after.outbox.waiting.map(({ words }) => words)).toEqual(['Change 1', 'Change 2']);
    server.faults = () => 'none';
    await untilEmpty(after);
    expect(server.taken.map(({ body }) => body)).toEqual([{ number: 1 }, { number: 2 }]);
    expect(after.outbox.held).toBe('no');
  });

  it('never go in another’s name: they wait for their maker, and the other is told that some wait', async () => {
    server.faults = () => 'signed out';
    const ann = await page('ann');
    void ann.put('a', 1);
    await quiet();
    expect(ann.outbox.held).toBe('signed-out');
    ann.close();
    server.faults = () => 'none';
    const bert = await page('bert');
    await bert.put('a', 2);
    expect(bert.outbox.ofOthers).toBe(1);
    expect(server.taken.map(({ user }) => user)).toEqual(['bert']);
    bert.close();
    expect((await page(null)).outbox.ofOthers).toBe(1);
    const again = await page('ann');
    await untilEmpty(again);
    expect(server.taken.map(({ user }) => user)).toEqual(['bert', 'ann']);
  });

  it('that can never be taken hold nothing up, and stay, with the reason, until they are put away', async () => {
    server.never.add('/api/gone');
    const before = await page('ann');
    const refused = before.put('a', 1, '/api/gone');
    await before.put('a', 2);
    expect(await refused).toBeNull();
    before.close();
    const { outbox } = await page('ann');
    expect(outbox.refused.map(({ words, refused: why }) => [words, why])).toEqual([
      ['Change 1', { sentence: 'It is gone.', next: 'Take another.' }]
    ]);
    expect(outbox.waiting).toEqual([]);
    await outbox.remove(outbox.refused[0].key);
    await quiet();
    expect(outbox.refused).toEqual([]);
    expect((await page('ann')).outbox.changes).toEqual([]);
    expect(server.taken.map(({ body }) => body)).toEqual([{ number: 2 }]);
  });

  it('of one lane are not held up by another lane’s', async () => {
    const { put, outbox } = await page('ann');
    const { fetch } = server;
    const held: (() => void)[] = [];
    vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
      if (url === '/api/slow') await new Promise<void>((go) => held.push(go));
      return fetch(url, init);
    });
    const slow = put('slow', 1);
    await put('quick', 2);
    expect(outbox.waiting.map(({ lane }) => lane)).toEqual(['slow']);
    held[0]();
    await slow;
    expect(server.taken.map(({ body }) => body)).toEqual([{ number: 2 }, { number: 1 }]);
  });

  it('whatever is lost, however often the page is loaded anew: each is taken once, lane by lane in order', async () => {
    for (const seed of [1, 2, 3, 4]) {
      server = new Server();
      vi.stubGlobal('fetch', server.fetch);
      const random = seededRandom(seed);
      const faults: Fault[] = ['lost on the way there', 'lost on the way back', 'busy', 'none'];
      server.faults = () => faults[Math.floor(random.uniform() * faults.length)];
      server.never.add('/api/gone');
      let current = await page('ann');
      const made: Record<string, number[]> = { a: [], b: [], c: [] };
      let gone = 0;
      for (let number = 0; number < 40; number++) {
        const lane = 'abc'[Math.floor(random.uniform() * 3)];
        const refused = random.uniform() < 0.1;
        void current.put(lane, number, refused ? '/api/gone' : undefined);
        if (refused) gone += 1;
        else made[lane].push(number);
        if (random.uniform() < 0.3) await quiet();
        if (random.uniform() < 0.1) {
          // What was said to be kept is on the disk by then; the page may go.
          while (current.outbox.changes.some(({ order, keptAs }) => order === 0 && keptAs === null))
            await quiet();
          current.close();
          current = await page('ann');
        }
      }
      await untilEmpty(current);
      for (const [lane, numbers] of Object.entries(made))
        expect(
          server.taken
            .filter(({ url }) => url === `/api/${lane}`)
            .map(({ body }) => (body as { number: number }).number),
          `seed ${seed}, lane ${lane}`
        ).toEqual(numbers);
      expect(current.outbox.refused).toHaveLength(gone);
      for (const { key } of current.outbox.refused) await current.outbox.remove(key);
      current.close();
      await quiet();
    }
  });
});
