import { describe, expect, it, vi } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { inClinic } from '../database/connection';
import { type ClinicNews, type News, announce, packed } from './announce';
import { follow } from './listen';
import { eventStream } from './stream';

const clinic = useClinic();
const tray = (events: unknown[] | null): News =>
  ({ topic: 'tray', visitId: 'v', trayId: 't', seq: 4, events }) as News;

/** Follows until it is told to stop, and waits for what is to be heard. */
function listening() {
  const heard: (ClinicNews | 'missed-some')[] = [];
  const stop = follow((news) => heard.push(news));
  const until = async (check: () => boolean) => {
    await vi.waitFor(() => expect(check(), JSON.stringify(heard)).toBe(true), { timeout: 15_000 });
  };
  const hear = async (count: number) => {
    await until(() => heard.length >= count);
    return heard;
  };
  return { heard, hear, until, stop };
}

/** Until the line to the database is there: what is told before is told to nobody. */
async function lineIsOpen(): Promise<void> {
  const { heard, stop } = listening();
  for (let i = 0; i < 100 && heard.length === 0; i++) {
    await clinic.inside((tx) => announce(tx, { topic: 'day' }));
    await new Promise((go) => setTimeout(go, 50));
  }
  stop();
  expect(heard.length).toBeGreaterThan(0);
}

describe('news', () => {
  it('carry what goes along while it is small, and say that it has to be fetched when it is not', () => {
    const small = JSON.parse(packed(tray([{ kind: 'anchor-lifted' }]), 'c'));
    expect(small).toMatchObject({ clinicId: 'c', seq: 4, events: [{ kind: 'anchor-lifted' }] });
    // Letters that take three bytes each count as three.
    const large = packed(tray([{ kind: 'take-moved', takeId: '漢'.repeat(2_500) }]), 'c');
    expect(JSON.parse(large)).toMatchObject({ seq: 4, events: null });
    const view = { fileName: 'x'.repeat(9_000) };
    const picture = packed({ topic: 'picture', visitId: 'v', pictureId: 'p', view } as unknown as News, 'c');
    expect(JSON.parse(picture)).toEqual({
      topic: 'picture',
      visitId: 'v',
      pictureId: 'p',
      view: null,
      clinicId: 'c'
    });
    const lamp = { topic: 'lamp', roomId: 'r', device: { name: 'x'.repeat(9_000) } } as unknown as News;
    expect(() => packed(lamp, 'c')).toThrow('too large to be told');
  });

  it('are told once the act is committed, in order, with the clinic they are of; never of an act that fell', async () => {
    await lineIsOpen();
    const { hear, stop } = listening();
    await expect(
      clinic.inside(async (tx) => {
        await announce(tx, { topic: 'deliveries', visitId: 'never' });
        throw new Error('the act fell');
      })
    ).rejects.toThrow('the act fell');
    await clinic.inside((tx) => announce(tx, { topic: 'day' }, { topic: 'deliveries', visitId: 'v1' }));
    await inClinic(clinic.otherClinicId, (tx) => announce(tx, { topic: 'deliveries', visitId: 'v2' }));
    expect(await hear(3)).toEqual([
      { topic: 'day', clinicId: clinic.clinicId },
      { topic: 'deliveries', visitId: 'v1', clinicId: clinic.clinicId },
      { topic: 'deliveries', visitId: 'v2', clinicId: clinic.otherClinicId }
    ]);
    stop();
    await clinic.inside((tx) => announce(tx, { topic: 'day' }));
    expect(await hear(3)).toHaveLength(3);
  });

  it('after a gap begin with the word that some may have been missed', async () => {
    await lineIsOpen();
    const { heard, until, stop } = listening();
    await clinic.owner.query(
      `select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen %' and datname = current_database()`
    );
    await until(() => heard.includes('missed-some'));
    await clinic.inside((tx) => announce(tx, { topic: 'deliveries', visitId: 'later' }));
    await until(() => heard.some((news) => news !== 'missed-some' && news.topic === 'deliveries'));
    stop();
  });
});

describe('a stream of events', () => {
  it('sends each as a line of its own, and lets go when the reader leaves', async () => {
    let left = 0;
    let send: (event: string, data: unknown) => void = () => {};
    const answer = eventStream((sending) => {
      send = sending;
      return () => (left += 1);
    });
    expect(answer.headers.get('content-type')).toBe('text/event-stream');
    expect(answer.headers.get('cache-control')).toBe('no-store');
    const reader = answer.body!.getReader();
    const read = async () => new TextDecoder().decode((await reader.read()).value);
    expect(await read()).toBe('retry: 1000\n\n');
    send('lamp', { words: 'Two\nlines' });
    expect(await read()).toBe('event: lamp\ndata: {"words":"Two\\nlines"}\n\n');
    await reader.cancel();
    expect(left).toBe(1);
    expect(() => send('lamp', {})).not.toThrow();
  });
});
