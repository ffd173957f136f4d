import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { simpleParser } from 'mailparser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf, standIn } from '../../../../e2e/harness/parcels';
import { type Address, plainDestination } from '../../core/parcel/destination';
import { ruleInUse } from '../deidentify/rules';
import { deliver } from './deliver';
import { dropDestination, destinations, keepDestination, tryDestination } from './destinations';
import { dispatch, dispatchParcel } from './dispatchViews';
import { actOnParcel } from './parcels';
import { type Telling, tellOfParcel } from './telling';

process.env.YONDER_ARCHIVE_PATIENCE_MS = '4000';
const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-carriers-'));
const shared = path.join(folder, 'shared');
fs.mkdirSync(shared);
process.env.YONDER_SHARED_FOLDERS = shared;
const started: ChildProcess[] = [];
const servers: http.Server[] = [];
afterAll(() => {
  for (const each of started) each.kill('SIGKILL');
  for (const each of servers) each.close();
  fs.rmSync(folder, { recursive: true, force: true });
});

const admin = () => clinic.caller('administrator');
const { set, visitWithPictures, sent, tryOnce } = parcelsOf(clinic);
const files = (at: string): string[] =>
  fs
    .readdirSync(at, { recursive: true, withFileTypes: true })
    .filter((each) => each.isFile())
    .map((each) => path.relative(at, path.join(each.parentPath, each.name)))
    .sort();

describe('an archive that speaks DIMSE', () => {
  const stored = path.join(folder, 'dimse');
  let port = 0;
  beforeAll(async () => {
    port = await freePort();
    fs.mkdirSync(path.join(stored, 'db'), { recursive: true });
    const settings = path.join(stored, 'dcmqrscp.cfg');
    fs.writeFileSync(
      settings,
      `NetworkTCPPort = ${port}\nMaxPDUSize = 16384\nMaxAssociations = 16\nHostTable BEGIN\nyonder = (YONDER, localhost, 11112)\nHostTable END\nVendorTable BEGIN\nVendorTable END\nAETable BEGIN\nARCHIVE ${path.join(stored, 'db')} RW (200, 1024mb) ANY\nAETable END\n`
    );
    started.push(spawn('dcmqrscp', ['-c', settings, '--allow-shutdown'], { stdio: 'ignore' }));
    for (let tries = 0; tries < 60; tries++) {
      const { status } = spawnSync('echoscu', [
        '-aec',
        'ARCHIVE',
        '-aet',
        'YONDER',
        '127.0.0.1',
        String(port)
      ]);
      if (status === 0) break;
      await new Promise((go) => setTimeout(go, 100));
    }
  });
  const archive = (more: Partial<Extract<Address, { kind: 'dimse' }>> = {}): Address => ({
    kind: 'dimse',
    host: '127.0.0.1',
    port,
    called: 'ARCHIVE',
    calling: 'YONDER',
    ...more
  });

  it('answers to C-ECHO, gets each picture once and is asked before anything goes again', async () => {
    const destinationId = await set(archive());
    expect(await tryDestination(admin(), destinationId)).toMatchObject({ reached: true });
    const { visitId, pictureIds } = await visitWithPictures(3);
    const parcelId = await sent(visitId, { destinationId, pictureIds });
    const done = await tryOnce(parcelId);
    // An archive's index says that it has them; what lies there is not read back by this language.
    expect(done.items.map(({ state, readBackAt }) => [state, readBackAt])).toEqual(
      pictureIds.map(() => ['delivered', null])
    );
    const lying = files(path.join(stored, 'db')).filter((name) => !name.includes('index'));
    expect(lying).toHaveLength(3);
    // Killed before it could write down that it arrived: taken up again, nothing is sent.
    const [{ deliveryId }] = done.items;
    await clinic.owner.query(`update delivery set state = 'sending' where delivery_id = $1`, [deliveryId]);
    await deliver(clinic.clinicId, deliveryId);
    const again = (await dispatchParcel(clinic.caller(), parcelId)).items[0].wire.map(
      ({ said }) => said.request
    );
    expect(again.filter((request) => request.startsWith('C-STORE'))).toHaveLength(1);
    expect(files(path.join(stored, 'db')).filter((name) => !name.includes('index'))).toHaveLength(3);
    for (const name of lying) {
      const { stderr } = spawnSync('dciodvfy', [path.join(stored, 'db', name)], { encoding: 'utf8' });
      expect(stderr.split('\n').filter((line) => line.startsWith('Error'))).toEqual([]);
    }
  });
  it('that does not know us, or is not there, is told as such', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    const unknown = await sent(visitId, {
      destinationId: await set(archive({ called: 'NOBODY' })),
      pictureIds
    });
    expect((await tryOnce(unknown)).items[0]).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/not called NOBODY/),
      next: expect.stringMatching(/keeper/)
    });
    const away = await sent(visitId, {
      destinationId: await set(archive({ port: await freePort() })),
      pictureIds
    });
    expect((await tryOnce(away)).items[0]).toMatchObject({
      state: 'waiting',
      reason: expect.stringMatching(/away/)
    });
  });
  it('of the kind that can’t be asked what it holds gets each picture all the same', async () => {
    const plain = await freePort();
    const out = path.join(folder, 'storescp');
    fs.mkdirSync(out);
    started.push(spawn('storescp', ['-od', out, '-aet', 'PLAIN', String(plain)], { stdio: 'ignore' }));
    for (let tries = 0; tries < 60; tries++) {
      if (spawnSync('echoscu', ['-aec', 'PLAIN', '127.0.0.1', String(plain)]).status === 0) break;
      await new Promise((go) => setTimeout(go, 100));
    }
    const { visitId, pictureIds } = await visitWithPictures(2);
    const destinationId = await set(archive({ port: plain, called: 'PLAIN' }));
    const done = await tryOnce(await sent(visitId, { destinationId, pictureIds, identity: 'deidentified' }));
    expect(done.items.map(({ state, readBackAt }) => [state, readBackAt])).toEqual([
      ['delivered', null],
      ['delivered', null]
    ]);
    for (const name of files(out)) {
      const text = fs.readFileSync(path.join(out, name)).toString('latin1');
      expect(text).not.toMatch(/Wavecrest|Odile|REC-77|19800405/);
    }
    expect(files(out)).toHaveLength(2);
  });
});

