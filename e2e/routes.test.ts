import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { seededRandom } from '../src/lib/core/random';
import { type Answer, Asking } from './harness/asking';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let clinician: Asking;
let administrator: Asking;
const ids: Record<string, string> = {};

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false });
  const [row] = await clinic.rows<Record<string, string>>(
    `select v.visit_id as visit, v.patient_id as patient, v.room_id as room, p.picture_id as picture, t.tray_id as tray,
            d.destination_id as destination, a.appointment_id as appointment
     from visit v join picture p using (visit_id) join tray t using (visit_id)
     join destination d on d.clinic_id = v.clinic_id
     join appointment a on a.clinic_id = v.clinic_id and a.room_id = v.room_id and a.visit_id is null
     order by v.opened_at desc, p.number limit 1`
  );
  Object.assign(ids, row);
  clinician = await Asking.as(clinic, 'orsin', password);
  administrator = await Asking.as(clinic, 'wren', password);
});
afterAll(() => clinic?.stop());

/** Refused in a sentence that a person can act on, and never as a fault of the server. */
function expectRefusal({ status, said, text }: Omit<Answer, 'location'>, what: string): void {
  expect(status, `${what}: ${text.slice(0, 300)}`).toBeGreaterThanOrEqual(400);
  expect(status, `${what}: ${text.slice(0, 300)}`).toBeLessThan(500);
  expect(said.sentence, what).toMatch(/^[A-Z].*[.!]$/);
  expect(said.next, what).toMatch(/^[A-Z].*[.!]$/);
}

/** How much there is of all that can be written. */
async function counts(): Promise<Record<string, string>> {
  const tables = [
    'visit',
    'picture',
    'picture_step',
    'tray',
    'tray_event',
    'picture_place',
    'picture_away',
    'category',
    'parcel',
    'delivery'
  ];
  const [row] = await clinic.rows<Record<string, string>>(
    `select ${[...tables, 'marker', 'blob', 'device'].map((each) => `(select count(*) from ${each}) as ${each}`).join(', ')}`
  );
  return row;
}

const writes = (): [Asking, string][] => [
  [clinician, `/api/trays/${ids.tray}`],
  [clinician, `/api/visits/${ids.visit}/trays`],
  [clinician, `/api/visits/${ids.visit}/leaving`],
  [clinician, `/api/visits/${ids.visit}/parcels`],
  [clinician, `/api/pictures/${ids.picture}/acts`],
  [clinician, '/api/links'],
  [clinician, '/api/pictures/delete'],
  [clinician, '/api/pictures/to-arrivals'],
  [clinician, '/api/pictures/bring-back'],
  [clinician, '/api/categories'],
  [clinician, '/api/visits'],
  [administrator, '/api/markers']
];

