import { describe, expect, it } from 'vitest';
import { testPassword, testTimeZone, useClinic } from '../../../../e2e/harness/clinic';
import { once } from '../acts/once';
import { latestAudit } from '../audit/check';
import { flushLooks } from '../audit/looks';
import { beforeClinic, inClinic } from '../database/connection';
import { sha256 } from '../ids';
import { findPatients } from '../visits/finding';
import { chart } from '../visits/patients';
import { openVisit, visitView } from '../visits/visits';
import { demand } from './caller';
import { may, roles } from './roles';
import { changeSettings, dropMarker, keepMarker, markers } from '../clinics/settings';
import { callerOfSession, signOut } from './session';
import { signIn } from './signIn';

const clinic = useClinic();

const here = '192.0.2.1';

describe('signing in', () => {
  it('gives a session that names the caller, until it is signed out', async () => {
    const { token } = await signIn(' Clinician ', testPassword, here);
    const caller = await callerOfSession(token);
    expect(caller).toMatchObject({ role: 'clinician', clinicId: clinic.clinicId, timeZone: testTimeZone });
    await signOut(caller!, token);
    expect(await callerOfSession(token)).toBeNull();
  });
  it('refuses a wrong password and an unknown name with the same words', async () => {
    const wrong = await signIn('assistant', 'no', here).catch((problem) => problem);
    const unknown = await signIn('nobody-here', 'no', here).catch((problem) => problem);
    expect(wrong.code).toBe('wrong-password');
    expect(unknown.sentence).toBe(wrong.sentence);
  });
  it('takes a name with what no text may hold as any other', async () => {
    await expect(signIn('clinician\0', testPassword, here)).resolves.toHaveProperty('token');
    await expect(signIn('\ud800', 'x\0', here)).rejects.toMatchObject({ code: 'wrong-password' });
  });
  it('locks a name where too many wrong passwords came from, even for the right one, and nowhere else', async () => {
    // Made at one moment they count as well as one after the other.
    await Promise.allSettled(Array.from({ length: 8 }, () => signIn('front-desk', 'no', '203.0.113.5')));
    await expect(signIn('front-desk', testPassword, '203.0.113.5')).rejects.toMatchObject({
      code: 'too-many-tries',
      status: 429,
      sentence: expect.stringContaining('locked for 10 minutes')
    });
    await expect(signIn('administrator', testPassword, '203.0.113.5')).resolves.toHaveProperty('token');
    await expect(signIn('front-desk', testPassword, here)).resolves.toHaveProperty('token');
  });
  it('lets no stranger lock a name for good, wherever the guesses come from', async () => {
    await signIn('assistant', testPassword, '198.51.100.1');
    for (let i = 0; i < 100; i++) await signIn('assistant', 'no', `203.0.114.${i}`).catch(() => {});
    await expect(signIn('assistant', testPassword, '203.0.115.1')).rejects.toMatchObject({ status: 429 });
    await expect(signIn('assistant', testPassword, '198.51.100.1')).resolves.toHaveProperty('token');
  });
  it('counts one address over all names', async () => {
    for (let i = 0; i < 60; i++) await signIn(`guess-${i}`, 'no', '203.0.116.1').catch(() => {});
    await expect(signIn('clinician', testPassword, '203.0.116.1')).rejects.toMatchObject({ status: 429 });
  });
  it('leaves a line for each failure, and of a name that nobody has only its beginning', async () => {
    await signIn('clinician', 'no', here).catch(() => {});
    await signIn('MySecretPassword', 'no', here).catch(() => {});
    await flushLooks();
    const lines = await clinic.inside((tx) => latestAudit(tx, 400));
    expect(lines.some((line) => line.act === 'sign-in failed' && line.subject === 'clinician')).toBe(true);
    expect(lines.some((line) => line.subject === 'my… (16 letters)')).toBe(true);
    const lockedOut = lines.filter((line) => line.details.reason === 'signing in is locked');
    expect(lockedOut.map((line) => line.subject)).toContain('front-desk');
    expect(JSON.stringify(lines)).not.toMatch(/secretpassword/i);
  });
  it('keeps only a hash of the session token', async () => {
    const { token } = await signIn('clinician', testPassword, here);
    const { rows } = await clinic.owner.query('select token_hash from user_session');
    const stored = rows.map((row) => (row.token_hash as Buffer).toString('hex'));
    expect(stored).toContain(sha256(token).toString('hex'));
    // Whatever of the records is read, as bytes or as text, the token is not in it.
    for (const hash of stored) {
      expect(Buffer.from(hash, 'hex').toString('latin1')).not.toContain(token);
      expect(hash).not.toContain(Buffer.from(token).toString('hex'));
      expect(await callerOfSession(hash)).toBeNull();
      expect(await callerOfSession(Buffer.from(hash, 'hex').toString('base64url'))).toBeNull();
    }
  });
});

