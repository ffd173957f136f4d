import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import dicomParser from 'dicom-parser';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf, standIn } from '../../../../e2e/harness/parcels';
import { jpegBaseline, jpegBody } from '../../core/dicom/jpegBody';
import { explicitLittleEndian } from '../../core/dicom/write';
import { entryFor } from '../../core/dicom/dictionary';
import { sayNoLettering } from '../deidentify/lettering';
import { sayAttribute } from '../objects/said';
import { openFile } from '../pictures/decode/openFile';

const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-wraps-'));
const started: ChildProcess[] = [];
afterAll(() => {
  for (const each of started) each.kill('SIGKILL');
  fs.rmSync(folder, { recursive: true, force: true });
});
const { set, sent, tryOnce } = parcelsOf(clinic);

async function archive(name: string, env: NodeJS.ProcessEnv = {}) {
  const url = `http://127.0.0.1:${await freePort()}`;
  const at = path.join(folder, name);
  started.push(
    await standIn('archive', `${url}/status`, { PORT: url.split(':').at(-1), ARCHIVE_FOLDER: at, ...env })
  );
  return { url, files: () => fs.readdirSync(at).map((file) => path.join(at, file)) };
}
let wraps: Awaited<ReturnType<typeof archive>>;
beforeAll(async () => {
  wraps = await archive('wraps');
});

const photograph = () =>
  sharp({ create: { width: 90, height: 60, channels: 3, background: '#a05040' } })
    .composite([
      { input: Buffer.from('<svg width="90" height="60"><circle cx="40" cy="30" r="17" fill="#fff"/></svg>') }
    ])
    .withExif({ IFD0: { Artist: 'Planted Artist' } })
    .jpeg({ quality: 80 })
    .toBuffer();
const deepPng = () =>
  sharp(
    Uint16Array.from({ length: 40 * 30 }, (_, i) => i * 54),
    { raw: { width: 40, height: 30, channels: 1 } }
  )
    .toColourspace('grey16')
    .png()
    .toBuffer();

/** A visit with pictures that came without attributes. */
async function visit(...pictures: [string, Buffer][]) {
  const visitId = await clinic.newVisit();
  const pictureIds = [];
  for (const [name, bytes] of pictures) pictureIds.push(await clinic.bring(visitId, name, bytes));
  return { visitId, pictureIds };
}
const errorsOf = (file: string) =>
  spawnSync('dciodvfy', [file], { encoding: 'utf8' })
    .stderr.split('\n')
    .filter((line) => line.startsWith('Error'));
const syntaxOf = (file: string) => dicomParser.parseDicom(fs.readFileSync(file)).string('x00020010');
/** Pixel data as they lie in a file, by another toolkit. */
function raw(file: string): Buffer {
  const out = path.join(folder, randomUUID());
  spawnSync('gdcmraw', ['-i', file, '-o', out]);
  return fs.readFileSync(out);
}

