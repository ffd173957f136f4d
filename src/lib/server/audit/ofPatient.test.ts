import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { isToldOfPatients } from '../../core/people/recordWords';
import { newId } from '../ids';
import { chart } from '../visits/patients';
import { recordOfPatient } from './ofPatient';
import { auditActs, writeAudit } from './write';

const clinic = useClinic();
const clinician = () => clinic.caller('clinician');
const lines = async () => (await recordOfPatient(clinician(), clinic.patientId, null)).lines;

describe('the record of a patient', () => {
  it('tells who saw and changed it in words, the newest first, and that itself was read', async () => {
    await chart(clinic.caller('assistant'), clinic.patientId);
    await clinic.inside((tx) =>
      writeAudit(tx, clinic.caller('assistant'), 'paper brought in', newId(), { patientId: clinic.patientId })
    );
    const told = (await lines()).map(({ who, words }) => `${who} ${words}`);
    expect(told).toContain('The assistant looked at the chart');
    expect(told).toContain('The assistant brought a paper in');
    const again = await lines();
    expect(again[0]).toMatchObject({
      who: 'The clinician',
      words: 'looked at the chart',
      more: 'part its record'
    });
    expect(again.map(({ seq }) => seq)).toEqual(again.map(({ seq }) => seq).toSorted((a, b) => b - a));
  });
  it('holds nothing of another patient', async () => {
    const other = await clinic.owner.query<{ patient_id: string }>(
      `insert into patient (patient_id, clinic_id, kind, family_name, given_name, sex, record_number)
       values ($1, $2, 'person', 'Else', 'Somebody', '', 'ELSE-1') returning patient_id`,
      [newId(), clinic.clinicId]
    );
    await clinic.inside((tx) =>
      writeAudit(tx, clinic.caller('assistant'), 'story written', newId(), {
        patientId: other.rows[0].patient_id
      })
    );
    expect((await lines()).some(({ words }) => words === 'wrote in the story')).toBe(false);
  });
  it('is for clinicians and administrators, of this clinic', async () => {
    await expect(recordOfPatient(clinic.caller('assistant'), clinic.patientId, null)).rejects.toMatchObject({
      status: 403
    });
    await expect(recordOfPatient(clinic.caller('front-desk'), clinic.patientId, null)).rejects.toMatchObject({
      status: 403
    });
    await expect(recordOfPatient(clinic.stranger, clinic.patientId, null)).rejects.toMatchObject({
      status: 404
    });
  });
  it('has words for every act that can be about a patient', () => {
    const ofOthers = [
      'signed in',
      'sign-in failed',
      'signed out',
      'arrived',
      'arrival put away',
      'arrivals sent back',
      'arrivals sorted',
      'arrival removed',
      'intake begun',
      'intake ended',
      'mail refused',
      'caller refused',
      'phone paired',
      'phone pairing ended',
      'pattern kept',
      'categories changed',
      'setting changed',
      'device enrolled',
      'device registered',
      'device retired'
    ];
    expect(auditActs.filter((act) => !isToldOfPatients(act) && !ofOthers.includes(act))).toEqual([]);
  });
});
