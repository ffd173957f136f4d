import fs from 'node:fs';
import http from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { rawFile, rawPicture } from '../src/lib/server/pictures/decode/rawFile.test-data';
import { Asking } from './harness/asking';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let orsin: Asking;
let ids: Record<'visit_id' | 'picture_id' | 'tray_id', string>;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false, past: past.slice(0, 1) });
  orsin = await Asking.as(clinic, 'orsin', password);
  [ids] = await clinic.rows<typeof ids>(
    `select v.visit_id, p.picture_id, t.tray_id from visit v join picture p using (visit_id) join tray t using (visit_id)
     order by v.opened_at desc limit 1`
  );
});
afterAll(() => clinic?.stop());

/** Sends so many bytes and gives the status of the answer, which may come before they are all sent. */
function flood(where: string, bytes: number, headers: Record<string, string>): Promise<number> {
  return new Promise((resolve, reject) => {
    const request = http.request(`${clinic.origin}${where}`, {
      method: 'POST',
      headers: { origin: clinic.origin, ...headers }
    });
    let answered = false;
    request.on('response', (response) => {
      answered = true;
      response.resume();
      resolve(response.statusCode!);
      request.destroy();
    });
    request.on('error', (error) => {
      if (!answered) reject(error);
    });
    const piece = Buffer.alloc(1024 * 1024, 'a');
    let sent = 0;
    const more = () => {
      while (sent < bytes && !answered) {
        sent += piece.length;
        if (!request.write(piece)) {
          request.once('drain', more);
          return;
        }
      }
      request.end();
    };
    more();
  });
}

describe('a stranger', () => {
  it('can’t stop the clinic with a form of 300 MB, announced or not', async () => {
    const form = { 'content-type': 'application/x-www-form-urlencoded' };
    const bytes = 300 * 1024 * 1024;
    const flooding = [
      flood('/sign-in', bytes, { ...form, 'content-length': String(bytes) }),
      flood('/sign-in', bytes, { ...form, 'transfer-encoding': 'chunked' }),
      flood(`/api/trays/${ids.tray_id}`, bytes, {
        'content-type': 'application/json',
        'content-length': String(bytes)
      })
    ];
    expect((await orsin.get('/api/day')).status).toBe(200);
    expect(await Promise.all(flooding)).toEqual([413, 411, 413]);
  });

  it('is led nowhere else by an address that goes on after signing in', async () => {
    for (const to of ['//evil.example', '/\\evil.example', '/\t/evil.example', 'https://evil.example']) {
      const answer = await fetch(`${clinic.origin}/sign-in?to=${encodeURIComponent(to)}`, {
        method: 'POST',
        redirect: 'manual',
        headers: { origin: clinic.origin },
        body: new URLSearchParams({ name: 'orsin', password })
      });
      const said = (await answer.json()) as { type: string; location: string };
      const where = new URL(said.location, clinic.origin);
      expect([said.type, where.origin, where.pathname], to).toEqual(['redirect', clinic.origin, '/']);
    }
  });

  it('guesses a few times and is locked out, however many guesses are made at one moment', async () => {
    const guess = (name: string, secret: string) =>
      fetch(`${clinic.origin}/sign-in`, {
        method: 'POST',
        redirect: 'manual',
        headers: { origin: clinic.origin },
        body: new URLSearchParams({ name, password: secret })
      });
    const texts = await Promise.all(
      Array.from({ length: 12 }, async (_, i) => (await guess('dell', `guess ${i}`)).text())
    );
    expect(texts.filter((text) => /locked for 10 minutes/.test(text))).toHaveLength(4);
    expect(await (await guess('dell', password)).text()).toMatch(/locked/);
  });

  it('gets the same headers on every answer, refusals too', async () => {
    const answers = [
      await fetch(`${clinic.origin}/api/day`),
      await fetch(`${clinic.origin}/audit`, { redirect: 'manual' }),
      await fetch(`${clinic.origin}/sign-in`),
      await fetch(`${clinic.origin}/no/such/page`, { headers: { cookie: orsin.cookie } }),
      await fetch(`${clinic.origin}/device/v1/instructions`),
      await fetch(`${clinic.origin}/api/visits`, {
        method: 'POST',
        headers: { origin: 'http://elsewhere.example' }
      })
    ];
    expect(answers.map(({ status }) => status)).toEqual([401, 303, 200, 404, 401, 403]);
    for (const { headers, url } of answers) {
      expect(headers.get('x-content-type-options'), url).toBe('nosniff');
      expect(headers.get('x-frame-options'), url).toBe('DENY');
      expect(headers.get('cache-control'), url).toMatch(/no-store/);
    }
    const page = answers[2].headers.get('content-security-policy')!;
    expect(page).toMatch(/style-src-elem 'self'/);
    expect(page).not.toMatch(/style-src(-elem)? [^;]*unsafe-inline/);
  });
});