describe('a DICOMweb archive that answers oddly', () => {
  /** Asked what it holds it says nothing; what it answers to storing is handed in. */
  async function odd(answer: (response: http.ServerResponse) => void): Promise<string> {
    const server = http.createServer((request, response) => {
      request.resume();
      request.on('end', () => {
        if (request.method === 'POST') answer(response);
        else response.writeHead(204).end();
      });
    });
    servers.push(server);
    await new Promise<void>((go) => server.listen(0, '127.0.0.1', go));
    return `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  }
  it.each<[string, (response: http.ServerResponse) => void, string, RegExp]>([
    [
      '409',
      (r) =>
        r
          .writeHead(409, { 'content-type': 'application/dicom+json' })
          .end('{"00081198":{"vr":"SQ","Value":[{"00081197":{"vr":"US","Value":[49442]}}]}}'),
      'failed',
      /C122h/
    ],
    ['413', (r) => r.writeHead(413).end(), 'failed', /too large/],
    [
      'a page',
      (r) => r.writeHead(200, { 'content-type': 'text/html' }).end('<h1>Welcome</h1>'),
      'waiting',
      /no DICOM JSON/
    ],
    [
      'half of it refused',
      (r) =>
        r
          .writeHead(202, { 'content-type': 'application/dicom+json' })
          .end('{"00081198":{"vr":"SQ","Value":[{"00081197":{"vr":"US","Value":[272]}}]}}'),
      'failed',
      /110h/
    ],
    ['nothing', (r) => r.destroy(), 'waiting', /broke off/],
    [
      'another address',
      (r) => r.writeHead(302, { location: 'http://127.0.0.1:1/' }).end(),
      'failed',
      /points elsewhere/
    ],
    ['who are you', (r) => r.writeHead(401).end(), 'failed', /does not let us in/]
  ])('%s: is told with what to do, and written down as it was said', async (_, answer, state, reason) => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    const destinationId = await set({ kind: 'dicomweb', url: await odd(answer), token: 'very-secret' });
    const done = await tryOnce(await sent(visitId, { destinationId, pictureIds }));
    expect(done.items[0]).toMatchObject({ state, reason: expect.stringMatching(reason) });
    expect(done.items[0].next.length + (done.items[0].nextTryAt?.length ?? 0)).toBeGreaterThan(8);
    const wire = JSON.stringify(done.items[0].wire);
    expect(wire).toContain('POST http://127.0.0.1');
    expect(wire).not.toContain('very-secret');
  });
});

describe('a shared folder', () => {
  it('gets a parcel as a whole or not at all, once, read back', async () => {
    const destinationId = await set(
      { kind: 'folder', folder: shared },
      {
        packing: {
          format: 'png16',
          index: false,
          drawings: 'out',
          names: '{who} {n}',
          words: 'Look at these.',
          papers: false
        }
      }
    );
    const { visitId, pictureIds } = await visitWithPictures(2);
    await expect(sent(visitId, { destinationId, pictureIds, warned: false })).rejects.toMatchObject({
      code: 'warn-first'
    });
    const parcelId = await sent(visitId, { destinationId, pictureIds });
    const done = await tryOnce(parcelId);
    expect(done.items).toMatchObject([{ state: 'delivered', pictureId: null }]);
    expect(done.parcel.counts.readBack).toBe(1);
    const [name] = fs.readdirSync(shared);
    expect(name).toMatch(/^Wavecrest Odile/);
    expect(files(path.join(shared, name))).toEqual([
      'Wavecrest Odile 01.png',
      'Wavecrest Odile 02.png',
      'read me.txt'
    ]);
    await clinic.owner.query(`update delivery set state = 'sending' where parcel_id = $1`, [parcelId]);
    await deliver(clinic.clinicId, done.items[0].deliveryId);
    expect(fs.readdirSync(shared)).toHaveLength(1);
  });
  it('that is gone, or lies where nobody shares anything, is told as such', async () => {
    const gone = path.join(shared, 'gone');
    fs.mkdirSync(gone);
    const destinationId = await set({ kind: 'folder', folder: gone });
    fs.rmdirSync(gone);
    expect(await tryDestination(admin(), destinationId)).toMatchObject({
      reached: false,
      words: expect.stringMatching(/not there/)
    });
    const { visitId, pictureIds } = await visitWithPictures(1);
    expect((await tryOnce(await sent(visitId, { destinationId, pictureIds }))).items[0]).toMatchObject({
      state: 'waiting',
      reason: 'The folder is not there.'
    });
    for (const bad of ['/etc', `${shared}/../..`])
      await expect(set({ kind: 'folder', folder: bad })).rejects.toMatchObject({ code: 'not-shared' });
  });
});

describe('mail', () => {
  const box = path.join(folder, 'mails');
  let status = '';
  beforeAll(async () => {
    const [smtp, port] = [await freePort(), await freePort()];
    status = `http://127.0.0.1:${port}`;
    started.push(
      await standIn('mailbox', status, { SMTP_PORT: String(smtp), PORT: String(port), MAILBOX_FOLDER: box })
    );
    process.env.YONDER_SMTP_PORT = String(smtp);
  });
  const fault = (kind: string) =>
    fetch(`${status}/fault?kind=${encodeURIComponent(kind)}`, { method: 'PUT' });
  const mails = () => fs.readdirSync(box).filter((name) => name.endsWith('.eml'));

  it('brings pictures without a name, with words for who is new there and for who is known, and a protocol', async () => {
    await fault('none');
    const destinationId = await set(
      { kind: 'mail', to: 'colleague@mainland.example' },
      {
        identity: 'deidentified',
        packing: {
          format: 'jpeg',
          index: false,
          drawings: 'out',
          names: '{who} {n}',
          words: '',
          papers: false
        },
        words: { fresh: 'A new one.', known: 'More of one you know.' }
      }
    );
    const { visitId, pictureIds } = await visitWithPictures(2);
    await tryOnce(await sent(visitId, { destinationId, pictureIds: [pictureIds[0]] }));
    const second = await tryOnce(await sent(visitId, { destinationId, pictureIds: [pictureIds[1]] }));
    expect(second.items[0].state).toBe('delivered');
    const read = await Promise.all(
      mails()
        .sort()
        .map(async (name) => simpleParser(fs.readFileSync(path.join(box, name))))
    );
    expect(read.map(({ text }) => text?.trim())).toEqual(['A new one.', 'More of one you know.']);
    expect(read[0].attachments.map(({ filename }) => filename?.replace(/YT-\w+/, 'YT'))).toEqual([
      'YT 01.jpg',
      'what was checked.json',
      'what was checked.pdf'
    ]);
    for (const { attachments, subject } of read) {
      expect(subject).toBe('Pictures from a clinic');
      for (const { filename, content } of attachments)
        expect(`${filename} ${content.toString('latin1')}`).not.toMatch(/Wavecrest|Odile|REC-77/i);
    }
  });
  it('tells whoever is told of a destination once, when all of a parcel is there, and names no patient', async () => {
    await fault('none');
    const tell = ['one@mainland.example', 'two@mainland.example'];
    const destinationId = await set({ kind: 'folder', folder: shared }, { tell });
    const { visitId, pictureIds } = await visitWithPictures(2);
    const parcelId = await sent(visitId, { destinationId, pictureIds });
    const queued = async () =>
      (
        await clinic.owner.query<{ data: Telling }>(
          `select data from pgboss.job where name = 'tell' and data ->> 'parcelId' = $1`,
          [parcelId]
        )
      ).rows.map(({ data }) => data);
    expect(await queued()).toEqual([]);
    await tryOnce(parcelId);
    await tryOnce(parcelId);
    expect((await queued()).map(({ to }) => to).sort()).toEqual(tell);
    const problem = async () => (await dispatchParcel(clinic.caller(), parcelId)).parcel.toldProblem;
    const before = mails().length;
    await fault('refuse');
    const [first] = await queued();
    await expect(tellOfParcel(first)).rejects.toThrow();
    expect(await problem()).toMatch(/^\w+@mainland\.example could not be told: .*for now \(451\)/);
    await fault('none');
    for (const each of await queued()) await tellOfParcel(each);
    expect(await problem()).toBe('');
    const told = mails().sort().slice(before);
    expect(told).toHaveLength(2);
    for (const name of told) {
      const { text, attachments } = await simpleParser(fs.readFileSync(path.join(box, name)));
      expect(text).toMatch(/^2 pictures that .+ sent on 20\d\d-\d\d-\d\d arrived at to /);
      expect(text).not.toMatch(/Wavecrest|Odile|REC-77/i);
      expect(attachments).toEqual([]);
    }
  });

  it.each([
    ['full', 'waiting', /quota/],
    ['refuse', 'waiting', /for now \(451\)/],
    ['hang up', 'failed', /hung up before it said/]
  ] as const)('to a mailbox that is like this: %s', async (kind, state, reason) => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    const destinationId = await set({ kind: 'mail', to: 'a@b.example' });
    await fault(kind);
    const before = mails().length;
    const parcelId = await sent(visitId, { destinationId, pictureIds });
    const done = await tryOnce(parcelId);
    await fault('none');
    expect(done.items[0]).toMatchObject({ state, reason: expect.stringMatching(reason) });
    // What may have arrived is never sent again by itself.
    await tryOnce(parcelId);
    expect(mails().length - before).toBe(1);
  });
});

