import sharp from 'sharp';
import { beforeEach, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { seededRandom } from '../../core/random';
import { checkAudit } from '../audit/check';
import { newId } from '../ids';
import { followLink } from '../practice/launching';
import { findPatients } from './finding';
import { joinCharts, partCharts } from './joining';
import { enterPatient } from './newPatient';
import { chart } from './patients';
import { openVisit, visitView } from './visits';

const clinic = useClinic();
let counter = 0;
let [kept, gone] = ['', ''];
const png = (grey: number) =>
  sharp(Buffer.alloc(60 * 40, grey), { raw: { width: 60, height: 40, channels: 1 } })
    .png()
    .toBuffer();

beforeEach(async () => {
  counter += 1;
  kept = await clinic.newPatient('Marlow', 'Ines', `KEPT-${counter}`);
  gone = await clinic.newPatient('Marlow-Tarn', 'Inez', `GONE-${counter}`);
});

const why = { reason: 'Entered twice' };
const join = () => joinCharts(clinic.caller(), kept, newId(), { otherId: gone, ...why });
/** Whose each visit, picture and appointment is. */
async function whose(): Promise<Record<string, string>> {
  const { rows } = await clinic.owner.query<{ id: string; whose: string }>(
    `select 'visit ' || visit_id as id, patient_id as whose from visit
     union all select 'picture ' || picture_id, patient_id from picture
     union all select 'appointment ' || appointment_id, patient_id from appointment
     union all select 'identifier ' || value, patient_id from identifier order by 1`
  );
  return Object.fromEntries(rows.map(({ id, whose: patientId }) => [id, patientId]));
}

/** Whose the pictures of a visit are, picture by picture. */
async function patientsOfPictures(visitId: string): Promise<string[]> {
  const { rows } = await clinic.owner.query<{ patient_id: string }>(
    'select patient_id from picture where visit_id = $1',
    [visitId]
  );
  return rows.map((row) => row.patient_id);
}

describe('two charts that are one patient', () => {
  it('are one chart from then on, found by either name and number', async () => {
    const mine = await clinic.newVisit(kept);
    const theirs = await clinic.newVisit(gone);
    const picture = await clinic.bring(theirs, 'a.png', await png(20));
    await join();
    const seen = await chart(clinic.caller(), kept);
    expect(seen.visits.map(({ visitId }) => visitId).sort()).toEqual([mine, theirs].sort());
    expect(seen.pictures.map(({ pictureId }) => pictureId)).toEqual([picture]);
    expect(seen.joins).toMatchObject([
      {
        gone: { recordNumber: `GONE-${counter}` },
        by: 'The clinician',
        reason: 'Entered twice',
        parted: null
      }
    ]);
    expect((await visitView(clinic.caller(), theirs)).patient.recordNumber).toBe(`KEPT-${counter}`);
    for (const words of [`GONE-${counter}`, `KEPT-${counter}`]) {
      const found = await findPatients(clinic.caller(), words);
      expect(found.map(({ patientId }) => patientId)).toEqual([kept]);
    }
    const [byFormer] = await findPatients(clinic.caller(), `GONE-${counter}`);
    expect(byFormer.why.join()).toContain('also Inez Marlow-Tarn');
  });

  it('open as the one that stays, by an old address, link or appointment', async () => {
    await clinic.owner.query('insert into identifier values ($1, $2, $3, $4)', [
      clinic.clinicId,
      'urn:x',
      `N-${counter}`,
      gone
    ]);
    await join();
    expect((await chart(clinic.caller(), gone)).patient.patientId).toBe(kept);
    expect(
      await followLink(clinic.caller(), {
        identifier: `urn:x|N-${counter}`,
        name: '',
        birthDate: '1971-02-03'
      })
    ).toEqual({ kind: 'open', to: `/patients/${kept}` });
    const visit = await openVisit(clinic.caller(), gone, clinic.roomId);
    expect((await visitView(clinic.caller(), visit)).patient.patientId).toBe(kept);
    const fresh = {
      kind: 'person' as const,
      givenName: 'Somebody',
      familyName: 'Else',
      birthDate: '2001-01-01',
      sex: '' as const,
      recordNumber: `GONE-${counter}`,
      nationalNumber: '',
      species: null,
      breed: null,
      owner: null,
      alert: null
    };
    await expect(
      enterPatient(clinic.caller(), newId(), { patient: fresh, somebodyElse: true })
    ).rejects.toThrow(`Ines Marlow (KEPT-${counter}) has this number already`);
  });

  it('are parted to exactly what they were; what was made since stays', async () => {
    const random = seededRandom(12);
    for (const patientId of [kept, gone, gone]) {
      const visitId = await clinic.newVisit(patientId);
      for (let i = 0; i < 1 + 3 * random.uniform(); i++)
        await clinic.bring(visitId, `${i}.png`, await png(Math.floor(1 + 250 * random.uniform())));
      await clinic.owner.query(
        `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
         values ($1, $2, $3, $4, now(), 30, 'Check-up')`,
        [newId(), clinic.clinicId, patientId, clinic.roomId]
      );
    }
    const before = await whose();
    const { joinId } = await join();
    const during = await whose();
    expect(Object.values(during)).not.toContain(gone);
    const since = await clinic.newVisit(kept);
    const { patientId } = await partCharts(clinic.caller(), joinId, newId(), { reason: 'Cousins' });
    expect(patientId).toBe(gone);
    expect(await whose()).toEqual({ ...before, [`visit ${since}`]: kept });
    for (const each of [kept, gone])
      expect((await chart(clinic.caller(), each)).joins).toMatchObject([
        { parted: { by: 'The clinician', reason: 'Cousins' } }
      ]);
    expect((await findPatients(clinic.caller(), `GONE-${counter}`)).map((each) => each.patientId)).toEqual([
      gone
    ]);
    await expect(partCharts(clinic.caller(), joinId, newId(), { reason: 'again' })).rejects.toThrow(
      'parted already'
    );
    expect(await clinic.inside(checkAudit)).toMatchObject({ wrong: [] });
  });

  it('show what may harm either, and give it back when they are parted', async () => {
    const alert = (patientId: string, words: string) =>
      clinic.owner.query('update patient set alert = $2 where patient_id = $1', [patientId, words]);
    await alert(kept, 'Pacemaker');
    await alert(gone, 'Latex allergy');
    const { joinId } = await join();
    expect((await chart(clinic.caller(), kept)).patient.alert).toBe('Pacemaker; Latex allergy');
    await partCharts(clinic.caller(), joinId, newId(), why);
    expect((await chart(clinic.caller(), kept)).patient.alert).toBe('Pacemaker');
    expect((await chart(clinic.caller(), gone)).patient.alert).toBe('Latex allergy');
  });

  it('lose nothing of what comes in while they are joined', async () => {
    const visitId = await clinic.newVisit(gone);
    const files = await Promise.all(Array.from({ length: 12 }, (_, i) => png(i * 20 + 1)));
    const coming = files.map((file, i) => clinic.bring(visitId, `${i}.png`, file));
    const joined = new Promise((done) => setTimeout(done, 15)).then(join);
    const [pictures] = await Promise.all([Promise.all(coming), joined]);
    expect(await patientsOfPictures(visitId)).toEqual(pictures.map(() => kept));
  });

  it('wait for a picture that is being stored, which never waits for them', async () => {
    const visitId = await clinic.newVisit(gone);
    const joining = await clinic.inside(async (tx) => {
      await tx.sql('select 1 from visit where visit_id = $1 for key share', visitId);
      // What a picture that is being stored holds once it knows whose it is; the other half comes when it is written.
      const asked = join();
      await clinic.untilSomebodyWaits();
      await tx.sql('select 1 from patient where patient_id = $1 for key share', gone);
      return { asked };
    });
    await joining.asked;
    expect((await visitView(clinic.caller(), visitId)).patient.patientId).toBe(kept);
  });
});

describe('charts that can’t be joined', () => {
  it('are one and the same, a person and an animal, or joined already', async () => {
    const [same, third, animal] = [kept, await clinic.newPatient('Third', 'One', `T-${counter}`), newId()];
    await clinic.owner.query(
      `insert into patient (patient_id, clinic_id, kind, family_name, given_name, sex, record_number, species)
       values ($1, $2, 'animal', '', 'Bracken', '', $3, 'dog')`,
      [animal, clinic.clinicId, `A-${counter}`]
    );
    const joining = (into: string, otherId: string) =>
      joinCharts(clinic.caller(), into, newId(), { otherId, ...why });
    await expect(joining(kept, same)).rejects.toThrow('same chart');
    await expect(joining(kept, animal)).rejects.toThrow('an animal');
    await join();
    await expect(joining(third, gone)).rejects.toThrow('lies in another one already');
    await expect(joining(gone, third)).rejects.toThrow('lies in another one already');
    await expect(joining(third, kept)).rejects.toThrow('Another chart was joined into');
    await expect(joining(kept, newId())).rejects.toThrow(/This patient/);
  });

  it('are another clinic’s, or asked for by who may not', async () => {
    await expect(joinCharts(clinic.stranger, kept, newId(), { otherId: gone, ...why })).rejects.toThrow();
    await expect(
      joinCharts(clinic.caller('assistant'), kept, newId(), { otherId: gone, ...why })
    ).rejects.toThrow();
    expect((await chart(clinic.caller(), gone)).patient.patientId).toBe(gone);
  });

  it('are joined once, when two ask at the same moment', async () => {
    const asked = await Promise.allSettled([join(), join()]);
    expect(asked.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const crossed = [
      await clinic.newPatient('X', 'A', `X-${counter}`),
      await clinic.newPatient('X', 'B', `Y-${counter}`)
    ];
    const both = await Promise.allSettled([
      joinCharts(clinic.caller(), crossed[0], newId(), { otherId: crossed[1], ...why }),
      joinCharts(clinic.caller(), crossed[1], newId(), { otherId: crossed[0], ...why })
    ]);
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  });
});
