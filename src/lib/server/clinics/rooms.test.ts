import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { TestSensor, readyVisit } from '../../../../e2e/harness/testSensor';
import { deviceOf, readyDevice } from '../devices/devices';
import { devicesEnrolled, enrol, register } from '../devices/enrolment';
import { setDevice } from '../devices/settingUp';
import { newId } from '../ids';
import { today } from '../visits/today';
import { openVisit, visitView } from '../visits/visits';
import { addRoom, changeRoom, closeRoom, roomSettings, roomsSeen } from './rooms';
import { settingChanges, takeBackSetting } from './settingChanges';

const clinic = useClinic();
const admin = () => clinic.caller('administrator');
const names = async () => (await roomsSeen(clinic.caller())).map(({ name }) => name);
const plain = { usualPattern: null, opensArmed: false, pedal: {} };
const registered = (code: string, name: string) =>
  register({ code, name, kind: 'intraoral-sensor' }, '10.0.0.9');

describe('a room', () => {
  it('is added behind the others, renamed, and all of that is taken back', async () => {
    const { roomId } = await addRoom(admin(), newId(), { name: 'Attic', trade: 'eyes' });
    expect((await names()).at(-1)).toBe('Attic');
    expect((await roomSettings(admin())).at(-1)).toMatchObject({ roomId, trade: 'eyes', opensArmed: false });
    await changeRoom(admin(), newId(), roomId, { ...plain, name: 'Loft' });
    const [renamed, added] = await settingChanges(admin());
    expect(renamed.words).toBe('Rooms: Loft, its name (Attic → Loft)');
    await takeBackSetting(admin(), newId(), renamed.seq);
    expect((await names()).at(-1)).toBe('Attic');
    await takeBackSetting(admin(), newId(), added.seq);
    expect(await names()).not.toContain('Attic');
  });

  it('has a name of its own, and is set up by administrators alone', async () => {
    const taken = (await names())[0];
    await expect(
      addRoom(admin(), newId(), { name: taken.toUpperCase(), trade: 'teeth' })
    ).rejects.toMatchObject({ code: 'name-taken' });
    const { roomId } = await addRoom(admin(), newId(), { name: 'Second one', trade: 'teeth' });
    await expect(changeRoom(admin(), newId(), roomId, { ...plain, name: taken })).rejects.toMatchObject({
      code: 'name-taken'
    });
    for (const role of ['clinician', 'assistant', 'front-desk'] as const)
      await expect(
        addRoom(clinic.caller(role), newId(), { name: 'Mine', trade: 'teeth' })
      ).rejects.toMatchObject({ status: 403 });
  });

  it('is closed once nothing stands or is planned in it; what was taken there stays', async () => {
    const { roomId } = await addRoom(admin(), newId(), { name: 'Annexe', trade: 'teeth' });
    const { code } = await enrol(admin(), { roomId, replaces: null });
    const { deviceId } = await registered(code, 'Annexe sensor');
    const close = () => closeRoom(admin(), newId(), roomId);
    await expect(close()).rejects.toMatchObject({
      code: 'room-in-use',
      sentence: expect.stringMatching(/devices stand/)
    });
    await setDevice(admin(), newId(), deviceId, { act: 'set', name: 'Annexe sensor', roomId: clinic.roomId });
    const visitId = await openVisit(clinic.caller(), clinic.patientId, roomId);
    await expect(close()).rejects.toMatchObject({ sentence: expect.stringMatching(/visits in it today/) });
    await clinic.owner.query(
      `update visit set opened_at = opened_at - interval '3 days' where visit_id = $1`,
      [visitId]
    );
    await clinic.owner.query(
      `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
       values ($1, $2, $3, $4, now() + interval '2 days', 20, 'check')`,
      [newId(), clinic.clinicId, clinic.patientId, roomId]
    );
    await expect(close()).rejects.toMatchObject({ sentence: expect.stringMatching(/appointments are made/) });
    await clinic.owner.query('delete from appointment where room_id = $1', [roomId]);
    await close();
    expect(await names()).not.toContain('Annexe');
    expect((await visitView(clinic.caller(), visitId)).room).toBe('Annexe');
    await expect(openVisit(clinic.caller(), clinic.patientId, roomId)).rejects.toMatchObject({ status: 404 });
    await expect(enrol(admin(), { roomId, replaces: null })).rejects.toMatchObject({ status: 404 });
    const changes = await settingChanges(admin());
    const [closed] = changes;
    // The device that was moved out is not put back behind a closed door.
    const moved = changes.find(({ words }) => words.startsWith('Devices: Annexe sensor'))!;
    await expect(takeBackSetting(admin(), newId(), moved.seq)).rejects.toMatchObject({ code: 'room-closed' });
    // Its name is free again, and a press brings it back only while nobody has taken it.
    const taken = await addRoom(admin(), newId(), { name: 'annexe', trade: 'eyes' });
    await expect(takeBackSetting(admin(), newId(), closed.seq)).rejects.toMatchObject({
      code: 'setting-in-use'
    });
    await closeRoom(admin(), newId(), taken.roomId);
    await takeBackSetting(admin(), newId(), closed.seq);
    expect(await names()).toContain('Annexe');
    expect((await today(clinic.caller(), undefined)).rooms.map(({ name }) => name)).toContain('Annexe');
  });
});