describe('what people do with a parcel', () => {
  it('holds it, lets it go on, withdraws it, sends it elsewhere', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    const away = await set({ kind: 'dicomweb', url: `http://127.0.0.1:${await freePort()}`, token: '' });
    const parcelId = await sent(visitId, { destinationId: away, pictureIds });
    const act = (wish: Parameters<typeof actOnParcel>[3]) =>
      actOnParcel(clinic.caller('assistant'), parcelId, randomUUID(), wish);
    const states = async () =>
      (await dispatchParcel(clinic.caller(), parcelId)).items.map(({ state }) => state);
    await act({ act: 'hold' });
    expect(await states()).toEqual(['held', 'held']);
    await tryOnce(parcelId);
    expect(await states()).toEqual(['held', 'held']);
    await act({ act: 'go on' });
    await tryOnce(parcelId);
    expect((await dispatchParcel(clinic.caller(), parcelId)).items[0]).toMatchObject({
      state: 'waiting',
      attempts: 1
    });
    const there = await set({ kind: 'folder', folder: shared });
    const answer = (await act({ act: 'elsewhere', destinationId: there, warned: true })) as {
      parcelId: string;
    };
    expect(await states()).toEqual(['withdrawn', 'withdrawn']);
    expect((await tryOnce(answer.parcelId)).items).toMatchObject([{ state: 'delivered' }]);
    await expect(act({ act: 'withdraw' })).rejects.toMatchObject({ code: 'nothing-left' });
    const page = await dispatch(clinic.caller(), { show: 'all', visit: visitId });
    expect(page.parcels.map(({ state, pictures }) => [state, pictures])).toEqual([
      ['open', 2],
      ['withdrawn', 2]
    ]);
  });
});

