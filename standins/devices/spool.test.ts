import { createHash } from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Spool, offer } from './spool';

let folder = '';
beforeEach(() => (folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-spool-'))));
afterEach(() => fs.rmSync(folder, { recursive: true, force: true }));
const pause = () => new Promise((done) => setTimeout(done, 3));

describe('a spool', () => {
  it('gives the oldest first, again and again, until it is told to let go', async () => {
    const spool = new Spool(folder);
    const first = spool.add({ number: 1 }, Buffer.from('one'));
    await pause();
    spool.add({ number: 2 }, Buffer.from('two'));
    expect(spool.next()!.key).toBe(first);
    expect(spool.next()!.description).toEqual({ number: 1 });
    spool.remove(first);
    expect(spool.next()!.samples.toString()).toBe('two');
    expect(spool.count()).toBe(1);
  });
  it('holds everything after a restart, with the same keys', () => {
    const key = new Spool(folder).add({ a: 'ä' }, Buffer.from([1, 2, 3]));
    const again = new Spool(folder).next()!;
    expect([again.key, again.description, [...again.samples]]).toEqual([key, { a: 'ä' }, [1, 2, 3]]);
  });
  it('takes no notice of one that was cut off while it was written', () => {
    fs.writeFileSync(path.join(folder, '000000000000001-x.exposure.part'), 'half');
    expect(new Spool(folder).next()).toBeNull();
  });
  it('sets aside what can’t be taken, gives the next, and takes it up again later', async () => {
    const spool = new Spool(folder);
    const first = spool.add({}, Buffer.from('one'));
    await pause();
    const second = spool.add({}, Buffer.from('two'));
    spool.setAside(first);
    expect([spool.next()!.key, spool.count(), spool.aside()]).toEqual([second, 1, 1]);
    spool.remove(second);
    expect(spool.next()).toBeNull();
    spool.takeUpAside();
    expect([spool.next()!.key, spool.next()!.samples.toString()]).toEqual([first, 'one']);
  });
  it('knows the digest of what it holds', () => {
    const spool = new Spool(folder);
    spool.add({}, Buffer.from('samples'));
    expect(spool.next()!.digest).toBe(createHash('sha256').update('samples').digest('base64'));
  });
});

describe('an offer', () => {
  const answering = async (
    status: number,
    body: string,
    work: (url: string, seen: http.IncomingHttpHeaders[]) => Promise<void>
  ) => {
    const seen: http.IncomingHttpHeaders[] = [];
    const server = http.createServer((request, response) => {
      seen.push(request.headers);
      request
        .resume()
        .on('end', () => response.writeHead(status, { 'content-type': 'application/json' }).end(body));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    await work(`http://127.0.0.1:${(server.address() as { port: number }).port}`, seen);
    server.close();
  };
  const exposure = () => {
    const spool = new Spool(folder);
    spool.add({ width: 2 }, Buffer.from('ab'));
    return spool.next()!;
  };

  it('is acknowledged only by an answer that names the picture', async () => {
    for (const [status, body, acknowledged] of [
      [200, '{"pictureId":"p"}', true],
      [200, '{}', false],
      [200, 'gibberish', false],
      [503, '{"pictureId":"p"}', false],
      [422, '{"sentence":"no"}', false]
    ] as const)
      await answering(status, body, async (url) => {
        expect((await offer(url, 'token', exposure())).acknowledged, `${status} ${body}`).toBe(acknowledged);
      });
  });
  it('carries its key, description and digest', async () => {
    const one = exposure();
    await answering(200, '{"pictureId":"p"}', async (url, seen) => {
      await offer(url, 'token', one);
      expect(seen[0]['idempotency-key']).toBe(one.key);
      expect(seen[0].authorization).toBe('Bearer token');
      expect(seen[0]['content-digest']).toBe(`sha-256=:${one.digest}:`);
      expect(JSON.parse(Buffer.from(seen[0]['yonder-exposure'] as string, 'base64url').toString())).toEqual({
        width: 2
      });
    });
  });
  it('to nobody is not acknowledged', async () => {
    const { acknowledged, status } = await offer('http://127.0.0.1:9', 'token', exposure());
    expect([acknowledged, status]).toEqual([false, 0]);
  });
});