describe('what is odd', () => {
  it('in JSON, forms and addresses is refused as what was asked, never as a fault of ours', async () => {
    for (const body of [
      '{"kind":',
      'null',
      '[]',
      '"x"',
      '{"kind": 5}',
      ' ',
      '{"kind":"anchor-lifted","more":1}'
    ])
      expect((await orsin.send('POST', `/api/trays/${ids.tray_id}`, body)).status, body).toBe(400);
    const forms: [string, string][] = [
      ['multipart/form-data; boundary=x', '--x\r\nbroken'],
      ['multipart/form-data', 'no boundary'],
      ['application/x-www-form-urlencoded', 'name=%00&password=%ff%fe'],
      ['text/plain', 'name=a']
    ];
    for (const [type, body] of forms) {
      const { status } = await fetch(`${clinic.origin}/sign-in`, {
        method: 'POST',
        redirect: 'manual',
        headers: { origin: clinic.origin, 'content-type': type },
        body
      });
      expect(status, type).toBeLessThan(500);
    }
    for (const where of [
      '/api/patients?words=%00',
      '/api/patients?words=%ED%A0%80',
      '/?day=%00',
      '/audit?before=%00'
    ])
      expect((await orsin.get(where)).status, where).toBeLessThan(500);
  });

  it('in files’ names and texts is taken without it, and the visit opens', async () => {
    const file = rawFile(
      rawPicture({ width: 3, height: 2, allocated: 8, pixels: Uint8Array.from([1, 2, 3, 4, 5, 6]) }, [
        ['00080005', 'CS', 'ISO_IR 192'],
        ['00080070', 'LO', 'Ma\0ker \xed\xa0\x80'],
        ['00180060', 'DS', '1e999'],
        ['00280030', 'DS', 'NaN\\NaN']
      ])
    );
    for (const name of ['%00.dcm', '%ED%A0%80', '', 'x'.repeat(3_000), '..%2F..%2Fetc%2Fpasswd']) {
      const { status, text } = await orsin.send(
        'POST',
        `/api/visits/${ids.visit_id}/files?name=${name}`,
        file
      );
      expect(status, `${name}: ${text}`).toBe(200);
    }
    expect((await orsin.get(`/visits/${ids.visit_id}/check`)).status).toBe(200);
    expect((await orsin.get(`/api/visits/${ids.visit_id}`)).status).toBe(200);
  });
});

