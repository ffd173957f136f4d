import fs from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { checkBody, checkRate, fewAtOnce } from './guard';
import { keptForOne, ownPath, unchanged, withHeaders } from './headers';

const origin = 'http://127.0.0.1:4780';

describe('a way on after signing in', () => {
  it('leads to pages of ours', () => {
    for (const path of ['/', '/visits/a-1/check', '/audit?page=2', '/patients/x%20y'])
      expect(ownPath(path, origin)).toBe(path);
  });
  it('never leads anywhere else', () => {
    for (const path of [
      null,
      '',
      'https://evil.example/',
      '//evil.example',
      '/\\evil.example',
      '/\t/evil.example',
      '/\n/evil.example',
      '\t//evil.example',
      '\\\\evil.example',
      '/ /evil',
      'javascript:alert(1)',
      '/a\u0000b'
    ]) {
      const to = new URL(ownPath(path, origin), origin);
      expect([to.origin, to.pathname], JSON.stringify(path)).toEqual([origin, '/']);
    }
  });
});

describe('answers', () => {
  it('all say what browsers may not do, and are not kept unless they say so', () => {
    const plain = withHeaders(new Response('x', { status: 403 }));
    expect(plain.headers.get('x-content-type-options')).toBe('nosniff');
    expect(plain.headers.get('cache-control')).toBe('no-store');
    const picture = withHeaders(new Response('x', { headers: keptForOne('p') }));
    expect(picture.headers.get('cache-control')).toBe('private, no-cache');
    expect(picture.headers.get('vary')).toBe('Cookie');
  });
  it('to who has it already are short, and only to that', () => {
    const asking = (tag?: string) => new Request(origin, { headers: tag ? { 'if-none-match': tag } : {} });
    expect(unchanged(asking('"p 0 1"'), 'p 0 1')?.status).toBe(304);
    expect(unchanged(asking('W/"a", W/"p 0 1"'), 'p 0 1')?.status).toBe(304);
    expect(unchanged(asking('"p 0 2"'), 'p 0 1')).toBeNull();
    expect(unchanged(asking(), 'p 0 1')).toBeNull();
  });
});

describe('what a request may carry', () => {
  const request = (headers: Record<string, string>) => new Request(origin, { method: 'POST', headers });
  it('is little, but for pictures, and has to be said', () => {
    expect(() => checkBody(request({ 'content-length': '300000000' }), '/sign-in')).toThrow(/larger than/);
    expect(() => checkBody(request({ 'content-length': '300000000' }), '/api/trays/x')).toThrow(
      /larger than/
    );
    expect(() => checkBody(request({ 'transfer-encoding': 'chunked' }), '/api/trays/x')).toThrow(/how long/);
    expect(() => checkBody(request({ 'content-length': '300000000' }), '/api/visits/x/files')).not.toThrow();
    expect(() =>
      checkBody(request({ 'transfer-encoding': 'chunked' }), '/device/v1/exposures')
    ).not.toThrow();
    expect(() => checkBody(request({ 'content-length': '900' }), '/api/trays/x')).not.toThrow();
    expect(() => checkBody(request({ 'content-length': '9000000' }), '/api/visits/x/files/y')).toThrow();
  });
  it('is as much as files have at every address that takes one', () => {
    const routes = path.resolve('src/routes');
    const taking = fs
      .readdirSync(routes, { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('+server.ts'))
      .filter((file) => fs.readFileSync(path.join(routes, file), 'utf8').includes('bytesOf(request)'))
      .map((file) => `/${path.dirname(file)}`.replaceAll(/\[[^\]]+\]/g, 'x'));
    expect(taking).toContain('/api/visits/x/papers');
    for (const address of taking)
      expect(
        () => checkBody(request({ 'content-length': '3000000' }), address),
        `${address} takes files`
      ).not.toThrow();
  });
  it('comes a few at a time from one sender, whatever others send', async () => {
    const waiting: (() => void)[] = [];
    const sending = (who: string) => fewAtOnce(who, () => new Promise<void>((done) => waiting.push(done)));
    const all = Array.from({ length: 6 }, () => sending('a'));
    await expect(sending('a')).rejects.toMatchObject({ status: 429 });
    const other = sending('b');
    waiting.forEach((done) => done());
    await Promise.all([...all, other]);
    const again = sending('a');
    waiting.at(-1)!();
    await again;
  });
  it('comes as often as a person and a page can ask, and no more', async () => {
    const times = async (who: string, count: number) => {
      for (let i = 0; i < count; i++) await checkRate(who, false);
    };
    await times('1.2.3.4', 600);
    await expect(times('1.2.3.4', 1)).rejects.toMatchObject({ code: 'too-many', status: 429 });
    await expect(times('1.2.3.5', 1)).resolves.toBeUndefined();
  });
});
