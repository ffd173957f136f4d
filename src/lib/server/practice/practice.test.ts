import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testTimeZone, useClinic } from '../../../../e2e/harness/clinic';
import { dayAfter, dayOf, dayRange } from '../../core/time/clinicTime';
import { checkAudit } from '../audit/check';
import { settingChanges, takeBackSetting } from '../clinics/settingChanges';
import { newId } from '../ids';
import { openAppointment } from '../visits/visits';
import { today } from '../visits/today';
import { readPractice } from './feed';
import { clearDoubt, followLink } from './launching';
import { dropPractice, keepPractice, practiceOfClinic, practiceWish, tryPractice } from './settingUp';

const clinic = useClinic();
const issuer = 'urn:test:records';
type Entry = Record<string, unknown>;
let answer: () => { status: number; body: string };
let server: http.Server;

const bundle = (entries: readonly Entry[]) =>
  JSON.stringify({ resourceType: 'Bundle', entry: entries.map((resource) => ({ resource })) });
const says = (...entries: Entry[]) => (answer = () => ({ status: 200, body: bundle(entries) }));

beforeAll(async () => {
  server = http.createServer((request, response) => {
    const asked = new URL(request.url!, 'http://x').searchParams.getAll('date');
    const from = asked.find((each) => each.startsWith('ge'))!.slice(2);
    // Only today has anything.
    const isToday = dayOf(new Date(from), testTimeZone) === dayOf(new Date(), testTimeZone);
    const { status, body } = answer();
    response.writeHead(status, { 'content-type': 'application/fhir+json' });
    response.end(isToday || status !== 200 ? body : bundle([]));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  await clinic.owner.query('insert into practice_system (clinic_id, name, url) values ($1, $2, $3)', [
    clinic.clinicId,
    'Desk',
    `http://127.0.0.1:${port}`
  ]);
});
afterAll(() => server.close());

const patient = (id: string, record: string, more: Entry = {}): Entry => ({
  resourceType: 'Patient',
  id,
  identifier: [{ system: issuer, value: record }],
  name: [{ family: 'Skerry', given: ['Nils'] }],
  birthDate: '1980-05-06',
  ...more
});
const at = (minutes: number) =>
  new Date(
    dayRange(dayOf(new Date(), testTimeZone), testTimeZone).start.getTime() + minutes * 60_000
  ).toISOString();
const appointment = (id: string, whose: string, more: Entry = {}): Entry => ({
  resourceType: 'Appointment',
  id,
  status: 'booked',
  start: at(600),
  minutesDuration: 30,
  reasonCode: [{ text: 'Check-up' }],
  participant: [
    { actor: { reference: `Patient/${whose}` } },
    { actor: { reference: 'Location/1', display: 'teeth' } }
  ],
  ...more
});
const seen = () => today(clinic.caller('front-desk'));
const read = async () => {
  await readPractice(clinic.clinicId);
  return seen();
};

describe('a practice system', () => {
  it('feeds the day: patients are entered once, appointments follow what they become there', async () => {
    says(patient('p1', 'N-1'), appointment('a1', 'p1'));
    const [first] = (await read()).appointments;
    expect(first).toMatchObject({ startsAt: at(600), minutes: 30, reason: 'Check-up' });
    expect(first.patient).toMatchObject({ name: 'Nils Skerry', recordNumber: 'N-1' });
    const patients = await clinic.count('patient');
    says(patient('p1', 'N-1'), appointment('a1', 'p1', { start: at(660), reasonCode: [{ text: 'Pain' }] }));
    const moved = (await read()).appointments;
    expect(moved).toMatchObject([{ appointmentId: first.appointmentId, startsAt: at(660), reason: 'Pain' }]);
    expect(await clinic.count('patient')).toBe(patients);
    says(patient('p1', 'N-1'), appointment('a1', 'p1', { status: 'cancelled' }));
    expect((await read()).appointments).toEqual([]);
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('drops nothing because of something that it can’t read', async () => {
    says(patient('p1', 'N-1'), appointment('d1', 'p1', { start: at(900) }));
    await read();
    says(patient('p1', 'N-1'), appointment('d1', 'p1', { start: 'at noon' }));
    const day = await read();
    expect(day.appointments).toMatchObject([{ startsAt: at(900) }]);
    expect(day.practice).toMatchObject({ unplaced: 1 });
    says();
    expect((await read()).appointments).toEqual([]);
  });

  it('never takes a begun visit away, nor gives it to somebody else', async () => {
    says(patient('p1', 'N-1'), appointment('a2', 'p1'));
    const [{ appointmentId, patient: whose }] = (await read()).appointments;
    await openAppointment(clinic.caller(), appointmentId);
    says(patient('p2', 'N-2', { name: [{ family: 'Other', given: ['Ann'] }] }), appointment('a2', 'p2'));
    expect((await read()).appointments).toMatchObject([{ patient: { patientId: whose.patientId } }]);
    says();
    expect((await read()).appointments).toHaveLength(1);
    says(appointment('a2', 'p1', { status: 'cancelled' }));
    expect((await read()).appointments).toHaveLength(1);
  });

  it('is taken for the chart with its number only where the birth date agrees; the rest is counted', async () => {
    says(
      patient('own', 'REC-77', { birthDate: '1980-04-05' }),
      appointment('b1', 'own', { start: at(700) }),
      patient('odd', 'REC-90', { birthDate: '1999-01-01' }),
      appointment('b2', 'odd'),
      appointment('b3', 'own', {
        participant: [
          { actor: { reference: 'Patient/own' } },
          { actor: { reference: 'Location/9', display: 'Attic' } }
        ]
      }),
      { resourceType: 'Appointment', id: 'b4' }
    );
    await clinic.newPatient('Wrong', 'Day', 'REC-90');
    const day = await read();
    const ofOwn = day.appointments.filter((each) => each.patient.patientId === clinic.patientId);
    expect(ofOwn).toHaveLength(1);
    expect(day.practice).toMatchObject({ problem: '', unplaced: 3 });
  });

  it.each([
    ['an error', () => ({ status: 503, body: '' }), 'It answered with the error 503.'],
    ['rubbish', () => ({ status: 200, body: '<html>' }), 'What it answered is no list of appointments.']
  ])('that answers with %s leaves the last list, and says of when it is', async (_, bad, words) => {
    says(patient('p1', 'N-1'), appointment('c1', 'p1', { start: at(800) }));
    const before = await read();
    answer = bad;
    const after = await read();
    expect(after.appointments).toEqual(before.appointments);
    expect(after.practice).toMatchObject({ problem: words, heardAt: before.practice!.heardAt });
  });

  it('of one clinic says nothing to another', async () => {
    expect((await today(clinic.stranger)).practice).toBeNull();
    expect((await today(clinic.caller(), dayAfter(dayOf(new Date(), testTimeZone), 1))).appointments).toEqual(
      []
    );
  });
});

describe('a link of the practice system', () => {
  const link = (identifier: string, name = '', birthDate = '') =>
    followLink(clinic.caller('assistant'), { identifier, name, birthDate });

  it('opens the chart where number, name and birth date agree, however the name is written', async () => {
    const to = `/patients/${clinic.patientId}`;
    expect(await link('REC-77')).toEqual({ kind: 'open', to });
    expect(await link('REC-77', 'WAVECREST Odile Marie', '1980-04-05')).toEqual({ kind: 'open', to });
    expect(await link(`${issuer}|REC-77`)).toEqual({ kind: 'open', to });
    expect(await link('nobody')).toEqual({ kind: 'nobody' });
    expect(await followLink(clinic.stranger, { identifier: 'REC-77', name: '', birthDate: '' })).toEqual({
      kind: 'nobody'
    });
  });

  it('opens nothing where they don’t, until the birth date is said; wrong ones are counted', async () => {
    expect(await link('REC-77', 'Odile Wavecrest', '1981-04-05')).toMatchObject({ kind: 'doubt' });
    expect(await link('REC-77', 'Somebody Else')).toMatchObject({ kind: 'doubt' });
    const wish = { identifier: 'REC-77', name: 'Somebody Else', birthDate: '' };
    await expect(clearDoubt(clinic.caller('assistant'), { ...wish, born: '6.4.1980' })).rejects.toMatchObject(
      {
        code: 'no-such-birth-date'
      }
    );
    expect(await clearDoubt(clinic.caller('assistant'), { ...wish, born: '5 Apr 1980' })).toEqual({
      to: `/patients/${clinic.patientId}`
    });
    await expect(clearDoubt(clinic.caller('clinician'), { ...wish, born: '5/4/1980' })).rejects.toMatchObject(
      {
        code: 'two-readings'
      }
    );
    const guesses = await Promise.allSettled(
      Array.from({ length: 8 }, (_, i) =>
        clearDoubt(clinic.caller('front-desk'), { ...wish, born: `${i + 1}.1.1950` })
      )
    );
    const codes = guesses.map((each) => (each as PromiseRejectedResult).reason.code as string);
    expect(codes.filter((code) => code === 'too-many-tries')).toHaveLength(3);
  });

  it('that fits two charts is cleared by the one who was born on that day', async () => {
    const twin = await clinic.newPatient('Twin', 'Tove', 'REC-91');
    await clinic.owner.query(`update patient set national_number = 'SAME' where patient_id = any($1)`, [
      [twin, clinic.patientId]
    ]);
    expect(await link('SAME')).toMatchObject({ kind: 'doubt', why: '2 patients here have this number.' });
    const wish = { identifier: 'SAME', name: '', birthDate: '' };
    expect(await clearDoubt(clinic.caller(), { ...wish, born: '1971-02-03' })).toEqual({
      to: `/patients/${twin}`
    });
  });

  it('goes to the visit of today where there is one', async () => {
    const visitId = newId();
    await clinic.owner.query(
      `insert into visit (visit_id, clinic_id, patient_id, room_id, opened_at, study_uid, series_uid, accession)
       values ($1, $2, $3, $4, now(), '2.25.9', '2.25.91', 'A')`,
      [visitId, clinic.clinicId, clinic.patientId, clinic.roomId]
    );
    expect(await link('REC-77')).toEqual({ kind: 'open', to: `/visits/${visitId}/acquire` });
  });
});

describe('which practice system a clinic has', () => {
  const admin = () => clinic.caller('administrator');
  it('is tried before it is kept, kept, changed, and taken back with one press', async () => {
    const { url } = (await practiceOfClinic(admin()))!;
    says(patient('t1', 'N-901'), appointment('t1', 't1'));
    expect(await tryPractice(admin(), { url })).toEqual({
      well: true,
      words: 'It answered: 1 appointment today.'
    });
    expect(await tryPractice(admin(), { url: 'http://127.0.0.1:9' })).toEqual({
      well: false,
      words: 'Nothing listens at its address.'
    });
    await read();
    await keepPractice(admin(), newId(), { name: 'Another desk', url: 'http://127.0.0.1:9' });
    // What was heard from the one before says nothing of this one.
    expect(await practiceOfClinic(admin())).toEqual({
      name: 'Another desk',
      url: 'http://127.0.0.1:9',
      heardAt: null,
      problem: '',
      unplaced: 0
    });
    const [change] = await settingChanges(admin());
    expect(change.words).toContain('Practice system: Another desk');
    await takeBackSetting(admin(), newId(), change.seq);
    expect(await practiceOfClinic(admin())).toMatchObject({ name: 'Desk', url });
  });

  it('is asked no more when it is dropped: what came from it stays, and it comes back with one press', async () => {
    says(patient('t2', 'N-902'), appointment('t2', 't2'));
    const before = (await read()).appointments.length;
    await dropPractice(admin(), newId());
    expect(await practiceOfClinic(admin())).toBeNull();
    says();
    expect((await read()).appointments).toHaveLength(before);
    expect((await seen()).practice).toBeNull();
    const [change] = await settingChanges(admin());
    await takeBackSetting(admin(), newId(), change.seq);
    expect(await practiceOfClinic(admin())).toMatchObject({ name: 'Desk' });
  });

  it('is heard often without that being a change of a setting; nobody but an administrator sets it', async () => {
    const count = async () => (await settingChanges(admin())).length;
    const before = await count();
    await read();
    await read();
    expect(await count()).toBe(before);
    await expect(
      keepPractice(clinic.caller(), newId(), { name: 'Mine', url: 'http://127.0.0.1:9' })
    ).rejects.toMatchObject({ status: 403 });
    for (const url of ['ftp://desk', 'desk', 'http://desk/fhir?x=1'])
      expect(practiceWish.safeParse({ name: 'Desk', url }).success).toBe(false);
    expect(practiceWish.parse({ name: 'Desk', url: 'http://desk/fhir/' }).url).toBe('http://desk/fhir');
  });
});
