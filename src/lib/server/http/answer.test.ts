import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { Problem, databaseUnreachable, isDatabaseUnreachable, notFound, troubleInWords } from '../problem';
import { answered, keyOf, loaded, signedIn, understood, wishOf } from './answer';

const said = async (work: () => Promise<unknown>) => {
  const answer = await answered(work);
  return { status: answer.status, body: await answer.json() };
};

describe('an answer', () => {
  it('is what was asked for, or that it is done', async () => {
    expect(await said(async () => ({ seq: 4 }))).toEqual({ status: 200, body: { seq: 4 } });
    expect(await said(async () => undefined)).toEqual({ status: 200, body: { done: true } });
    const ready = new Response('bytes', { status: 206 });
    expect(await answered(async () => ready)).toBe(ready);
  });
  it('to what can’t be done says what, why and what to do', async () => {
    const { status, body } = await said(async () => {
      throw notFound('This visit');
    });
    expect(status).toBe(404);
    expect(body).toEqual({
      code: 'not-found',
      sentence: 'This visit is not in this clinic’s records.',
      next: 'Go back to Today and open it from there.'
    });
  });
  it('to what is not understood names the part', async () => {
    const wish = z.object({ links: z.array(z.object({ pictureId: z.uuid() })) });
    const { status, body } = await said(async () => understood(wish, { links: [{ pictureId: 'x' }] }));
    expect(status).toBe(400);
    expect(body.sentence).toContain('(links.0.pictureId)');
    expect((await said(async () => understood(z.string(), 3))).body.sentence).toMatch(
      /^The request could not be understood: /
    );
  });
  it('never makes a fault of ours into something the person did', async () => {
    const fault = new TypeError('undefined is not a function');
    await expect(answered(async () => Promise.reject(fault))).rejects.toBe(fault);
    await expect(loaded(async () => Promise.reject(fault))).rejects.toBe(fault);
    // What is stored and can't be read is a fault too, whatever checks it.
    await expect(answered(async () => z.object({ kv: z.number() }).parse({ kv: null }))).rejects.toThrow();
  });
  it('to a wish reads it without what no text may hold', async () => {
    const body = JSON.stringify({ name: 'An\0na\ud800', list: ['\u0007'] });
    const request = new Request('http://x', { method: 'POST', body });
    const wish = await wishOf(request, z.object({ name: z.string(), list: z.array(z.string()) }));
    expect(wish).toEqual({ name: 'Anna\ufffd', list: [''] });
    const broken = new Request('http://x', { method: 'POST', body: '{"name": ' });
    await expect(wishOf(broken, z.unknown())).rejects.toMatchObject({ status: 400 });
  });
  it('of a page that can’t be shown is a page that says why', async () => {
    expect(await loaded(async () => 5)).toBe(5);
    await expect(loaded(async () => Promise.reject(databaseUnreachable()))).rejects.toMatchObject({
      status: 503,
      body: { message: databaseUnreachable().sentence, next: databaseUnreachable().next }
    });
  });
  it('goes to whoever is signed in', () => {
    expect(() => signedIn({ caller: null, token: null })).toThrow(Problem);
    expect(keyOf(new Request('http://127.0.0.1/', { headers: { 'idempotency-key': 'k-1' } }))).toBe('k-1');
    expect(keyOf(new Request('http://127.0.0.1/'))).toBe('');
  });
});

describe('a database that is away', () => {
  it('is known wherever in the causes of an error it is said, and by nothing else', () => {
    const wrapped = (inner: unknown, by: 'cause' | 'parent') =>
      Object.assign(new Error('outer'), { [by]: inner });
    const gone = Object.assign(new Error('x'), { code: 'ECONNREFUSED' });
    for (const error of [
      gone,
      wrapped(gone, 'cause'),
      wrapped(wrapped(gone, 'parent'), 'cause'),
      Object.assign(new Error('x'), { name: 'SequelizeConnectionRefusedError' }),
      new Error('Connection terminated unexpectedly'),
      Object.assign(new Error('x'), { code: '57P01' })
    ])
      expect(isDatabaseUnreachable(error), String(error)).toBe(true);
    for (const error of [new Error('x'), Object.assign(new Error('x'), { code: '23505' }), null, undefined])
      expect(isDatabaseUnreachable(error), String(error)).toBe(false);
  });
});

describe('trouble of the database', () => {
  it('is said in words: a lock that was not had, a statement that took too long, a full disk', () => {
    const coded = (code: string) =>
      Object.assign(new Error('x'), { parent: Object.assign(new Error('y'), { code }) });
    expect(troubleInWords(coded('55P03'))).toMatchObject({ code: 'busy', status: 503 });
    expect(troubleInWords(coded('57014'))).toMatchObject({ code: 'busy' });
    expect(troubleInWords(coded('53100'))).toMatchObject({ code: 'disk-full', status: 503 });
    expect(troubleInWords(coded('57P01'))).toMatchObject({ code: 'database-away' });
    expect(troubleInWords(coded('23505'))).toBeNull();
  });
});
