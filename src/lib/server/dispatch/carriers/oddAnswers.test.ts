import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { WireLine } from '../../../core/parcel/wire';
import { HungUp, NotDelivered } from './carrier';
import { claimsEcho, sendClaim } from './claims';
import { archiveHolds, readBack, storeInstance, webEcho } from './dicomWeb';

process.env.YONDER_ARCHIVE_PATIENCE_MS = '700';

/** What the other side answers, asked after asked; the last for all that follow. Null: it hangs up; 'nothing': it is silent. */
type Answer = { status: number; type?: string; body?: string; location?: string } | null | 'nothing';
let answers: Answer[] = [];
const asked: { method: string; url: string; headers: http.IncomingHttpHeaders }[] = [];
const server = http.createServer((request, response) => {
  asked.push({ method: request.method!, url: request.url!, headers: request.headers });
  request.resume();
  request.on('end', () => {
    const now = answers.length > 1 ? answers.shift()! : answers[0];
    if (now === null) request.socket.destroy();
    else if (now !== 'nothing') {
      const { status, type, body = '', location } = now;
      response.writeHead(status, {
        ...(type ? { 'content-type': type } : {}),
        ...(location ? { location } : {})
      });
      response.end(body);
    }
  });
});
let url = '';
beforeAll(async () => {
  await new Promise<void>((open) => server.listen(0, '127.0.0.1', open));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

let lines: WireLine[] = [];
beforeEach(() => {
  lines = [];
  asked.length = 0;
});
const peer = () => ({ url, token: 'very-secret', wire: (line: WireLine) => lines.push(line) });
const json = (status: number, of: unknown) => ({
  status,
  type: 'application/dicom+json',
  body: JSON.stringify(of)
});
const html = (status: number) => ({ status, type: 'text/html', body: '<h1>Welcome to the router</h1>' });
/** What it was put off with. */
async function problem(work: Promise<unknown>): Promise<NotDelivered> {
  const error: unknown = await work.then(
    () => null,
    (why: unknown) => why
  );
  expect(error).toBeInstanceOf(NotDelivered);
  return error as NotDelivered;
}

const of = { studyUid: '2.25.1', seriesUid: '2.25.2', instanceUid: '2.25.3' };
const file = Uint8Array.of(1, 2, 3, 4);
const document = { resourceType: 'DocumentReference' };
const none = { resourceType: 'Bundle', entry: [] };
const tracked = {
  resourceType: 'DocumentReference',
  identifier: [{ type: { coding: [{ code: 'FILL' }] }, value: 'AT-2026-000001' }]
};

describe('an archive that is asked what it holds', () => {
  it.each([
    ['nothing', { status: 204 }, false],
    ['nothing, as some say it', { status: 404 }, false],
    ['an empty list', json(200, []), false],
    ['the instance', json(200, [{}]), true]
  ] as const)('says %s', async (_, answer, held) => {
    answers = [answer];
    expect(await archiveHolds(peer(), of.studyUid, of.instanceUid)).toBe(held);
    expect(asked[0].url).toContain('SOPInstanceUID=2.25.3');
  });

  it.each([
    ['a page in HTML', html(200), /no DICOM JSON/, false],
    ['one object instead of a list', json(200, { held: true }), /no DICOM JSON/, false],
    [
      'half an answer',
      { status: 200, type: 'application/dicom+json', body: '[{"0008' },
      /no DICOM JSON/,
      false
    ],
    ['that nobody is let in', { status: 401 }, /does not let us in/, true],
    ['that we may not', { status: 403 }, /does not let us in/, true],
    [
      'that it moved',
      { status: 302, location: 'http://elsewhere.example/' },
      /points elsewhere \(302\)/,
      true
    ],
    ['that it is broken', { status: 500 }, /could not say what it holds \(500\)/, false],
    ['nothing at all, and hangs up', null, /broke off/, false],
    ['nothing for too long', 'nothing', /did not answer within 1 seconds/, false]
  ] as const)('says %s: told in words, with what to do', async (_, answer, reason, final) => {
    answers = [answer];
    const why = await problem(archiveHolds(peer(), of.studyUid, of.instanceUid));
    expect(why.reason).toMatch(reason);
    expect(why.final).toBe(final);
    expect(why.next).not.toBe('');
    expect(why).not.toBeInstanceOf(HungUp);
    expect(asked).toHaveLength(1);
  });
});

describe('an archive that is sent a picture', () => {
  it.each([
    ['takes it', json(200, { '00081199': { Value: [{}] } })],
    ['takes it and says nothing', { status: 200 }],
    ['takes it with a warning', json(202, { '00081199': { Value: [{}] } })]
  ] as const)('%s', async (_, answer) => {
    answers = [answer];
    await storeInstance(peer(), of.studyUid, file);
    expect(asked[0].headers['content-type']).toMatch(/^multipart\/related; type="application\/dicom"/);
  });

  const refused = (code?: number) => ({
    '00081198': { Value: [code === undefined ? {} : { '00081197': { Value: [code] } }] }
  });
  it.each([
    ['refuses half of a batch', json(202, refused(0xa700)), /failure reason A700h/, true],
    ['refuses it for a conflict', json(409, refused(0x0110)), /failure reason 110h/, true],
    ['refuses it and gives no reason', json(409, refused()), /it gave no reason/, true],
    ['refuses it in HTML', html(409), /it gave no reason/, true],
    ['finds it too large', { status: 413 }, /too large for it/, true],
    ['does not know this kind', { status: 415 }, /does not understand what it was sent \(415\)/, true],
    ['answers in HTML that all is well', html(200), /no DICOM JSON/, false],
    [
      'breaks its answer off',
      { status: 200, type: 'application/dicom+json', body: '{"' },
      /could not be read/,
      false
    ],
    ['is out of order', { status: 503 }, /refused for now \(503\)/, false],
    ['moved', { status: 308, location: '/other' }, /points elsewhere \(308\)/, true],
    ['hangs up', null, /broke off/, false]
  ] as const)('%s: told in words, with what to do', async (_, answer, reason, final) => {
    answers = [answer];
    const why = await problem(storeInstance(peer(), of.studyUid, file));
    expect(why.reason).toMatch(reason);
    expect([why.final, why.next !== '']).toEqual([final, true]);
    // A picture is never handed on to where an answer points.
    expect(asked).toHaveLength(1);
  });

  it('is read back only from an answer that holds one whole part', async () => {
    const part = (boundary: string, tail: string) => ({
      status: 200,
      type: `multipart/related; boundary=${boundary}`,
      body: `--b\r\nContent-Type: application/dicom\r\n\r\nDICOM${tail}`
    });
    answers = [part('b', '\r\n--b--')];
    expect((await readBack(peer(), of))?.toString()).toBe('DICOM');
    for (const odd of [part('b', ''), part('c', '\r\n--b--'), html(200), { status: 404 }]) {
      answers = [odd];
      expect(await readBack(peer(), of)).toBeNull();
    }
  });

  it('keeps its secret out of what is written down', async () => {
    answers = [{ status: 500 }];
    await problem(archiveHolds(peer(), of.studyUid, of.instanceUid));
    expect(asked[0].headers.authorization).toBe('Bearer very-secret');
    expect(lines).toHaveLength(1);
    expect(JSON.stringify(lines)).not.toContain('very-secret');
    expect(lines[0].answer).toBe('500 Internal Server Error');
  });

  it('answers when it is tried, or not', async () => {
    for (const well of [json(200, []), { status: 204 }, { status: 404 }]) {
      answers = [well];
      await webEcho(peer());
    }
    answers = [{ status: 502 }];
    expect((await problem(webEcho(peer()))).reason).toBe('The archive answered 502.');
  });
});

describe('a claims office', () => {
  const send = () => sendClaim(peer(), 'delivery-1', document);

  it('that has it already is sent nothing', async () => {
    answers = [json(200, { resourceType: 'Bundle', entry: [{ resource: tracked }] })];
    expect(await send()).toBe('AT-2026-000001');
    expect(asked.map(({ method }) => method)).toEqual(['GET']);
  });
  it('that gives its number later is asked for it, and not sent the picture twice', async () => {
    answers = [
      json(200, none),
      json(201, document),
      json(200, { resourceType: 'Bundle', entry: [{ resource: tracked }] })
    ];
    expect(await send()).toBe('AT-2026-000001');
    expect(asked.map(({ method }) => method)).toEqual(['GET', 'POST', 'GET']);
    expect(asked[1].headers['if-none-exist']).toMatch(/^identifier=/);
  });
  it.each([
    ['a page in HTML where it says what it has', [html(200)], /it is no JSON/, false],
    ['that nobody is let in', [{ status: 401 }], /does not let us in/, true],
    [
      'no number, not even when asked',
      [json(200, none), json(201, document), json(200, none)],
      /gave no tracking number/,
      false
    ],
    ['that it is too large', [json(200, none), { status: 413 }], /too large for it/, true],
    ['no, without a reason', [json(200, none), json(422, {})], /it gave no reason \(422\)/, true],
    ['no, in HTML', [json(200, none), html(400)], /it is no JSON/, false],
    ['not now', [json(200, none), { status: 503 }], /refused for now \(503\)/, false],
    [
      'that it moved, once it is sent the picture',
      [json(200, none), { status: 307, location: '/x' }],
      /points elsewhere \(307\)/,
      true
    ],
    ['nothing, and hangs up', [json(200, none), null], /claims office broke off/, false]
  ] as [string, Answer[], RegExp, boolean][])('says %s: told in words', async (_, all, reason, final) => {
    answers = [...all];
    const why = await problem(send());
    expect(why.reason).toMatch(reason);
    expect(why.final).toBe(final);
    expect(asked.filter(({ method }) => method === 'POST').length).toBeLessThanOrEqual(1);
  });
  it('answers when it is tried, or not', async () => {
    answers = [json(200, { resourceType: 'CapabilityStatement' })];
    await claimsEcho(peer());
    answers = [{ status: 404 }];
    expect((await problem(claimsEcho(peer()))).reason).toBe('The claims office answered 404.');
  });
});
