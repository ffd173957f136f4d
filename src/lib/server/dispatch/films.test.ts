import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf, standIn } from '../../../../e2e/harness/parcels';
import type { Address } from '../../core/parcel/destination';
import type { FilmWish } from '../../core/print/filmWish';
import { trueSize } from '../../core/print/trueSize';
import { inClinic } from '../database/connection';
import { pictureRow, viewsOf } from '../pictures/views';
import { deliver } from './deliver';
import { keepDestination, tryDestination } from './destinations';
import { dispatch, dispatchParcel } from './dispatchViews';
import { filmPrinters, filmsShown, sendFilms } from './filmParcels';
import { actOnParcel, sendParcel } from './parcels';

process.env.YONDER_ARCHIVE_PATIENCE_MS = '4000';
const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-films-'));
const started: ChildProcess[] = [];
afterAll(() => {
  for (const each of started) each.kill('SIGKILL');
  fs.rmSync(folder, { recursive: true, force: true });
});
const { set, visitWithPictures, tryOnce } = parcelsOf(clinic);

type FilmAddress = Extract<Address, { kind: 'film' }>;
const address = (port: number, more: Partial<FilmAddress> = {}): FilmAddress => ({
  kind: 'film',
  host: '127.0.0.1',
  port,
  called: 'FILMS',
  calling: 'YONDER',
  sizes: ['14INX17IN', '8INX10IN'],
  medium: 'CLEAR FILM',
  colour: false,
  ...more
});
const wished = (destinationId: string, pictureIds: string[], more: Partial<FilmWish> = {}): FilmWish => ({
  destinationId,
  pictureIds,
  way: 'grid',
  across: 2,
  down: 1,
  size: '14INX17IN',
  lying: false,
  names: 'initials',
  captions: true,
  drawn: false,
  copies: 1,
  ...more
});
const films = async (visitId: string, wish: FilmWish) =>
  (await sendFilms(clinic.caller('front-desk'), visitId, randomUUID(), { film: wish })).parcelId;

/** Debian's own film printer, which keeps what it would have printed. */
async function debianPrinter(port: number): Promise<string> {
  const at = path.join(folder, 'dcmprscp');
  for (const each of ['db', 'spool', 'log']) fs.mkdirSync(path.join(at, each), { recursive: true });
  const settings = path.join(at, 'printer.cfg');
  fs.writeFileSync(
    settings,
    `[[GENERAL]]
[APPLICATION]
LogDirectory = ${at}/log
[PRINT]
Server = dcmprscp
Directory = ${at}/spool
[DATABASE]
Directory = ${at}/db
[NETWORK]
aetitle = YONDER
[[COMMUNICATION]]
[FILMS]
Aetitle = FILMS
Hostname = localhost
Port = ${port}
Type = LOCALPRINTER
BorderDensity = BLACK\\WHITE
EmptyImageDensity = BLACK\\WHITE
DisplayFormat = 1,1\\2,1\\2,2
FilmSizeID = 8INX10IN\\14INX17IN
MagnificationType = REPLICATE\\BILINEAR\\CUBIC\\NONE
MaxPDU = 32768
MediumType = PAPER\\CLEAR FILM\\BLUE FILM
SupportsDecimateCrop = true
SupportsImageSize = true
`
  );
  started.push(spawn('dcmprscp', ['-c', settings, '-p', 'FILMS'], { stdio: 'ignore' }));
  return path.join(at, 'db');
}
const dumped = (file: string, tag: string): string[] =>
  spawnSync('dcmdump', ['+P', tag, file], { encoding: 'utf8' })
    .stdout.split('\n')
    .flatMap((line) => /\[(.*?)\]|(?<= US )(\d+)/.exec(line)?.slice(1).find(Boolean) ?? []);
const sizeOf = (pictureId: string) =>
  inClinic(clinic.clinicId, async (tx) =>
    trueSize((await viewsOf(tx, [await pictureRow(tx, pictureId)], ''))[0])
  );

