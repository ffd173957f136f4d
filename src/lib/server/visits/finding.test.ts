import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { findPatients, freshPatient } from './finding';
import { enterPatient, enterWish, likelyDoubles } from './newPatient';

const clinic = useClinic();
const fresh = (asked: object) => freshPatient.parse({ kind: 'person', ...asked });
const enter = (asked: object, more: object = {}, key: string = randomUUID()) =>
  enterPatient(
    clinic.caller('front-desk'),
    key,
    enterWish.parse({ patient: { kind: 'person', ...asked }, ...more })
  );
const numbers = async (words: string) =>
  (await findPatients(clinic.caller(), words)).map((each) => each.recordNumber);

describe('entering a patient', () => {
  it('takes a name and one thing more of a person, a number and a species of an animal', () => {
    const problem = (asked: object) => freshPatient.safeParse(asked).error?.issues[0].message;
    expect(problem({ kind: 'person', givenName: 'Odd', familyName: 'Name' })).toMatch(/needs a birth date/);
    expect(problem({ kind: 'person', familyName: 'Name', recordNumber: '1' })).toMatch(/first and a family/);
    expect(problem({ kind: 'animal', givenName: 'Rex', recordNumber: 'A-7' })).toMatch(/species/);
    expect(problem({ kind: 'animal', recordNumber: 'A-7', species: 'dog' })).toBeUndefined();
  });

  it('shows who it may be already, and enters nobody twice unless somebody says it is another', async () => {
    const asked = {
      givenName: 'Catherine',
      familyName: 'Løvdal',
      birthDate: '1971-04-05',
      recordNumber: 'F-1'
    };
    await enter(asked);
    const again = { givenName: 'Kate', familyName: 'Lovdal', birthDate: '1971-04-05' };
    expect(await likelyDoubles(clinic.caller(), fresh(again))).toMatchObject([
      { recordNumber: 'F-1', why: [expect.stringContaining('first name'), 'the same birth date'] }
    ]);
    const before = await clinic.count('patient');
    await expect(enter(again)).rejects.toMatchObject({ code: 'likely-double', status: 409 });
    expect(await clinic.count('patient')).toBe(before);
    await enter(again, { somebodyElse: true });
    expect(await clinic.count('patient')).toBe(before + 1);
    await expect(
      enter({ givenName: 'Quite', familyName: 'Another', recordNumber: 'f 1' }, { somebodyElse: true })
    ).rejects.toMatchObject({ code: 'number-taken' });
  });

  it('is done once for its key, by those who may, and stands in the audit', async () => {
    const key = randomUUID();
    const asked = { givenName: 'Once', familyName: 'Entered', birthDate: '2001-01-01' };
    const made = await Promise.all([1, 2, 3].map(() => enter(asked, {}, key)));
    expect(new Set(made.map(({ patientId }) => patientId)).size).toBe(1);
    const { rows } = await clinic.owner.query(
      `select who from audit_line where act = 'patient entered' and patient_id = $1`,
      [made[0].patientId]
    );
    expect(rows).toHaveLength(1);
    await expect(
      enterPatient(
        clinic.caller('administrator'),
        randomUUID(),
        enterWish.parse({ patient: { kind: 'person', ...asked } })
      )
    ).rejects.toMatchObject({ status: 403 });
  });
});

describe('finding', () => {
  it('tells why somebody fits, and keeps words like wildcards what they are', async () => {
    await enter({
      givenName: 'Margaret',
      familyName: 'Ravn_holt',
      birthDate: '1960-02-01',
      recordNumber: 'G-1'
    });
    const [found] = await findPatients(clinic.caller(), 'meg 1.2.60');
    expect(found).toMatchObject({ recordNumber: 'G-1', why: ['meg for Margaret', 'birth date'] });
    expect(await numbers('ravn holt')).toEqual(['G-1']);
    expect(await numbers('r%t')).toEqual([]);
    expect(await numbers("ravn' or true --")).toEqual([]);
    expect(await numbers('m')).toEqual([]);
  });

  it('can use its index, so that many patients cost no more than few', async () => {
    await clinic.owner.query(
      `insert into patient (patient_id, clinic_id, kind, family_name, given_name, sex, record_number)
       select gen_random_uuid(), $1, 'person', md5(n::text), md5((n * 7)::text), '', 'BULK-' || n from generate_series(1, 20000) n`,
      [clinic.clinicId]
    );
    // Vacuumed too: rows that the index has not taken in yet would make it look dear.
    await clinic.owner.query('vacuum analyze patient');
    await clinic.owner.query('set enable_seqscan = off');
    const { rows } = await clinic.owner.query(
      `explain select * from patient where clinic_id = $1 and (search like '% ravn%')`,
      [clinic.clinicId]
    );
    await clinic.owner.query('reset enable_seqscan');
    expect(rows.map((row) => row['QUERY PLAN']).join('\n')).toContain('patient_by_words');
    expect(await numbers('ravn')).toEqual(['G-1']);
  });

  it('never reaches into another clinic', async () => {
    expect(await findPatients(clinic.stranger, 'ravn')).toEqual([]);
    await expect(
      clinic.inside((tx) =>
        tx.sql('select * from find_patients($1, $2::jsonb, 5)', clinic.otherClinicId, '[["a"]]')
      )
    ).rejects.toThrow(/another clinic/);
  });
});
