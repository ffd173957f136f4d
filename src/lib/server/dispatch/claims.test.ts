import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort } from '../../../../scripts/cluster.mjs';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf, standIn } from '../../../../e2e/harness/parcels';
import type { Claim } from '../../core/parcel/claim';
import { plainPacking } from '../../core/parcel/packing';
import { deliver } from './deliver';
import { keepDestination, tryDestination } from './destinations';
import { dispatch, dispatchParcel } from './dispatchViews';
import { actOnParcel } from './parcels';

process.env.YONDER_ARCHIVE_PATIENCE_MS = '1500';
const clinic = useClinic();
const { set, visitWithPictures, sent, tryOnce } = parcelsOf(clinic);
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-claims-'));
let office: ChildProcess;
let url: string;
let destinationId: string;
beforeAll(async () => {
  const port = await freePort();
  url = `http://127.0.0.1:${port}`;
  office = await standIn('claims', `${url}/metadata`, { PORT: String(port), CLAIMS_FOLDER: folder });
  destinationId = await set({ kind: 'claims', url, token: 'secret-token' }, { packing });
});
afterAll(() => {
  office?.kill('SIGKILL');
  fs.rmSync(folder, { recursive: true, force: true });
});

const packing = { ...plainPacking, format: 'jpeg' as const };
const claim: Claim = { kind: 'intraoral', taken: '2026-11-02', leftIsAt: 'right', remark: 'Second opinion' };
const told = (ids: readonly string[], part: Partial<Claim> = {}) =>
  Object.fromEntries(ids.map((id) => [id, { ...claim, ...part }]));
const fault = (kind: string, count?: number) =>
  fetch(`${url}/faults`, { method: 'PUT', body: JSON.stringify({ kind, count }) });
const receipts = async () =>
  (await (await fetch(`${url}/receipts`)).json()) as { tracking: string; receipts: number }[];
interface Kept {
  tracking: string;
  document: {
    contained: { name: { family: string }[]; birthDate?: string }[];
    description?: string;
    type: { coding: { code: string }[] };
    extension: { valueCode: string }[];
    content: { attachment: { data: string; creation: string; contentType: string; title: string } }[];
  };
}
const kept = (tracking: string) =>
  JSON.parse(fs.readFileSync(path.join(folder, `${tracking}.json`), 'utf8')) as Kept;

