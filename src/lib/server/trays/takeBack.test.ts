import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit } from '../../../../e2e/harness/testSensor';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import { twoBitewings } from '../../core/tray/shipped/bitewings';
import { readyDevice } from '../devices/devices';
import type { Role } from '../people/roles';
import { pictureSeen } from '../pictures/changes';
import { visitView } from '../visits/visits';
import { type TrayWish, anotherTray, trayWish, wishOfTray } from './wishes';

const clinic = useClinic();
const refsOf = ({ pattern, route }: typeof fourBitewings) => ({ pattern: pattern.ref, route: route.ref });
const ask = (trayId: string, wish: TrayWish, role: Role = 'assistant', key: string = randomUUID()) =>
  wishOfTray(clinic.caller(role), trayId, key, trayWish.parse(wish)) as Promise<{
    seq: number;
    done?: boolean;
  }>;

async function shot(takes: number) {
  const { visitId, trayId, sensor } = await readyVisit(clinic);
  await ask(trayId, { kind: 'tray-laid', ...refsOf(fourBitewings) });
  const ids = [];
  for (let i = 0; i < takes; i++) ids.push(await sensor.expose(i));
  const tray = async () => (await clinic.trayOf(visitId)).tray;
  return { visitId, trayId, sensor, ids, tray, route: fourBitewings.route.order };
}

describe('taking back on a tray', () => {
  it('goes act by act, the newest own first, and back again; never over an exposure', async () => {
    const { trayId, ids, tray, route, sensor } = await shot(2);
    const before = await tray();
    await ask(trayId, { kind: 'take-moved', takeId: ids[0], slotId: null });
    await ask(trayId, { kind: 'slots-swapped', slotId: route[1], otherSlotId: route[3] });
    const after = await tray();
    expect(await ask(trayId, { kind: 'take-back' })).toMatchObject({ done: true });
    // What is exposed in between stays, whatever is taken back.
    const late = await sensor.expose(9);
    await ask(trayId, { kind: 'take-back' });
    expect(await tray()).toMatchObject({ bench: before.bench });
    expect(
      Object.values((await tray()).wells)
        .flatMap((well) => well.takes)
        .sort()
    ).toEqual([...ids, late].sort());
    await ask(trayId, { kind: 'bring-back' });
    expect((await tray()).bench).toEqual(after.bench);
  });

  it('is done once for its key, and does nothing where nothing is left', async () => {
    const { trayId, tray, route } = await shot(0);
    await ask(trayId, { kind: 'anchored', slotId: route[2] });
    await ask(trayId, { kind: 'slot-chosen', slotId: route[1] });
    const key = randomUUID();
    await Promise.all([1, 2, 3].map(() => ask(trayId, { kind: 'take-back' }, 'assistant', key)));
    expect(await tray()).toMatchObject({ present: route[2], anchored: true });
    await ask(trayId, { kind: 'take-back' });
    await ask(trayId, { kind: 'take-back' });
    expect(await ask(trayId, { kind: 'take-back' })).toMatchObject({ done: false });
  });

  it('is of one’s own acts alone', async () => {
    const { trayId, tray, route } = await shot(0);
    await ask(trayId, { kind: 'slot-chosen', slotId: route[3] }, 'clinician');
    await ask(trayId, { kind: 'take-back' });
    expect((await tray()).present).toBe(route[3]);
  });

  it('of a move to another tray is done on both, unless the take has gone on', async () => {
    const { visitId, trayId, ids, tray } = await shot(1);
    const wish = refsOf(twoBitewings);
    const { trayId: other } = await anotherTray(clinic.caller('assistant'), visitId, randomUUID(), wish);
    await ask(other, { kind: 'take-moved', takeId: ids[0], slotId: 'bw-left' });
    expect((await tray()).wells[fourBitewings.route.order[0]].takes).toEqual([]);
    await ask(other, { kind: 'take-back' });
    expect((await tray()).wells[fourBitewings.route.order[0]].takes).toEqual(ids);
    const { trays } = await visitView(clinic.caller(), visitId);
    expect(trays.find((each) => each.trayId === other)!.tray.bench).toEqual([]);
    await ask(other, { kind: 'take-moved', takeId: ids[0], slotId: 'bw-left' });
    await ask(trayId, { kind: 'take-moved', takeId: ids[0], slotId: null }, 'clinician');
    await expect(ask(other, { kind: 'take-back' })).rejects.toMatchObject({ code: 'moved-on', status: 409 });
    expect((await tray()).bench).toEqual(ids);
  });

  it('takes no clinician’s confirmation off for an assistant', async () => {
    const { trayId, ids, tray, route } = await shot(2);
    // Another one that is confirmed stays so, which must not hide that this one falls.
    const other: TrayWish = { kind: 'keeper-confirmed', slotId: route[1], takeId: ids[1] };
    await ask(trayId, other, 'clinician');
    await ask(trayId, { kind: 'take-moved', takeId: ids[0], slotId: route[2] });
    await ask(trayId, { kind: 'keeper-confirmed', slotId: route[2], takeId: ids[0] }, 'clinician');
    await expect(ask(trayId, { kind: 'take-back' })).rejects.toMatchObject({ code: 'confirmed-takes' });
    expect((await tray()).wells[route[2]].confirmed).not.toBeNull();
  });
});

describe('a slot that was asked for on the spot', () => {
  it('is taken like any other, and its picture knows it; dropped, its take lies on the bench', async () => {
    const { trayId, tray, sensor } = await shot(4);
    const slot = { ...fourBitewings.pattern.slots[0], id: 'own-12345678', name: 'Once more' };
    await ask(trayId, { kind: 'slot-added', slot });
    expect((await tray()).present).toBe('own-12345678');
    await ask(trayId, { kind: 'retake-asked', slotId: 'own-12345678' });
    await readyDevice(clinic.caller('assistant'), sensor.deviceId, trayId);
    const taken = await sensor.expose(5);
    expect((await pictureSeen(clinic.caller(), taken)).slot).toMatchObject({ name: 'Once more' });
    await ask(trayId, { kind: 'slot-dropped', slotId: 'own-12345678' });
    expect((await tray()).bench).toEqual([taken]);
    expect((await pictureSeen(clinic.caller(), taken)).slot).toBeNull();
  });
});