describe('the wall between clinics', () => {
  it('shows a stranger nothing, by service and by table', async () => {
    const visitId = await clinic.newVisit();
    await expect(visitView(clinic.stranger, visitId)).rejects.toMatchObject({ code: 'not-found' });
    await expect(chart(clinic.stranger, clinic.patientId)).rejects.toMatchObject({ code: 'not-found' });
    await expect(openVisit(clinic.stranger, clinic.patientId, clinic.roomId)).rejects.toMatchObject({
      code: 'not-found'
    });
    expect(await findPatients(clinic.stranger, 'Wavecrest')).toEqual([]);
    expect(await findPatients(clinic.caller(), 'odile wave')).toHaveLength(1);
    const tables = await clinic.owner.query(
      `select table_name as name from information_schema.columns where column_name = 'clinic_id' and table_schema = 'public'
       and table_name in (select tablename from pg_tables where schemaname = 'public')`
    );
    expect(tables.rows.length).toBeGreaterThan(20);
    for (const { name } of tables.rows) {
      const seen = await inClinic(clinic.otherClinicId, (tx) =>
        tx.sql<{ clinic_id: string }>(`select clinic_id from ${name} where clinic_id = $1`, clinic.clinicId)
      );
      expect(seen, name).toEqual([]);
    }
  });
  it('shows nothing at all where no clinic was named', async () => {
    expect(await beforeClinic('select * from patient')).toEqual([]);
  });
  it('refuses a row written for another clinic', async () => {
    const write = inClinic(clinic.otherClinicId, (tx) =>
      tx.sql(
        'insert into room values ($1, $2, $3, $4, 0)',
        crypto.randomUUID(),
        clinic.clinicId,
        'x',
        'teeth'
      )
    );
    await expect(write).rejects.toThrow(/row-level security/);
  });
});

describe('roles', () => {
  it('confirming is for clinicians alone, settings for administrators alone', () => {
    expect(roles.filter((role) => may(role, 'confirm'))).toEqual(['clinician']);
    expect(roles.filter((role) => may(role, 'change settings'))).toEqual(['administrator']);
  });
  it('says who may, and writes the refusal into the audit', async () => {
    const refusal = demand(clinic.caller('front-desk'), 'acquire', 'a visit');
    await expect(refusal).rejects.toMatchObject({ code: 'not-allowed', status: 403 });
    const [line] = await clinic.inside((tx) => latestAudit(tx, 1));
    expect(line).toMatchObject({ act: 'refused', who: 'The front-desk', details: { permission: 'acquire' } });
  });
  it('changes notation and time zone for an administrator and for nobody else', async () => {
    const wish = { notation: 'universal', timeZone: 'Asia/Tokyo' } as const;
    await expect(changeSettings(clinic.caller('assistant'), wish)).rejects.toMatchObject({ status: 403 });
    await changeSettings(clinic.caller('administrator'), wish);
    const { rows } = await clinic.owner.query('select name, notation, time_zone from clinic order by name');
    expect(rows).toEqual([
      { name: 'First', notation: 'universal', time_zone: 'Asia/Tokyo' },
      { name: 'Second', notation: 'fdi', time_zone: testTimeZone }
    ]);
  });
  it('keeps markers by name for an administrator, once for a key, and shows them to all of the clinic', async () => {
    const ball = { name: 'Ball', shape: 'ball' as const, sizeMm: 25, toleranceMm: 0.05 };
    const admin = clinic.caller('administrator');
    await expect(keepMarker(clinic.caller(), 'marker-key-0', ball)).rejects.toMatchObject({ status: 403 });
    const { markerId } = await keepMarker(admin, 'marker-key-1', ball);
    await keepMarker(admin, 'marker-key-1', { ...ball, sizeMm: 99 });
    await keepMarker(admin, 'marker-key-2', { ...ball, toleranceMm: 0.02 });
    expect(await markers(clinic.caller('assistant'))).toEqual([{ ...ball, toleranceMm: 0.02, markerId }]);
    expect(await markers(clinic.stranger)).toEqual([]);
    await expect(keepMarker(admin, 'marker-key-3', { ...ball, toleranceMm: 25 })).rejects.toMatchObject({
      code: 'tolerance-too-large'
    });
    await dropMarker(admin, 'marker-key-4', markerId);
    expect(await markers(clinic.caller())).toEqual([]);
  });
});

describe('an act', () => {
  it('asked for twice with one key is done once, also at the same moment, and answers the same', async () => {
    let done = 0;
    const act = () =>
      clinic.inside((tx) =>
        once(tx, clinic.caller().userId, 'act-key-0001', async () => ({ number: ++done }))
      );
    const answers = await Promise.all([act(), act(), act()]);
    expect(answers).toEqual([{ number: 1 }, { number: 1 }, { number: 1 }]);
    expect(done).toBe(1);
  });
  it('that was refused can be asked for again; one of somebody else’s key is not answered', async () => {
    const { userId } = clinic.caller();
    const failing = clinic.inside((tx) =>
      once(tx, userId, 'act-key-0002', async () => {
        throw new Error('not now');
      })
    );
    await expect(failing).rejects.toThrow('not now');
    const again = await clinic.inside((tx) => once(tx, userId, 'act-key-0002', async () => ({ well: true })));
    expect(again).toEqual({ well: true });
    const other = clinic.inside((tx) =>
      once(tx, clinic.caller('assistant').userId, 'act-key-0002', async () => ({}))
    );
    await expect(other).rejects.toMatchObject({ code: 'no-key' });
    await expect(clinic.inside((tx) => once(tx, userId, '', async () => ({})))).rejects.toMatchObject({
      code: 'no-key'
    });
  });
});
