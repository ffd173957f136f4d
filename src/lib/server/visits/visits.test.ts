import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { newId } from '../ids';
import { toothPlaces } from '../../core/anatomy/place';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import { sequelize } from '../database/connection';
import { linkToPlaces } from '../pictures/links';
import { noteStandings } from '../trays/trays';
import { findPatients } from './finding';
import { everyPicture } from '../../core/picture/pictureSearch';
import { chart, chartPictures } from './patients';
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
    const { trays, patient: band } = await visitView(clinic.caller(), visitId);
    const [{ tray }] = trays;
    expect(trays).toHaveLength(1);
    expect([tray.laid?.name, tray.route.length, tray.present]).toEqual(['Four bitewings', 4, tray.route[0]]);
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
  it('is the clinic’s day, by room, with what is left of each; other days can be asked for', async () => {
    const [first, second, other] = [
      await patient('A', 'A'),
      await patient('B', 'B'),
      await patient('C', 'C')
    ];
    // Nine in the evening there is already tomorrow, twelve hours ahead.
    const now = new Date('2026-07-01T21:00:00Z');
    const at = (iso: string) => new Date(iso);
    const opened = await appointment(first, at('2026-07-01T12:00:00Z'));
    await appointment(second, at('2026-07-02T11:59:00Z'));
    await appointment(other, at('2026-07-01T11:59:00Z'));
    await openAppointment(clinic.caller(), opened);
    const view = await today(clinic.caller(), null, now);
    const of = (seen: Awaited<ReturnType<typeof today>>, id: string) =>
      seen.appointments.find((each) => each.patient.patientId === id);
    expect([view.day, view.now]).toEqual(['2026-07-02', '2026-07-02']);
    expect(of(view, first)).toMatchObject({ empty: 4, taken: 0, toConfirm: 0, visitId: expect.any(String) });
    expect(of(view, second)).toMatchObject({ visitId: null });
    expect(of(view, other)).toBeUndefined();
    expect(view.rooms.map((room) => room.name)).toEqual(['Teeth']);
    const before = await today(clinic.caller(), '2026-07-01', now);
    expect(of(before, other)).toBeDefined();
    expect(before.now).toBe('2026-07-02');
  });
  it('shows a clinic only its own', async () => {
    expect((await today(clinic.stranger)).appointments).toEqual([]);
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

  it('of 120 visits with a picture each takes a handful of questions, pages through all, counts all', async () => {
    const id = await patient('Long', 'History');
    const pictures = 120;
    await clinic.owner.query(
      `create table made as select n, gen_random_uuid() as visit_id, gen_random_uuid() as tray_id, gen_random_uuid() as picture_id
       from generate_series(1, ${pictures}) n`
    );
    const { clinicId, roomId } = clinic;
    const { pattern, route } = fourBitewings;
    await clinic.owner.query(`
      insert into blob (clinic_id, sha256, size, place) values ('${clinicId}', 'x', 2, 'kept');
      insert into visit select visit_id, '${clinicId}', '${id}', '${roomId}', now() - n * interval '1 day', 'u' || n, 's' || n, 'a' || n from made;
      insert into tray (tray_id, clinic_id, visit_id, number, standing_seq) select tray_id, '${clinicId}', visit_id, 1, 0 from made;
      insert into tray_event (tray_id, seq, clinic_id, kind, version, body, caused_by)
        select tray_id, 1, '${clinicId}'::uuid, 'tray-laid', 2, '${JSON.stringify({ pattern: pattern.ref, route: route.ref })}'::jsonb, 'x' from made
        union all select tray_id, 2, '${clinicId}'::uuid, 'take-added', 1,
          jsonb_build_object('takeId', picture_id, 'slotId', 'bw-right-molars', 'exposed', true), 'x' from made;
      insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
          width, height, channels, bits_stored, sample_offset, facts, first_look, taken_at, instance_uid, number)
        select picture_id, '${clinicId}', '${id}', visit_id, 'x', 'application/vnd.yonder-tray.samples', '', 'device', 'radiograph',
          1, 1, 1, 16, 0, '{"version": 2, "from": "S"}', '{"steps": []}', now() - n * interval '1 day', 'i' || n, 1 from made;
      drop table made`);
    await clinic.inside(noteStandings);
    const asked: string[] = [];
    const { options } = sequelize() as unknown as { options: { logging: false | ((text: string) => void) } };
    options.logging = (text) => asked.push(text);
    const first = await chart(clinic.caller(), id).finally(() => (options.logging = false));
    expect(asked.length).toBeLessThan(24);
    expect(first.visits).toHaveLength(pictures);
    expect(first.pictures).toHaveLength(60);
    expect(first.pictures[0].slot?.name).toBe('Right molars');
    expect(first.counts).toEqual(
      Object.fromEntries([16, 17, 18, 46, 47, 48].map((tooth) => [`tooth:${tooth}`, pictures]))
    );
    expect(first.maps).toEqual(['teeth']);
    const second = await chartPictures(clinic.caller(), id, everyPicture, first.older!);
    expect(second.older).toBeNull();
    const ids = [...first.pictures, ...second.pictures].map((picture) => picture.pictureId);
    expect(new Set(ids).size).toBe(pictures);
    // A link takes the place of what its slot shows.
    await linkToPlaces(clinic.caller(), newId(), {
      links: [{ pictureId: ids[0], places: toothPlaces([11]) }]
    });
    const { counts } = await chart(clinic.caller(), id);
    expect([counts['tooth:11'], counts['tooth:16']]).toEqual([1, pictures - 1]);
  });

  it('shows no tooth map to a broken wrist', async () => {
    const id = await patient('Broken', 'Wrist');
    const bones = newId();
    await clinic.owner.query(`insert into room values ($1, $2, 'Bones', 'bones', 1)`, [
      bones,
      clinic.clinicId
    ]);
    await openVisit(clinic.caller(), id, bones);
    expect((await chart(clinic.caller(), id)).maps).toEqual(['bones']);
  });
});