describe('a film printer as Debian ships it', () => {
  let [port, lying] = [0, ''];
  beforeAll(async () => {
    port = await freePort();
    lying = await debianPrinter(port);
  });
  const kept = (kind: 'HG' | 'SP') =>
    fs
      .readdirSync(lying)
      .filter((name) => name.startsWith(kind))
      .map((name) => path.join(lying, name))
      .sort((a, b) => fs.statSync(a).mtimeMs - fs.statSync(b).mtimeMs);

  it('gets films in rows, each a delivery of its own, and what is seen stands on them', async () => {
    const destinationId = await set(address(port));
    await expect
      .poll(async () => (await tryDestination(clinic.caller('administrator'), destinationId)).words)
      .toBe('The printer answers, and can print.');
    const { visitId, pictureIds } = await visitWithPictures(3);
    const parcelId = await films(visitId, wished(destinationId, pictureIds));
    const before = await dispatchParcel(clinic.caller(), parcelId);
    expect(before.items.map(({ what, state }) => [what, state])).toEqual([
      ['film 1 of 2', 'waiting'],
      ['film 2 of 2', 'waiting']
    ]);
    const done = await tryOnce(parcelId);
    expect(done.items.map(({ state, reason }) => [state, reason])).toEqual([
      ['delivered', ''],
      ['delivered', '']
    ]);
    expect(kept('SP')).toHaveLength(2);
    expect(dumped(kept('SP')[0], '2010,0010')).toEqual(['STANDARD\\2,1']);
    expect(dumped(kept('SP')[0], '2010,0050')).toEqual(['14INX17IN']);
    const pictures = kept('HG');
    expect(pictures).toHaveLength(3);
    // A cell of 177.8 × 431.8 mm less 5 mm at each side, at 10 dots a millimetre.
    expect([dumped(pictures[0], '0028,0011')[0], dumped(pictures[0], '0028,0010')[0]]).toEqual([
      '1678',
      '4218'
    ]);
    const { parcels } = await dispatch(clinic.caller(), { show: 'all', visit: visitId });
    expect(parcels[0]).toMatchObject({
      destination: { kind: 'film' },
      pictures: 3,
      counts: { delivered: 2, failed: 0 }
    });
  });

  it('gets a picture true to scale with its width in millimetres, never to be made smaller', async () => {
    const destinationId = await set(address(port));
    const { visitId, pictureIds } = await visitWithPictures(1);
    const parcelId = await films(
      visitId,
      wished(destinationId, pictureIds, { way: 'true', size: '8INX10IN' })
    );
    expect((await tryOnce(parcelId)).items[0]).toMatchObject({ state: 'delivered', reason: '' });
    const [sheet] = kept('SP').slice(-1);
    const [picture] = kept('HG').slice(-1);
    const [widthMm] = dumped(sheet, '2020,0030').map(Number);
    // So many dots are so many tenths of a millimetre.
    expect(Number(dumped(picture, '0028,0011')[0])).toBe(Math.round(10 * widthMm));
    expect(dumped(sheet, '2020,0040')).toEqual(['FAIL']);
    const size = (await sizeOf(pictureIds[0]))!;
    expect(widthMm).toBeCloseTo(Math.max(size.width, 90), 6);
  });

  it('that has no such film is told as such', async () => {
    const destinationId = await set(address(port, { sizes: ['A3'] }));
    const { visitId, pictureIds } = await visitWithPictures(1);
    const parcelId = await films(visitId, wished(destinationId, pictureIds, { size: 'A3', across: 1 }));
    expect((await tryOnce(parcelId)).items[0]).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/^The printer takes no such film: status 0?1/),
      next: expect.stringMatching(/sizes/)
    });
  });
});

