import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { TestSensor } from '../../../../e2e/harness/testSensor';
import { fullMouth } from '../../core/tray/shipped/fullMouth';
import { twoBitewings } from '../../core/tray/shipped/bitewings';
import { changeRoom, roomSettings, roomWish } from '../clinics/rooms';
import { inClinic, within } from '../database/connection';
import { newId } from '../ids';
import type { Role } from '../people/roles';
import { Appointment } from './appointmentModel';
import { openAppointment, visitView } from './visits';

const clinic = useClinic();
const settle = (asked: object) =>
  changeRoom(
    clinic.caller('administrator'),
    randomUUID(),
    clinic.roomId,
    roomWish.parse({ name: 'Teeth', usualPattern: null, opensArmed: false, pedal: {}, ...asked })
  );
async function opened(reason: string, role: Role = 'assistant') {
  const appointmentId = newId();
  await inClinic(clinic.clinicId, (tx) =>
    Appointment.create(
      {
        appointmentId,
        clinicId: clinic.clinicId,
        patientId: clinic.patientId,
        roomId: clinic.roomId,
        startsAt: new Date(),
        minutes: 30,
        reason
      },
      within(tx)
    )
  );
  return visitView(clinic.caller(role), await openAppointment(clinic.caller(role), appointmentId));
}

describe('a visit that begins', () => {
  it('has the pattern that its reason names, else the room’s usual one', async () => {
    expect((await opened('Check-up, two bitewings')).trays[0].tray.laid?.name).toBe('Two bitewings');
    await settle({ usualPattern: fullMouth.pattern.ref.id });
    expect((await opened('Sore')).trays[0].tray.laid?.name).toBe('Full mouth');
    expect((await opened('Two bitewings')).trays[0].tray.laid?.name).toBe('Two bitewings');
    await settle({});
    expect((await opened('Sore')).trays[0].tray.laid?.name).toBe('Four bitewings');
  });

  it('gets its device ready where the room wants it, for those who take pictures, and never one that waits elsewhere', async () => {
    const sensor = await TestSensor.register(clinic);
    await settle({ opensArmed: true });
    const armedFor = async () =>
      (
        await clinic.owner.query(
          'select t.visit_id from device d join arming a using (arming_id) join tray t using (tray_id) where d.device_id = $1',
          [sensor.deviceId]
        )
      ).rows[0]?.visit_id ?? null;
    await opened('Sore', 'front-desk');
    expect(await armedFor()).toBeNull();
    const { visitId } = await opened('Sore');
    expect(await armedFor()).toBe(visitId);
    await opened('Sore');
    expect(await armedFor()).toBe(visitId);
  });
});

describe('a room', () => {
  it('keeps what its pedal does, one key one thing, and only for an administrator', async () => {
    await settle({ pedal: { ready: 'F7', anchor: 'F8' } });
    const [room] = await roomSettings(clinic.caller());
    expect(room.pedal).toEqual({ ready: 'F7', anchor: 'F8' });
    expect(
      roomWish.safeParse({
        name: 'Teeth',
        usualPattern: null,
        opensArmed: false,
        pedal: { ready: 'x', anchor: 'x' }
      }).success
    ).toBe(false);
    expect(
      roomWish.safeParse({ name: 'Teeth', usualPattern: null, opensArmed: false, pedal: { ready: 'Tab' } })
        .success
    ).toBe(false);
    await expect(settle({ usualPattern: newId() })).rejects.toMatchObject({ status: 404 });
    await expect(
      changeRoom(clinic.caller('clinician'), randomUUID(), clinic.roomId, {
        name: 'Teeth',
        usualPattern: twoBitewings.pattern.ref.id,
        opensArmed: false,
        pedal: {}
      })
    ).rejects.toMatchObject({ status: 403 });
  });
});
