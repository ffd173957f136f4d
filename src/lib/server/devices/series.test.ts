import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { TestSensor, readyVisit } from '../../../../e2e/harness/testSensor';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import { panoramicView } from '../../core/tray/shipped/mouths';
import { visitView } from '../visits/visits';
import { keepPattern } from '../trays/ownPatterns';
import { trayWish, wishOfTray } from '../trays/wishes';
import { readyDevice } from './devices';

const clinic = useClinic();
const caller = () => clinic.caller('assistant');
const view = async (visitId: string, deviceId: string) =>
  (await visitView(caller(), visitId)).devices.find((each) => each.deviceId === deviceId)!;

describe('a series that wants two devices', () => {
  it('goes from one to the other by itself, and rests the first', async () => {
    const { visitId, trayId, sensor } = await readyVisit(clinic);
    const panel = await TestSensor.register(clinic, 'Panel for wide views', 'panel');
    const [bitewing] = fourBitewings.pattern.slots;
    const [wide] = panoramicView.pattern.slots;
    const { pattern } = await keepPattern(caller(), randomUUID(), {
      of: null,
      name: 'One of each',
      trade: 'teeth',
      slots: [bitewing, { ...wide, at: { x: 0.8, y: 0.5 } }],
      order: [bitewing.id, wide.id]
    });
    const [{ route_id }] = (
      await clinic.owner.query('select route_id from route where pattern_id = $1', [pattern.id])
    ).rows;
    await wishOfTray(
      caller(),
      trayId,
      randomUUID(),
      trayWish.parse({ kind: 'tray-laid', pattern, route: { id: route_id, version: 1 } })
    );
    await sensor.expose(1);
    expect((await view(visitId, sensor.deviceId)).armed).toBeNull();
    expect((await panel.armed()).slotId).toBe('panoramic');
    await panel.expose(2);
    const { trays } = await visitView(caller(), visitId);
    expect(trays[0].tray.present).toBeNull();
  });
});

describe('a device', () => {
  it('that can’t take a slot is not got ready for it', async () => {
    const { trayId } = await readyVisit(clinic);
    const panel = await TestSensor.register(clinic, `Panel ${randomUUID()}`, 'panel');
    await expect(readyDevice(caller(), panel.deviceId, trayId)).rejects.toMatchObject({
      code: 'wrong-device'
    });
  });

  it('that waits for a visit is taken over only when that was said, and what it exposed before stays there', async () => {
    const first = await readyVisit(clinic);
    const { armingId } = await first.sensor.armed();
    const second = await clinic.newVisit();
    const { trayId } = await clinic.trayOf(second);
    await expect(readyDevice(caller(), first.sensor.deviceId, trayId)).rejects.toMatchObject({
      code: 'waits-elsewhere',
      sentence: expect.stringMatching(/waits for Odile Wavecrest; .+ got it ready/)
    });
    expect((await first.sensor.armed()).armingId).toBe(armingId);
    await readyDevice(caller(), first.sensor.deviceId, trayId, { takeOver: true });
    expect((await view(second, first.sensor.deviceId)).armed).toMatchObject({ visitId: second, trayId });
  });

  it('that was taken once is the one meant the next time', async () => {
    const { visitId, sensor } = await readyVisit(clinic);
    const other = await TestSensor.register(clinic);
    expect((await visitView(caller(), visitId)).habit).toEqual({ 'in the mouth': sensor.deviceId });
    const { trayId } = await clinic.trayOf(visitId);
    await readyDevice(caller(), other.deviceId, trayId);
    expect((await visitView(caller(), visitId)).habit).toEqual({ 'in the mouth': other.deviceId });
  });
});