describe('a film printer that can fail', () => {
  const printed = path.join(folder, 'printed');
  let [port, faults] = [0, ''];
  beforeAll(async () => {
    port = await freePort();
    faults = `http://127.0.0.1:${await freePort()}`;
    started.push(
      await standIn('film', faults, {
        FILM_PORT: String(port),
        PORT: new URL(faults).port,
        FILM_FOLDER: printed
      })
    );
  });
  const fail = (kind: string) => fetch(`${faults}/fault?kind=${encodeURIComponent(kind)}`, { method: 'PUT' });
  const lying = () =>
    fs
      .readdirSync(printed)
      .filter((name) => name.endsWith('.png'))
      .sort();
  const again = (deliveryId: string) => deliver(clinic.clinicId, deliveryId);

  it('prints a ruler of 50 mm as 50 mm, as often as it was asked for', async () => {
    const destinationId = await set(address(port));
    const { visitId, pictureIds } = await visitWithPictures(1);
    const before = lying().length;
    const parcelId = await films(
      visitId,
      wished(destinationId, pictureIds, { way: 'true', size: '8INX10IN', copies: 2 })
    );
    expect((await tryOnce(parcelId)).items[0].state).toBe('delivered');
    const sheets = lying().slice(before);
    expect(sheets).toHaveLength(2);
    const { data, info } = await sharp(path.join(printed, sheets[0]))
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const runs = Array.from({ length: info.height }, (_, y) => longestRun(data, info.width, y, 128));
    // 4 dots a millimetre; nothing else on this film is one line so long.
    expect(Math.abs(Math.max(...runs) / 4 - 50)).toBeLessThan(0.6);
  });

  it('without film is waited for, and told by its own words', async () => {
    const destinationId = await set(address(port));
    const { visitId, pictureIds } = await visitWithPictures(1);
    await fail('empty');
    expect(await tryDestination(clinic.caller('administrator'), destinationId)).toMatchObject({
      reached: false,
      words: expect.stringMatching(/can’t print \(SUPPLY EMPTY\)/)
    });
    const parcelId = await films(visitId, wished(destinationId, pictureIds));
    expect((await tryOnce(parcelId)).items[0]).toMatchObject({
      state: 'waiting',
      reason: expect.stringMatching(/SUPPLY EMPTY/)
    });
    await fail('full');
    expect((await tryOnce(parcelId)).items[0]).toMatchObject({
      state: 'waiting',
      reason: expect.stringMatching(/does not take picture 1: status C605h/)
    });
    await fail('none');
    const before = lying().length;
    expect((await tryOnce(parcelId)).items[0].state).toBe('delivered');
    expect(lying()).toHaveLength(before + 1);
  });

  it('that hangs up once it was told to print is asked by a person, and never told twice by itself', async () => {
    const destinationId = await set(address(port));
    const { visitId, pictureIds } = await visitWithPictures(1);
    await fail('hang up');
    const before = lying().length;
    const parcelId = await films(visitId, wished(destinationId, pictureIds));
    const [hung] = (await tryOnce(parcelId)).items;
    await fail('none');
    expect(hung).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/told to print by then/),
      next: expect.stringMatching(/whether the film came out/)
    });
    expect(lying()).toHaveLength(before + 1);
    // A person says so.
    await actOnParcel(clinic.caller(), parcelId, randomUUID(), { act: 'try all' });
    expect((await tryOnce(parcelId)).items[0].state).toBe('delivered');
    expect(lying()).toHaveLength(before + 2);
    // Killed between the order and writing down that it was given.
    await clinic.owner.query(`update delivery set state = 'sending' where delivery_id = $1`, [
      hung.deliveryId
    ]);
    await again(hung.deliveryId);
    expect((await dispatchParcel(clinic.caller(), parcelId)).items[0]).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/nobody knows whether it did/)
    });
    expect(lying()).toHaveLength(before + 2);
  });

  it('that has printed and is gone before all was said has printed; each picture is noted once', async () => {
    const destinationId = await set(address(port));
    const { visitId, pictureIds } = await visitWithPictures(3);
    await fail('leave');
    const before = lying().length;
    const parcelId = await films(visitId, wished(destinationId, pictureIds));
    const done = await tryOnce(parcelId);
    await fail('none');
    expect(done.items.map(({ state, reason }) => [state, reason])).toEqual([
      ['delivered', ''],
      ['delivered', '']
    ]);
    expect(lying()).toHaveLength(before + 2);
    const { rows } = await clinic.owner.query<{ subject: string }>(
      `select subject from audit_line where act = 'delivered' and subject = any($1)`,
      [pictureIds]
    );
    expect(rows.map(({ subject }) => subject).toSorted()).toEqual(pictureIds.toSorted());
  });

  it('that is away is waited for, and one that does not know us is told as such', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    const away = await films(visitId, wished(await set(address(await freePort())), pictureIds));
    expect((await tryOnce(away)).items[0]).toMatchObject({
      state: 'waiting',
      reason: expect.stringMatching(/printer is away/)
    });
    const unknown = await films(visitId, wished(await set(address(port, { called: 'NOBODY' })), pictureIds));
    expect((await tryOnce(unknown)).items[0]).toMatchObject({
      state: 'failed',
      reason: expect.stringMatching(/printer does not know YONDER/)
    });
  });

  it('prints colour where it can, and what is shown before has whose it is in words that all can be written', async () => {
    const destinationId = await set(address(port, { colour: true }));
    const { visitId, pictureIds } = await visitWithPictures(2);
    const before = lying().length;
    const shown = await filmsShown(clinic.caller(), visitId, wished(destinationId, pictureIds));
    expect(Buffer.from(shown.bytes).subarray(0, 5).toString()).toBe('%PDF-');
    expect(shown).toMatchObject({ names: 'initials', named: [], unwritable: [] });
    const parcelId = await films(visitId, wished(destinationId, pictureIds));
    expect((await tryOnce(parcelId)).items[0].state).toBe('delivered');
    expect(lying()).toHaveLength(before + 1);
  });
});