describe('rubbish', () => {
  it('in place of what was to be asked is refused in words and changes nothing', async () => {
    const random = seededRandom(23);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(random.uniform() * all.length)];
    const words = [
      'kind',
      'slotId',
      'takeId',
      'links',
      'changes',
      'pictureIds',
      'body',
      'patientId',
      'name',
      'places'
    ];
    const value = (depth: number): unknown => {
      const simple = [null, true, -1, 0, 1e308, '', 'tray-laid', 'x'.repeat(5_000), ids.picture, [], {}];
      if (depth === 0 || random.uniform() < 0.4) return pick(simple);
      const count = Math.floor(random.uniform() * 4);
      if (random.uniform() < 0.4) return Array.from({ length: count }, () => value(depth - 1));
      return Object.fromEntries(Array.from({ length: count }, () => [pick(words), value(depth - 1)]));
    };
    const before = await counts();
    for (const [who, where] of writes())
      for (let i = 0; i < 12; i++) {
        const body = value(4);
        expectRefusal(await who.send('POST', where, body), `${where} ${JSON.stringify(body).slice(0, 200)}`);
      }
    expect(await counts()).toEqual(before);
  });

  it('that is no JSON, and an ask without a key, are refused too', async () => {
    const before = await counts();
    for (const [who, where] of writes()) {
      for (const body of ['', '{', 'kind=anchored', '[1,'])
        expectRefusal(await who.send('POST', where, body), where);
    }
    const link = { links: [{ pictureId: ids.picture, places: [] }] };
    for (const key of [null, '', 'short', 'with spaces in it', 'x'.repeat(200)])
      expectRefusal(await clinician.send('POST', '/api/links', link, key), `key ${key}`);
    expect(await counts()).toEqual(before);
  });

  it('in an address leads to no fault, on pages as well', async () => {
    const wrong = ['0', 'x', randomUUID(), '..%2f..', '%F0%9F%A6%B7'];
    for (const each of wrong) {
      for (const where of [
        `/api/pictures/${each}`,
        `/api/pictures/${each}/levels/1`,
        `/api/pictures/${each}/preview?seq=0&turn=0`,
        `/api/visits/${each}`,
        `/api/visits/${each}/deliveries`,
        `/api/patients/${each}/pictures`
      ])
        expectRefusal(await clinician.get(where), where);
      for (const where of [`/visits/${each}/acquire`, `/patients/${each}`]) {
        const { status, text } = await clinician.get(where);
        expect(status, where).toBe(404);
        expect(text, where).toMatch(/There is no such page|is not in this clinic’s records/);
      }
    }
    for (const query of ['levels/99', 'levels/x', 'levels/-1', 'levels/1?frame=7', 'levels/1?frame=x'])
      expectRefusal(await clinician.get(`/api/pictures/${ids.picture}/${query}`), query);
    for (const query of ['', '?seq=x', '?seq=0&turn=9', '?seq=-1&turn=0', '?seq=1e99&turn=0']) {
      const { status } = await clinician.get(`/api/pictures/${ids.picture}/preview${query}`);
      expect(status, query).toBeLessThan(500);
    }
    for (const day of ['x', '2026-13-01', '2026-02-30', '', '99999-01-01'])
      expect((await clinician.get(`/?day=${day}`)).status, day).toBeLessThan(500);
    for (const words of ['', '%25', "'; drop table patient; --", 'a'.repeat(4_000), '\\'])
      expect(
        (await clinician.get(`/api/patients?words=${encodeURIComponent(words)}`)).status,
        words
      ).toBeLessThan(500);
  });

  it('from a device is refused in words, and the device is no worse off', async () => {
    const register = (body: unknown) => clinician.send('POST', '/device/v1/registrations', body);
    const device = { code: await clinic.newCode(), name: 'Odd one', kind: 'intraoral-sensor' };
    for (const body of [{}, [], 'x', { ...device, code: 'wrong' }, { ...device, kind: 'toaster' }])
      expectRefusal(await register(body), JSON.stringify(body));
    const { token } = (await register(device)).said as { token: string };
    const as = (method: string, where: string, headers: Record<string, string>, body?: string) =>
      fetch(clinic.origin + where, {
        method,
        headers: { authorization: `Bearer ${token}`, ...headers },
        body
      });
    const refused = async (response: Response, what: string) => {
      const text = await response.text();
      expectRefusal(
        { status: response.status, text, said: JSON.parse(text) as Record<string, unknown> },
        what
      );
    };
    for (const body of ['', '{}', '{"lamp":"purple"}', '[]'])
      await refused(
        await as('PUT', '/device/v1/lamp', { 'content-type': 'application/json' }, body),
        `lamp ${body}`
      );
    const described = (of: object) => Buffer.from(JSON.stringify(of)).toString('base64url');
    const offer = {
      armingId: randomUUID(),
      takenAt: new Date().toISOString(),
      width: 4,
      height: 4,
      bitsStored: 16,
      pitchMm: 0.02
    };
    const exposures: Record<string, string>[] = [
      {},
      { 'idempotency-key': randomUUID() },
      { 'idempotency-key': randomUUID(), 'yonder-exposure': '%%%' },
      { 'idempotency-key': randomUUID(), 'yonder-exposure': described({ ...offer, width: -4 }) },
      {
        'idempotency-key': randomUUID(),
        'yonder-exposure': described({ ...offer, width: 1e9, height: 1e9 })
      },
      { 'idempotency-key': randomUUID(), 'yonder-exposure': described({ ...offer, bitsStored: 64 }) },
      { 'idempotency-key': randomUUID(), 'yonder-exposure': described({ ...offer, takenAt: 'yesterday' }) }
    ];
    for (const headers of exposures)
      await refused(
        await as(
          'POST',
          '/device/v1/exposures',
          { 'content-type': 'application/octet-stream', ...headers },
          'x'.repeat(32)
        ),
        JSON.stringify(headers)
      );
    expect(
      (await as('PUT', '/device/v1/lamp', { 'content-type': 'application/json' }, '{"lamp":"resting"}'))
        .status
    ).toBe(200);
    expect(await clinic.rows(`select 1 from picture where source = 'device' and width = 4`)).toEqual([]);
  });
});