describe('an archive that wraps pictures itself', () => {
  it('gets what is said of them and their bodies, and holds these bit for bit', async () => {
    const [jpeg, png] = [await photograph(), await deepPng()];
    const { visitId, pictureIds } = await visit(['smile.jpg', jpeg], ['plate.png', png]);
    await sayAttribute(clinic.caller('front-desk'), pictureIds[0], randomUUID(), {
      tag: entryFor('PatientWeight').tag,
      text: '61.5'
    });
    const destinationId = await set({ kind: 'dicomweb', url: wraps.url, token: '' }, { wraps: 'there' });
    const parcelId = await sent(visitId, { destinationId, pictureIds });
    const { items } = await tryOnce(parcelId);
    expect(items.map(({ state, reason, readBackAt }) => [state, reason, readBackAt !== null])).toEqual([
      ['delivered', '', true],
      ['delivered', '', true]
    ]);
    const stored = items[0].wire.map(({ said }) => said).find(({ request }) => request.startsWith('POST'))!;
    expect(stored.parts.map(({ type }) => type)).toEqual([
      'application/dicom+json',
      `image/jpeg; transfer-syntax=${jpegBaseline}`
    ]);
    const files = wraps.files();
    expect(files).toHaveLength(2);
    for (const file of files) expect(errorsOf(file)).toEqual([]);
    const photo = files.find((file) => syntaxOf(file) === jpegBaseline)!;
    const body = Buffer.from(jpegBody(jpeg)!.bytes);
    expect(raw(photo).subarray(0, body.length).equals(body)).toBe(true);
    expect(fs.readFileSync(photo).includes('Planted Artist')).toBe(false);
    const read = dicomParser.parseDicom(fs.readFileSync(photo));
    expect([read.string('x00101030'), read.string('x00100020')]).toEqual(['61.5', 'REC-77']);
    const plate = files.find((file) => file !== photo)!;
    expect(syntaxOf(plate)).toBe(explicitLittleEndian);
    const samples = await sharp(png).toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer();
    expect(raw(plate).equals(samples)).toBe(true);
    // Killed before it could write down that they arrived: taken up again, each is found there already.
    await clinic.owner.query(`update delivery set state = 'sending' where parcel_id = $1`, [parcelId]);
    await tryOnce(parcelId);
    const receipts = (await (await fetch(`${wraps.url}/receipts`)).json()) as Record<string, number>;
    expect(Object.values(receipts)).toEqual([1, 1]);
  });

  it('gets no name where the identity does not go along', async () => {
    const { visitId, pictureIds } = await visit(['Odile Wavecrest.jpg', await photograph()]);
    await sayNoLettering(clinic.caller('assistant'), pictureIds[0], randomUUID());
    const before = wraps.files();
    const destinationId = await set({ kind: 'dicomweb', url: wraps.url, token: '' }, { wraps: 'there' });
    const parcelId = await sent(visitId, { destinationId, pictureIds, identity: 'deidentified' });
    expect((await tryOnce(parcelId)).items).toMatchObject([{ state: 'delivered', reason: '' }]);
    const [file] = wraps.files().filter((each) => !before.includes(each));
    expect(fs.readFileSync(file).toString('latin1')).not.toMatch(/Wavecrest|Odile|REC-77|Planted/);
    expect(errorsOf(file)).toEqual([]);
  });
});

it('an archive that takes files alone is sent the file, with the JPEG in it as it came', async () => {
  const plain = await archive('files', { ARCHIVE_FILES_ONLY: '1' });
  const jpeg = await photograph();
  const { visitId, pictureIds } = await visit(['smile.jpg', jpeg]);
  const destinationId = await set({ kind: 'dicomweb', url: plain.url, token: '' }, { wraps: 'there' });
  const { items } = await tryOnce(await sent(visitId, { destinationId, pictureIds }));
  expect(items).toMatchObject([{ state: 'delivered', reason: '' }]);
  expect(items[0].readBackAt).not.toBeNull();
  const posts = items[0].wire.map(({ said }) => said).filter(({ request }) => request.startsWith('POST'));
  expect(posts.map(({ answer }) => answer.slice(0, 3)).sort()).toEqual(['200', '415']);
  const [file] = plain.files();
  const body = Buffer.from(jpegBody(jpeg)!.bytes);
  expect([syntaxOf(file), errorsOf(file)]).toEqual([jpegBaseline, []]);
  expect(raw(file).subarray(0, body.length).equals(body)).toBe(true);
  // Whoever gets the file sees what we see.
  const { opened, frame } = await openFile(fs.readFileSync(file), () => {});
  const { data, channels } = await frame(0);
  expect([opened.width, opened.height, channels]).toEqual([90, 60, 3]);
  expect(Buffer.from(data).equals(await sharp(jpeg).raw().toBuffer())).toBe(true);
});

it('by DIMSE a picture that came as a JPEG goes as plain samples, which every archive takes', async () => {
  const port = await freePort();
  const out = path.join(folder, 'storescp');
  fs.mkdirSync(out);
  started.push(spawn('storescp', ['-od', out, '-aet', 'PLAIN', String(port)], { stdio: 'ignore' }));
  for (let tries = 0; tries < 60; tries++) {
    if (spawnSync('echoscu', ['-aec', 'PLAIN', '127.0.0.1', String(port)]).status === 0) break;
    await new Promise((go) => setTimeout(go, 100));
  }
  const jpeg = await photograph();
  const { visitId, pictureIds } = await visit(['smile.jpg', jpeg]);
  const destinationId = await set({
    kind: 'dimse',
    host: '127.0.0.1',
    port,
    called: 'PLAIN',
    calling: 'YONDER'
  });
  const { items } = await tryOnce(await sent(visitId, { destinationId, pictureIds }));
  expect(items).toMatchObject([{ state: 'delivered' }]);
  const [file] = fs.readdirSync(out).map((each) => path.join(out, each));
  expect(syntaxOf(file)).toBe(explicitLittleEndian);
  expect(raw(file).equals(await sharp(jpeg).raw().toBuffer())).toBe(true);
});
