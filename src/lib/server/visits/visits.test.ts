import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { newId } from '../ids';
import { chart, findPatients } from './patients';
import { today } from './today';
import { openAppointment, openVisit, visitView } from './visits';

const clinic = useClinic();

async function patient(given: string, family: string, more: Record<string, string> = {}): Promise<string> {
  const id = newId();
  await clinic.owner.query(
    `insert into patient (patient_id, clinic_id, kind, family_name, given_name, birth_date, sex, record_number, species, owner)
     values ($1, $2, $3, $4, $5, $6, '', $7, $8, $9)`,
    [
      id,
      clinic.clinicId,
      more.species ? 'animal' : 'person',
      family,
      given,
      more.birth ?? null,
      more.record ?? `R-${id.slice(-6)}`,
      more.species ?? null,
      more.owner ?? null
    ]
  );
  return id;
}

async function appointment(patientId: string, at: Date): Promise<string> {
  const id = newId();
  await clinic.owner.query(
    `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
     values ($1, $2, $3, $4, $5, 30, 'Check-up')`,
    [id, clinic.clinicId, patientId, clinic.roomId, at]
  );
  return id;
}

describe('finding a patient', () => {
  it('takes no notice of case, accents and the order of names', async () => {
    await patient('Zoë', 'Ødegård-Lühr', { record: 'Z-900', birth: '1990-02-03' });
    for (const words of ['zoe', 'LUHR zoë', 'ødegård', 'z-900', '1990-02-03', 'zo luhr'])
      expect(
        (await findPatients(clinic.caller(), words)).map((each) => each.recordNumber),
        words
      ).toContain('Z-900');
    expect(await findPatients(clinic.caller(), 'zoe 1991')).toEqual([]);
  });
  it('puts a person before the animals they own', async () => {
    await patient('Bracken', '', { species: 'dog', owner: 'Tilda Quarrel', record: 'A-1' });
    await patient('Tilda', 'Quarrel', { record: 'P-1' });
    expect((await findPatients(clinic.caller(), 'tilda quarrel')).map((each) => each.recordNumber)).toEqual([
      'P-1',
      'A-1'
    ]);
  });
  it('finds nobody for no words, and nobody of another clinic', async () => {
    expect(await findPatients(clinic.caller(), '   ')).toEqual([]);
    expect(await findPatients(clinic.stranger, 'tilda')).toEqual([]);
  });
});

describe('a visit', () => {
  it('of an appointment is opened once, however often it is asked for', async () => {
    const id = await appointment(await patient('Once', 'Only'), new Date());
    const opened = await Promise.all([1, 2, 3].map(() => openAppointment(clinic.caller(), id)));
    expect(new Set(opened).size).toBe(1);
  });
  it('in a room of teeth begins with four bitewings laid', async () => {
    const visitId = await openVisit(clinic.caller(), await patient('New', 'Comer'), clinic.roomId);
    const { tray, patient: band } = await visitView(clinic.caller(), visitId);
    expect([tray.pattern, tray.route.length, tray.present]).toEqual(['Four bitewings', 4, tray.route[0]]);
    expect(band.name).toBe('New Comer');
  });
  it('without an appointment is the one that is open today already', async () => {
    const id = await patient('Twice', 'Today');
    const [one, two] = [
      await openVisit(clinic.caller(), id, clinic.roomId),
      await openVisit(clinic.caller(), id, clinic.roomId)
    ];
    expect(two).toBe(one);
    const yesterday = await openVisit(clinic.caller(), id, clinic.roomId, new Date(Date.now() - 86_400_000));
    expect(yesterday).not.toBe(one);
  });
  it('of nobody, in no room, or for an address that is no number, is refused in words', async () => {
    await expect(openVisit(clinic.caller(), newId(), clinic.roomId)).rejects.toMatchObject({
      code: 'not-found'
    });
    const id = await patient('No', 'Room');
    await expect(openVisit(clinic.caller(), id, newId())).rejects.toMatchObject({ code: 'not-found' });
    await expect(visitView(clinic.caller(), 'rubbish')).rejects.toMatchObject({ code: 'not-found' });
    await expect(openVisit(clinic.caller('front-desk'), id, clinic.roomId)).rejects.toMatchObject({
      code: 'not-allowed'
    });
  });
});

describe('today', () => {
  it('has the day’s appointments by room with what is left of each, and not yesterday’s', async () => {
    const [first, second, other] = [
      await patient('A', 'A'),
      await patient('B', 'B'),
      await patient('C', 'C')
    ];
    const now = new Date();
    const noon = new Date(now);
    noon.setHours(12, 0, 0, 0);
    const opened = await appointment(first, noon);
    await appointment(second, noon);
    await appointment(other, new Date(noon.getTime() - 86_400_000));
    await openAppointment(clinic.caller(), opened);
    const view = await today(clinic.caller(), now);
    const of = (id: string) => view.appointments.find((each) => each.patient.patientId === id);
    expect(of(first)).toMatchObject({ empty: 4, taken: 0, toConfirm: 0, visitId: expect.any(String) });
    expect(of(second)).toMatchObject({ visitId: null });
    expect(of(other)).toBeUndefined();
    expect(view.rooms.map((room) => room.name)).toEqual(['Teeth']);
  });
  it('shows a clinic only its own', async () => {
    expect((await today(clinic.stranger, new Date())).appointments).toEqual([]);
  });
});

describe('a chart', () => {
  it('lists visits newest first and is noted in the audit', async () => {
    const id = await patient('Charted', 'One');
    for (const days of [40, 5, 300])
      await openVisit(clinic.caller(), id, clinic.roomId, new Date(Date.now() - days * 86_400_000));
    const before = await clinic.count(`audit_line where act = 'chart viewed'`);
    const { visits } = await chart(clinic.caller(), id);
    const days = visits.map((visit) =>
      Math.round((Date.now() - new Date(visit.openedAt).getTime()) / 86_400_000)
    );
    expect(days).toEqual([5, 40, 300]);
    expect(await clinic.count(`audit_line where act = 'chart viewed'`)).toBe(before + 1);
  });
});
