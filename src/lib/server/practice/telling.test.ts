import http from 'node:http';
import type { AddressInfo } from 'node:net';
import sharp from 'sharp';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import type { StudyInstance } from '../../core/fhir/imagingStudy';
import { newId } from '../ids';
import { visitView } from '../visits/visits';
import { oweTelling, oweTellingOf, tellPractice } from './telling';

const clinic = useClinic();
const issuer = 'urn:test:records';
let server: http.Server;
let status = 200;
let told: { path: string; body: Record<string, unknown> }[] = [];
/** Done while the practice system is being told. */
let meanwhile: () => Promise<void> = async () => {};

beforeAll(async () => {
  server = http.createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on('data', (chunk: Buffer) => chunks.push(chunk));
    request.on('end', () => {
      void meanwhile().then(() => {
        if (status === 200)
          told.push({
            path: `${request.method} ${request.url}`,
            body: JSON.parse(Buffer.concat(chunks).toString()) as Record<string, unknown>
          });
        response.writeHead(status).end('{}');
      });
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  await clinic.owner.query('insert into practice_system (clinic_id, name, url) values ($1, $2, $3)', [
    clinic.clinicId,
    'Desk',
    `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  ]);
  await clinic.setDestination('http://archive.test');
});
afterAll(() => server.close());
beforeEach(() => {
  [status, told, meanwhile] = [200, [], async () => {}];
});

let number = 0;
/** A picture of a visit that has come to the archive. */
async function delivered(visitId: string, identity = 'identified'): Promise<StudyInstance> {
  const grey = Buffer.alloc(40 * 30, ++number);
  const png = await sharp(grey, { raw: { width: 40, height: 30, channels: 1 } })
    .png()
    .toBuffer();
  const pictureId = await clinic.bring(visitId, `${number}.png`, png);
  const sent: StudyInstance = {
    studyUid: '1.2.3',
    seriesUid: '1.2.3.1',
    instanceUid: `1.2.3.1.${number}`,
    sopClass: '1.2.840.10008.5.1.4.1.1.77.1.4',
    modality: 'XC'
  };
  const parcelId = newId();
  await clinic.owner.query(
    `insert into parcel (parcel_id, clinic_id, visit_id, destination_id, identity, made_by, key) values ($1, $2, $3, $4, $5, $6, $7)`,
    [parcelId, clinic.clinicId, visitId, clinic.destinationId, identity, clinic.caller().userId, parcelId]
  );
  await clinic.owner.query(
    `insert into delivery (delivery_id, clinic_id, parcel_id, picture_id, state, sent_instance_uid, sent_study_uid, sent, delivered_at)
     values ($1, $2, $3, $4, 'delivered', $5, $6, $7, now())`,
    [newId(), clinic.clinicId, parcelId, pictureId, sent.instanceUid, sent.studyUid, JSON.stringify(sent)]
  );
  if (identity === 'identified') await clinic.inside((tx) => oweTelling(tx, visitId));
  return sent;
}
const known = (value: string) =>
  clinic.owner.query('insert into identifier values ($1, $2, $3, $4) on conflict do nothing', [
    clinic.clinicId,
    issuer,
    value,
    clinic.patientId
  ]);
const seen = async (visitId: string) => (await visitView(clinic.caller(), visitId)).told;

describe('a practice system is told what lies in the archive', () => {
  it('is told nothing of a patient whom it knows by no number, and that is said', async () => {
    const visitId = await clinic.newVisit();
    await delivered(visitId);
    await tellPractice(clinic.clinicId);
    expect(told).toEqual([]);
    expect(await seen(visitId)).toMatchObject({ due: false, toldAt: null });
    expect((await seen(visitId))!.problem).toContain('does not know this patient');
    // The day's list names the patient at last.
    await known('REC-77');
    await clinic.inside((tx) => oweTellingOf(tx, clinic.patientId));
    await tellPractice(clinic.clinicId);
    expect(told).toHaveLength(1);
    expect(await seen(visitId)).toMatchObject({ due: false, instances: 1, problem: '' });
  });

  it('once for a study, under one number, and again with more when more came; never what has no name', async () => {
    await known('REC-77');
    const visitId = await clinic.newVisit();
    const first = await delivered(visitId);
    await delivered(visitId, 'deidentified');
    await tellPractice(clinic.clinicId);
    await tellPractice(clinic.clinicId);
    expect(told.map(({ path }) => path)).toEqual([`PUT /ImagingStudy/${first.studyUid}`]);
    expect(told[0].body).toMatchObject({
      subject: { identifier: { system: issuer, value: 'REC-77' } },
      numberOfInstances: 1,
      series: [{ instance: [{ uid: first.instanceUid }] }]
    });
    expect(await seen(visitId)).toMatchObject({ due: false, instances: 1, problem: '' });
    await delivered(visitId);
    await tellPractice(clinic.clinicId);
    expect(told).toHaveLength(2);
    expect(told[1]).toMatchObject({ path: told[0].path, body: { numberOfInstances: 2 } });
  });

  it('asks one that does not answer once a round, and lets what was asked go behind the others', async () => {
    await known('REC-77');
    const visits = [await clinic.newVisit(), await clinic.newVisit()];
    for (const visitId of visits) await delivered(visitId);
    let asked = 0;
    meanwhile = async () => void (asked += 1);
    status = 500;
    const problems = async () => {
      await tellPractice(clinic.clinicId);
      return (await Promise.all(visits.map(seen))).map((each) => each!.problem !== '');
    };
    expect(await problems()).toEqual([true, false]);
    expect(await problems()).toEqual([true, true]);
    expect(asked).toBe(2);
    status = 200;
    await tellPractice(clinic.clinicId);
    for (const visitId of visits) expect(await seen(visitId)).toMatchObject({ due: false, problem: '' });
  });

  it('again and again while it is away, in words', async () => {
    await known('REC-77');
    const visitId = await clinic.newVisit();
    await delivered(visitId);
    status = 503;
    await tellPractice(clinic.clinicId);
    expect(await seen(visitId)).toMatchObject({
      due: true,
      toldAt: null,
      problem: 'It answered with the error 503.'
    });
    status = 200;
    await tellPractice(clinic.clinicId);
    expect(await seen(visitId)).toMatchObject({ due: false, problem: '', instances: 1 });
  });

  it('stays owed what came to the archive while it was being told', async () => {
    await known('REC-77');
    const visitId = await clinic.newVisit();
    await delivered(visitId);
    meanwhile = async () => {
      meanwhile = async () => {};
      await delivered(visitId);
    };
    await tellPractice(clinic.clinicId);
    expect(await seen(visitId)).toMatchObject({ due: true, instances: 1 });
    await tellPractice(clinic.clinicId);
    expect(await seen(visitId)).toMatchObject({ due: false, instances: 2 });
  });
});