describe('what can’t be put on film', () => {
  it('is said before anything is on its way', async () => {
    const destinationId = await set(address(9));
    const { visitId, pictureIds } = await visitWithPictures(1);
    const refused = (more: Partial<FilmWish>) =>
      expect(films(visitId, wished(destinationId, pictureIds, more))).rejects;
    await refused({ size: 'A3' }).toMatchObject({ code: 'no-such-film' });
    await refused({ pictureIds: [randomUUID()] }).toMatchObject({ code: 'no-picture' });
    await clinic.owner.query(
      `update picture set facts = facts #- '{origin,spacing}' where picture_id = $1`,
      pictureIds
    );
    const mail = await set({ kind: 'mail', to: 'somebody@mainland.example' });
    await refused({ destinationId: mail }).toMatchObject({ code: 'no-film' });
    await expect(
      sendParcel(clinic.caller(), visitId, randomUUID(), { destinationId, pictureIds, warned: true })
    ).rejects.toMatchObject({ code: 'films-laid-out' });
    await expect(
      keepDestination(clinic.caller('administrator'), randomUUID(), {
        name: 'By itself',
        settings: {
          address: address(9),
          identity: 'identified',
          ruleId: null,
          packing: (await import('../../core/parcel/packing')).plainPacking,
          wraps: 'here',
          words: { fresh: '', known: '' },
          byItself: true,
          closes: false,
          tell: []
        }
      })
    ).rejects.toMatchObject({ code: 'films-by-hand' });
    const all = await dispatch(clinic.caller(), { show: 'all', visit: visitId });
    expect(all.parcels).toEqual([]);
    expect((await filmPrinters(clinic.caller())).map(({ destinationId: id }) => id)).toContain(destinationId);
  });
});

/** The longest line of bright dots in a row. */
function longestRun(data: Buffer, width: number, y: number, bright: number): number {
  let [run, longest] = [0, 0];
  for (let x = 0; x < width; x++) {
    run = data[y * width + x] >= bright ? run + 1 : 0;
    longest = Math.max(longest, run);
  }
  return longest;
}