describe('a change that is asked for twice with one key', () => {
  const png = () =>
    sharp(Buffer.alloc(64, 7), { raw: { width: 8, height: 8, channels: 1 } })
      .png()
      .toBuffer();
  it('is made once and answered the same, whatever it is, also at the same moment', async () => {
    const [pattern] = await clinic.rows<Record<string, string | number>>(
      `select p.pattern_id, p.version, r.route_id, r.version as route_version from pattern p
       join route r on r.clinic_id = p.clinic_id and r.pattern_id = p.pattern_id and r.pattern_version = p.version
       join visit v on v.clinic_id = p.clinic_id where v.visit_id = '${ids.visit}' limit 1`
    );
    const [{ first_look: firstLook }] = await clinic.rows<{ first_look: object }>(
      `select first_look from picture where picture_id = '${ids.picture}'`
    );
    const asks: [Asking, string, unknown, string[]][] = [
      [
        clinician,
        `/api/visits/${ids.visit}/trays`,
        {
          pattern: { id: pattern.pattern_id, version: pattern.version },
          route: { id: pattern.route_id, version: pattern.route_version }
        },
        ['tray', 'tray_event']
      ],
      [
        clinician,
        `/api/visits/${ids.visit}/files?name=again.png`,
        await png(),
        ['picture', 'blob', 'tray_event']
      ],
      [
        clinician,
        `/api/pictures/${ids.picture}/acts`,
        { changes: [{ kind: 'look', item: null, body: firstLook }] },
        ['picture_step']
      ],
      [clinician, `/api/pictures/${ids.picture}/take-back`, {}, ['picture_step']],
      [clinician, `/api/pictures/${ids.picture}/bring-back`, {}, ['picture_step']],
      [
        clinician,
        '/api/links',
        { links: [{ pictureId: ids.picture, places: [{ kind: 'tooth', tooth: 48 }] }] },
        []
      ],
      [clinician, '/api/categories', { name: 'Before' }, ['category']],
      [
        clinician,
        '/api/pictures/delete',
        { pictureIds: [ids.picture], reason: 'Taken twice' },
        ['picture_away', 'tray_event']
      ],
      [clinician, '/api/pictures/bring-back', { pictureIds: [ids.picture] }, ['tray_event']],
      [clinician, '/api/visits', { appointmentId: ids.appointment }, ['visit', 'tray', 'tray_event']],
      [administrator, '/api/markers', { name: 'Twice', sizeMm: 4, toleranceMm: 0.1 }, ['marker']],
      [
        clinician,
        `/api/visits/${ids.visit}/parcels`,
        { destinationId: ids.destination, identity: 'identified', pictureIds: [ids.picture] },
        ['parcel', 'delivery']
      ]
    ];
    for (const [who, where, body, grows] of asks) {
      const before = await counts();
      const key = randomUUID();
      const both = await Promise.all([
        who.send('POST', where, body, key),
        who.send('POST', where, body, key)
      ]);
      const later = await who.send('POST', where, body, key);
      for (const answer of [...both, later]) {
        expect(answer.status, `${where}: ${answer.text}`).toBe(200);
        expect(answer.said, where).toEqual(later.said);
      }
      const after = await counts();
      for (const table of Object.keys(after)) {
        const grown = Number(after[table]) - Number(before[table]);
        if (table === 'delivery' || table === 'picture_place') continue;
        expect(grown, `${where}: ${table}`).toBe(grows.includes(table) ? grown : 0);
        if (grows.includes(table)) expect(grown, `${where}: ${table}`).toBe(1);
      }
    }
  });
  it('by somebody else is not answered in the first one’s stead', async () => {
    const key = randomUUID();
    const link = { links: [{ pictureId: ids.picture, places: [] }] };
    expect((await clinician.send('POST', '/api/links', link, key)).status).toBe(200);
    const assistant = await Asking.as(clinic, 'mara', password);
    expectRefusal(await assistant.send('POST', '/api/links', link, key), 'another’s key');
  });
});