describe('a device', () => {
  it('is renamed and moved, keeps its token, and no longer waits for what was in its old room', async () => {
    const { visitId, sensor } = await readyVisit(clinic);
    const { trayId } = await clinic.trayOf(visitId);
    await readyDevice(clinic.caller(), sensor.deviceId, trayId);
    const { roomId } = await addRoom(admin(), newId(), { name: 'Next door', trade: 'teeth' });
    await setDevice(admin(), newId(), sensor.deviceId, { act: 'set', name: 'Chair two', roomId });
    expect(await deviceOf(sensor.authorization)).toMatchObject({ name: 'Chair two' });
    const { devices } = await visitView(clinic.caller(), visitId);
    expect(devices.map(({ name }) => name)).not.toContain('Chair two');
    await expect(sensor.instructed()).rejects.toThrow('it was to be armed');
    const [moved] = await settingChanges(admin());
    expect(moved.words).toMatch(/^Devices: Chair two, /);
    await takeBackSetting(admin(), newId(), moved.seq);
    expect(
      (await devicesEnrolled(admin())).find(({ deviceId }) => deviceId === sensor.deviceId)
    ).toMatchObject({
      roomId: clinic.roomId
    });
  });

  it('that is retired is let in no more, until a code for its place brings one back under its name', async () => {
    const sensor = await TestSensor.register(clinic, 'Old one');
    await setDevice(admin(), newId(), sensor.deviceId, { act: 'retire' });
    await expect(deviceOf(sensor.authorization)).rejects.toMatchObject({ status: 401 });
    const seen = (await devicesEnrolled(admin())).find(({ deviceId }) => deviceId === sensor.deviceId)!;
    expect(seen.retiredAt).not.toBeNull();
    await expect(
      setDevice(admin(), newId(), sensor.deviceId, { act: 'set', name: 'Again', roomId: clinic.roomId })
    ).rejects.toMatchObject({ status: 404 });
    // No press takes that back: whoever has the device now may not be who had it.
    expect((await settingChanges(admin()))[0]?.words ?? '').not.toContain('Old one');
    const { code } = await enrol(admin(), { roomId: clinic.roomId, replaces: sensor.deviceId });
    const back = await registered(code, 'Factory name 7');
    expect(back.deviceId).toBe(sensor.deviceId);
    expect(await deviceOf(`Bearer ${back.token}`)).toMatchObject({ name: 'Old one' });
    const visitId = await openVisit(clinic.caller(), clinic.patientId, clinic.roomId);
    expect((await visitView(clinic.caller(), visitId)).devices.map(({ name }) => name)).toContain('Old one');
  });

  it('of the name of one that was retired takes its row, and of one in use is refused', async () => {
    const sensor = await TestSensor.register(clinic, 'Same name');
    await expect(registered(await clinic.newCode(), 'Same name')).rejects.toMatchObject({
      code: 'name-taken'
    });
    await setDevice(admin(), newId(), sensor.deviceId, { act: 'retire' });
    expect((await registered(await clinic.newCode(), 'Same name')).deviceId).toBe(sensor.deviceId);
    const other = await TestSensor.register(clinic, 'Another name');
    await expect(
      setDevice(admin(), newId(), other.deviceId, { act: 'set', name: 'Same name', roomId: clinic.roomId })
    ).rejects.toMatchObject({ code: 'name-taken' });
    await expect(
      setDevice(clinic.caller(), newId(), other.deviceId, { act: 'retire' })
    ).rejects.toMatchObject({ status: 403 });
  });
});
