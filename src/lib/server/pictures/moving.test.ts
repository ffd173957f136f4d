import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit, smallOffer, smallSamples } from '../../../../e2e/harness/testSensor';
import { checkAudit } from '../audit/check';
import { newId } from '../ids';
import { retakes } from '../retakes/retakes';
import { takeBackOnTray } from '../trays/takeBack';
import { wishOfTray } from '../trays/wishes';
import { chart } from '../visits/patients';
import { visitView } from '../visits/visits';
import { keepAct, takeBack } from './changes';
import { movePicture } from './moving';

const clinic = useClinic();
const assistant = () => clinic.caller('assistant');
let seed = 0;

/** A visit with takes in its first slots. */
async function visitWith(count: number) {
  const { visitId, trayId, sensor } = await readyVisit(clinic);
  const pictures = [];
  for (let i = 0; i < count; i++) {
    const { armingId } = await sensor.armed();
    const taken = await sensor.take(`key-${newId()}`, smallOffer(armingId), smallSamples(++seed));
    pictures.push(taken.pictureId);
  }
  return { visitId, trayId, sensor, pictures };
}
const view = async (visitId: string, pictureId: string) =>
  (await visitView(clinic.caller(), visitId)).pictures.find((each) => each.pictureId === pictureId)!;
const act = (pictureId: string, kind: string, body: unknown, item: string | null = null) =>
  keepAct(assistant(), pictureId, newId(), { changes: [{ kind: kind as 'grade', item, body, version: 1 }] });

describe('a picture that was filed to the wrong patient', () => {
  it('goes to the other one’s bench with what was made on it, and both charts tell it with the reason', async () => {
    const { visitId, trayId, pictures } = await visitWith(2);
    const other = await clinic.newPatient('Skerry', 'Nils', 'REC-90');
    const target = await clinic.newVisit(other);
    await act(pictures[0], 'finding', { place: null, words: 'Fracture line' }, newId());
    const { sent } = await movePicture(assistant(), pictures[0], newId(), {
      visitId: target,
      reason: 'The wrong visit was open'
    });
    expect(sent).toBe(0);
    const before = (await clinic.trayOf(visitId)).tray;
    expect(Object.values(before.wells).flatMap(({ takes }) => takes)).toEqual([pictures[1]]);
    expect((await clinic.trayOf(target)).tray.bench).toEqual([pictures[0]]);
    const moved = await view(target, pictures[0]);
    expect(moved).toMatchObject({ patientId: other, visitId: target, slot: null });
    expect(moved.layers.items).toHaveLength(1);
    expect((await visitView(clinic.caller(), visitId)).pictures).toHaveLength(1);
    const [left, came] = [
      await chart(clinic.caller(), clinic.patientId),
      await chart(clinic.caller(), other)
    ];
    expect(left.moves).toMatchObject([
      { what: 'left', recordNumber: 'REC-90', reason: 'The wrong visit was open', by: 'The assistant' }
    ]);
    expect(came.moves).toMatchObject([{ what: 'came', recordNumber: 'REC-77' }]);
    expect(came.pictures.map((each) => each.pictureId)).toEqual([pictures[0]]);
    // Nobody takes it back by pressing undo on the tray that it left.
    await takeBackOnTray(assistant(), trayId, newId(), 'take back');
    expect((await view(target, pictures[0])).visitId).toBe(target);
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('is not moved by an assistant once a clinician confirmed it, nor to where it lies, nor to another clinic', async () => {
    const { visitId, trayId, pictures } = await visitWith(1);
    const { tray } = await clinic.trayOf(visitId);
    await wishOfTray(clinic.caller(), trayId, newId(), {
      kind: 'keeper-confirmed',
      slotId: tray.route[0],
      takeId: pictures[0]
    });
    const target = await clinic.newVisit();
    const wish = { visitId: target, reason: 'wrong day' };
    await expect(movePicture(assistant(), pictures[0], newId(), wish)).rejects.toMatchObject({
      code: 'confirmed-takes'
    });
    await expect(
      movePicture(clinic.caller(), pictures[0], newId(), { ...wish, visitId })
    ).rejects.toMatchObject({ code: 'same-visit' });
    await expect(movePicture(clinic.stranger, pictures[0], newId(), wish)).rejects.toMatchObject({
      status: 404
    });
    await movePicture(clinic.caller(), pictures[0], newId(), wish);
    expect((await clinic.trayOf(target)).tray.bench).toEqual(pictures);
  });

  it('two that are moved against one another at one moment both arrive', async () => {
    const [one, two] = [await visitWith(1), await visitWith(1)];
    await Promise.all([
      movePicture(assistant(), one.pictures[0], newId(), { visitId: two.visitId, reason: 'mixed up' }),
      movePicture(assistant(), two.pictures[0], newId(), { visitId: one.visitId, reason: 'mixed up' })
    ]);
    expect((await clinic.trayOf(two.visitId)).tray.bench).toEqual(one.pictures);
    expect((await clinic.trayOf(one.visitId)).tray.bench).toEqual(two.pictures);
  });
});

describe('the date that a picture was taken', () => {
  it('is put right, sorts the chart by it, says what the device had said, and comes back exactly', async () => {
    const { visitId, pictures } = await visitWith(1);
    const said = (await view(visitId, pictures[0])).takenAt;
    await act(pictures[0], 'taken', { at: '2019-02-03T10:00:00.000Z' });
    await act(pictures[0], 'taken', { at: '2018-02-03T10:00:00.000Z' });
    expect(await view(visitId, pictures[0])).toMatchObject({
      takenAt: '2018-02-03T10:00:00.000Z',
      firstTakenAt: said
    });
    expect((await chart(clinic.caller(), clinic.patientId)).pictures.at(-1)!.pictureId).toBe(pictures[0]);
    for (let i = 0; i < 2; i++) await takeBack(assistant(), pictures[0], newId());
    expect(await view(visitId, pictures[0])).toMatchObject({ takenAt: said, firstTakenAt: null });
  });
});

describe('retakes', () => {
  it('are counted with who got the device ready, and with the reason that a person gave', async () => {
    const before = (await retakes(clinic.caller(), 3)).takes;
    const { visitId, trayId, sensor, pictures } = await visitWith(1);
    const { tray } = await clinic.trayOf(visitId);
    const [slotId] = tray.route;
    await act(pictures[0], 'grade', { grade: 'not diagnostic', reasons: ['overlap'] });
    await wishOfTray(assistant(), trayId, newId(), { kind: 'retake-asked', slotId });
    const { armingId } = await sensor.armed();
    await sensor.take(`key-${newId()}`, smallOffer(armingId), smallSamples(++seed));
    const seen = await retakes(clinic.caller(), 3);
    expect(seen.takes).toHaveLength(before.length + 2);
    const again = seen.takes.filter(({ retaken }) => retaken);
    expect(again).toMatchObject([
      {
        operator: 'The assistant',
        device: sensor.device.name,
        slot: tray.wells[slotId].slot.name,
        grade: { reasons: ['overlap'] }
      }
    ]);
    expect((await retakes(clinic.stranger, 3)).takes).toEqual([]);
  });
});