describe('who has signed out', () => {
  it('hears no more news, and sees no picture that the browser kept', async () => {
    const mara = await Asking.as(clinic, 'mara', password);
    const stop = new AbortController();
    const news = await fetch(`${clinic.origin}/api/news`, {
      headers: { cookie: mara.cookie },
      signal: stop.signal
    });
    const heard = (async () => {
      let text = '';
      for await (const chunk of news.body!) text += Buffer.from(chunk).toString();
      return text;
    })();
    const level = `/api/pictures/${ids.picture_id}/levels/1`;
    const kept = await fetch(clinic.origin + level, { headers: { cookie: mara.cookie } });
    expect(kept.headers.get('cache-control')).toBe('private, no-cache');
    expect(kept.headers.get('vary')).toMatch(/Cookie/i);
    const tag = kept.headers.get('etag')!;
    const again = { cookie: mara.cookie, 'if-none-match': tag };
    expect((await fetch(clinic.origin + level, { headers: again })).status).toBe(304);
    const out = await fetch(`${clinic.origin}/sign-out`, {
      method: 'POST',
      redirect: 'manual',
      headers: { origin: clinic.origin, cookie: mara.cookie }
    });
    expect(out.headers.get('clear-site-data')).toBe('"cache"');
    const ended = await Promise.race([
      heard,
      new Promise<string>((done) => setTimeout(() => done('still open'), 8_000))
    ]);
    stop.abort();
    expect(ended).toMatch(/event: over/);
    expect((await fetch(clinic.origin + level, { headers: again })).status).toBe(401);
  });
});

describe('a device', () => {
  const register = async (code: string, name: string) =>
    fetch(`${clinic.origin}/device/v1/registrations`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ code, name, kind: 'intraoral-sensor' })
    }).then(async (answer) => ({
      status: answer.status,
      said: (await answer.json()) as Record<string, string>
    }));

  it('that takes another’s place by an administrator’s word ends the other’s stream', async () => {
    const one = await register(await clinic.newCode(), 'Of the house');
    const stream = await fetch(`${clinic.origin}/device/v1/instructions`, {
      headers: { authorization: `Bearer ${one.said.token}` }
    });
    const ended = (async () => {
      for await (const chunk of stream.body!) void chunk;
      return 'ended';
    })();
    expect((await register(await clinic.newCode(), 'Of the house'))!).toMatchObject({ status: 409 });
    const code = await clinic.newCode();
    await clinic.rows(
      `update enrolment set device_id = '${one.said.deviceId}' where used_at is null and device_id is null`
    );
    expect((await register(code, 'Of the house'))!).toMatchObject({
      status: 200,
      said: { deviceId: one.said.deviceId }
    });
    expect(
      await Promise.race([ended, new Promise<string>((done) => setTimeout(() => done('still open'), 8_000))])
    ).toBe('ended');
  });

  it('whose digest is of another kind is told so, and one that guesses codes is locked out', async () => {
    const { said } = (await register(await clinic.newCode(), 'Digests'))!;
    const description = Buffer.from(
      JSON.stringify({
        armingId: crypto.randomUUID(),
        takenAt: new Date().toISOString(),
        width: 4,
        height: 4,
        bitsStored: 8,
        pitchMm: 0.02
      })
    ).toString('base64url');
    const answer = await fetch(`${clinic.origin}/device/v1/exposures`, {
      method: 'POST',
      headers: {
        authorization: `Bearer ${said.token}`,
        'idempotency-key': 'key-sha-512',
        'yonder-exposure': description,
        'content-digest': 'sha-512=:YWJj:'
      },
      body: Buffer.alloc(16)
    });
    expect([answer.status, ((await answer.json()) as { code: string }).code]).toEqual([
      422,
      'unknown-digest'
    ]);
    const guesses = [];
    for (let i = 0; i < 12; i++) guesses.push((await register(`guess-${i}`, 'G'))!.status);
    expect(guesses.slice(0, 2)).toEqual([401, 401]);
    expect(guesses.at(-1)).toBe(429);
  });
});

it('nothing of all this stands in the logs with a name or a value in it, and the audit has it all', async () => {
  const server = fs.readFileSync(clinic.log('server'), 'utf8');
  expect(server).not.toMatch(/quill-sound|guess|evil|Somebody|Made Up/i);
  const wren = await Asking.as(clinic, 'wren', password);
  const page = (await wren.get('/audit?all')).text;
  expect(page).toMatch(/were gone through and are whole/);
  for (const words of [
    'unknown device',
    'nobody is signed in',
    'sign-in failed',
    'signed out',
    'picture viewed'
  ])
    expect(page, words).toContain(words);
});