describe('a claims office', () => {
  it('gets each picture with kind, day, side and remark; its tracking number is kept, shown and found', async () => {
    expect(await tryDestination(clinic.caller('administrator'), destinationId)).toMatchObject({
      reached: true
    });
    const { visitId, pictureIds } = await visitWithPictures(2);
    const claims = {
      [pictureIds[0]]: claim,
      [pictureIds[1]]: { ...claim, leftIsAt: 'left' as const, remark: '' }
    };
    const { items, parcel } = await tryOnce(await sent(visitId, { destinationId, pictureIds, claims }));
    expect(items.map(({ state }) => state)).toEqual(['delivered', 'delivered']);
    const numbers = items.map(({ tracking }) => tracking);
    expect(new Set(numbers).size).toBe(2);
    for (const number of numbers) expect(number).toMatch(/^AT-\d{4}-\d{6}$/);
    expect(parcel.tracking).toBe([...numbers].sort().join(', '));
    const [first, second] = items.map(({ tracking }) => kept(tracking).document);
    expect(first.contained[0].name[0].family).toBe('Wavecrest');
    expect(first.type.coding[0].code).toBe('intraoral');
    expect([first.description, second.description]).toEqual(['Second opinion', undefined]);
    expect([first, second].map(({ extension }) => extension[0].valueCode)).toEqual(['right', 'left']);
    const { data, creation } = first.content[0].attachment;
    expect(creation).toBe('2026-11-02');
    expect((await sharp(Buffer.from(data, 'base64')).metadata()).format).toBe('jpeg');
    // What was said is written down, and our token is not.
    expect(JSON.stringify(items[0].wire)).toContain('if-none-exist');
    expect(JSON.stringify(items)).not.toContain('secret-token');
    for (const find of [numbers[1].slice(3), numbers[1].toLowerCase(), 'wavecrest', 'REC-77']) {
      const { parcels } = await dispatch(clinic.caller(), { show: 'all', find });
      expect(parcels.map(({ parcelId }) => parcelId)).toContain(parcel.parcelId);
    }
    expect((await dispatch(clinic.caller(), { show: 'all', find: 'AT-9%' })).parcels).toEqual([]);
  });

  it.each([
    ['cut-after', 'waiting', /broke off/],
    ['cut-before', 'waiting', /broke off/],
    ['stall', 'waiting', /did not answer within 2 seconds/],
    ['refuse', 'waiting', /for now \(503\)/],
    ['reject', 'failed', /not known here/]
  ] as const)('that does this: %s, has the picture once in the end', async (kind, state, reason) => {
    const before = (await receipts()).length;
    const { visitId, pictureIds } = await visitWithPictures(1);
    const parcelId = await sent(visitId, { destinationId, pictureIds, claims: told(pictureIds) });
    await fault(kind, 1);
    const [item] = (await tryOnce(parcelId)).items;
    expect(item.state).toBe(state);
    expect(item.reason).toMatch(reason);
    if (state === 'failed')
      await actOnParcel(clinic.caller('front-desk'), parcelId, randomUUID(), { act: 'try all' });
    const [again] = (await tryOnce(parcelId)).items;
    expect(again.state).toBe('delivered');
    const now = await receipts();
    expect(now.length).toBe(before + 1);
    expect(now.find(({ tracking }) => tracking === again.tracking)?.receipts).toBe(1);
  });

  it('tells whoever is told of it once, however many of the last pictures arrive at one moment', async () => {
    await fault('none');
    const destination = await set(
      { kind: 'claims', url, token: '' },
      { packing, tell: ['insured@mainland.example'] }
    );
    const { visitId, pictureIds } = await visitWithPictures(3);
    const parcelId = await sent(visitId, {
      destinationId: destination,
      pictureIds,
      claims: told(pictureIds)
    });
    const { items } = await dispatchParcel(clinic.caller(), parcelId);
    await Promise.all(items.map(({ deliveryId }) => deliver(clinic.clinicId, deliveryId)));
    const { rows } = await clinic.owner.query(
      `select 1 from pgboss.job where name = 'tell' and data ->> 'parcelId' = $1`,
      [parcelId]
    );
    expect(rows).toHaveLength(1);
  });

  it('says what it does not take, in its own words, and a person puts it right with a parcel of its own', async () => {
    const { visitId, pictureIds } = await visitWithPictures(1);
    const wrong = { destinationId, pictureIds, claims: told(pictureIds, { taken: '2099-01-01' }) };
    const [refused] = (await tryOnce(await sent(visitId, wrong))).items;
    expect(refused.reason).toBe(
      'The claims office refused this picture: The day on which the picture was taken lies in the future.'
    );
    const right = { destinationId, pictureIds, claims: told(pictureIds) };
    const [taken] = (await tryOnce(await sent(visitId, right))).items;
    expect(taken.state).toBe('delivered');
    // Another claim may be made of the same picture.
    const [second] = (await tryOnce(await sent(visitId, right))).items;
    expect(second.state).toBe('delivered');
    expect(second.tracking).not.toBe(taken.tracking);
  });

  it('is sent nothing that it is not told of, nothing without a name, and nothing by itself', async () => {
    const { visitId, pictureIds } = await visitWithPictures(2);
    const some = told(pictureIds.slice(0, 1));
    const wish = { destinationId, pictureIds };
    await expect(sent(visitId, { ...wish, claims: some })).rejects.toMatchObject({ code: 'claims-untold' });
    await expect(
      sent(visitId, { ...wish, claims: told(pictureIds), identity: 'deidentified' })
    ).rejects.toMatchObject({ code: 'claims-by-hand' });
    await expect(
      sent(visitId, { ...wish, claims: told(pictureIds), packing: plainPacking })
    ).rejects.toMatchObject({ code: 'claims-format' });
    const address = { kind: 'claims' as const, url, token: '' };
    await expect(set(address, { packing, byItself: true })).rejects.toMatchObject({ code: 'claims-by-hand' });
    await expect(set(address)).rejects.toMatchObject({ code: 'claims-format' });
    const parcelId = await sent(visitId, {
      destinationId: await set(
        { kind: 'claims', url: `http://127.0.0.1:${await freePort()}`, token: '' },
        { packing }
      ),
      pictureIds,
      claims: told(pictureIds)
    });
    const away = await tryOnce(parcelId);
    expect(away.items[0].reason).toBe('The claims office is away: nothing listens there.');
    await expect(
      actOnParcel(clinic.caller('front-desk'), parcelId, randomUUID(), { act: 'elsewhere', destinationId })
    ).rejects.toMatchObject({ code: 'claims-untold' });
    await expect(
      keepDestination(clinic.caller('assistant'), randomUUID(), {
        name: 'x',
        settings: {
          address,
          identity: 'identified',
          ruleId: null,
          packing,
          wraps: 'here',
          words: { fresh: '', known: '' },
          byItself: false,
          closes: false,
          tell: []
        }
      })
    ).rejects.toMatchObject({ code: 'not-allowed' });
  });
});