describe('destinations', () => {
  it('are set up, changed and dropped by the administrator alone, and keep their secret', async () => {
    const name = `Archive ${randomUUID().slice(0, 4)}`;
    const destinationId = await set(
      { kind: 'dicomweb', url: 'https://a.example/dicomweb', token: 'secret' },
      {},
      name
    );
    expect(JSON.stringify(await destinations(clinic.caller()))).not.toContain('secret');
    await expect(set({ kind: 'mail', to: 'x@y.example' }, {}, name)).rejects.toMatchObject({
      code: 'name-taken'
    });
    await expect(
      keepDestination(clinic.caller('clinician'), randomUUID(), {
        name: 'mine',
        settings: plainDestination({ kind: 'mail', to: 'x@y.example' })
      })
    ).rejects.toMatchObject({ status: 403 });
    await dropDestination(admin(), randomUUID(), destinationId);
    expect((await destinations(clinic.caller())).map((each) => each.name)).not.toContain(name);
    // Its name is free again.
    await set({ kind: 'mail', to: 'x@y.example' }, {}, name);
  });
  it('are archives only for DICOM', async () => {
    await expect(
      set(
        { kind: 'dicomweb', url: 'https://a.example', token: '' },
        { packing: { format: 'jpeg', index: false, drawings: 'out', names: '{n}', words: '', papers: false } }
      )
    ).rejects.toMatchObject({ code: 'archive-format' });
  });
  it('name a rule that there is', async () => {
    await expect(
      set({ kind: 'mail', to: 'x@y.example' }, { identity: 'deidentified', ruleId: randomUUID() })
    ).rejects.toMatchObject({ status: 404 });
    expect((await clinic.inside((tx) => ruleInUse(tx, null))).purpose).toBe('');
  });
});
