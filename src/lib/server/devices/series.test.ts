import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { TestSensor, readyVisit, smallOffer, smallSamples } from '../../../../e2e/harness/testSensor';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import { panoramicView } from '../../core/tray/shipped/mouths';
import { newId } from '../ids';
import { visitView } from '../visits/visits';
import { keepPattern } from '../trays/ownPatterns';
import { trayWish, wishOfTray } from '../trays/wishes';
import { deviceOf, instructionFor, readyDevice, restDevice, setFineness } from './devices';
import { register } from './enrolment';

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

describe('a plate scanner', () => {
  const plates = async () => {
    const scanner = await TestSensor.register(clinic, `Plates ${newId()}`, 'plate-scanner');
    const visitId = await clinic.newVisit();
    const { trayId } = await clinic.trayOf(visitId);
    await readyDevice(clinic.caller(), scanner.deviceId, trayId);
    let seed = 0;
    const reads = async (plate: string) => {
      const { armingId } = await scanner.instructed();
      const key = `plate-${newId()}`;
      return (await scanner.take(key, smallOffer(armingId, { plate }), smallSamples(++seed))).pictureId;
    };
    const trayNow = async () => (await clinic.trayOf(visitId)).tray;
    return { scanner, visitId, trayId, reads, trayNow };
  };

  it('fills slot after slot, and when none is empty goes on onto the bench until it is let rest', async () => {
    const { scanner, reads, trayNow, trayId } = await plates();
    const { route } = await trayNow();
    const ids = [];
    for (const slotId of route) {
      expect((await scanner.instructed()).slotId).toBe(slotId);
      ids.push(await reads(`P${slotId}`));
    }
    expect((await scanner.instructed()).slotId).toBeNull();
    const more = await reads('P-more');
    const tray = await trayNow();
    expect(route.map((slotId) => tray.wells[slotId].keeper)).toEqual(ids);
    expect(tray.bench).toEqual([more]);
    await restDevice(clinic.caller(), scanner.deviceId);
    await expect(scanner.instructed()).rejects.toThrow('to be armed');
    // Plates that are left are read on wish, though nothing is empty.
    await readyDevice(clinic.caller(), scanner.deviceId, trayId);
    expect((await scanner.instructed()).slotId).toBeNull();
  });

  it('that reads a plate of this visit twice lays it on the bench and says so; the series stands where it was', async () => {
    const { scanner, visitId, trayId, reads, trayNow } = await plates();
    const { route } = await trayNow();
    await reads('7');
    const again = await reads('7');
    const tray = await trayNow();
    expect([tray.present, tray.bench]).toEqual([route[1], [again]]);
    expect((await scanner.instructed()).slotId).toBe(route[1]);
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures.at(-1)!.remarks[0]).toMatch(/^Plate 7 was read in this visit before/);
    // A retake that was asked for may well be taken with the same plate.
    await wishOfTray(clinic.caller(), trayId, newId(), { kind: 'retake-asked', slotId: route[0] });
    expect((await scanner.instructed()).slotId).toBe(route[0]);
    const retake = await reads('7');
    expect((await trayNow()).wells[route[0]].keeper).toBe(retake);
  });

  it('reads as fine as somebody says, of what it can', async () => {
    const code = await clinic.newCode();
    const finenesses = ['usual', 'fine'].map((id, i) => ({
      id,
      words: id,
      pitchMm: 0.04 / (i + 1),
      secondsPerPlate: 4 * (i + 1)
    }));
    const { token, deviceId } = await register(
      { code, name: 'Fine plates', kind: 'plate-scanner', finenesses },
      '10.0.0.9'
    );
    const visitId = await clinic.newVisit();
    await readyDevice(clinic.caller(), deviceId, (await clinic.trayOf(visitId)).trayId);
    await setFineness(clinic.caller('assistant'), deviceId, 'fine');
    expect(await instructionFor(await deviceOf(`Bearer ${token}`))).toMatchObject({ fineness: 'fine' });
    const seen = (await visitView(clinic.caller(), visitId)).devices.find(
      (each) => each.deviceId === deviceId
    );
    expect(seen).toMatchObject({ fineness: 'fine', finenesses });
    await expect(setFineness(clinic.caller(), deviceId, 'finest')).rejects.toMatchObject({ status: 404 });
  });
});
