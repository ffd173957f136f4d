import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { type TestSensor, readyVisit } from '../../../../e2e/harness/testSensor';
import { seededRandom } from '../../core/random';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import { fullMouth } from '../../core/tray/shipped/fullMouth';
import { shippedPatterns } from '../../core/tray/shipped/shipped';
import { standingOf } from '../../core/tray/standing';
import type { Role } from '../people/roles';
import { visitView } from '../visits/visits';
import { patternsFor } from '../visits/visits';
import { noteStandings } from './trays';
import { type TrayWish, anotherTray, trayWish, traysSeen, wishOfTray } from './wishes';

const clinic = useClinic();
const lay = ({ pattern, route }: typeof fourBitewings) => ({ pattern: pattern.ref, route: route.ref });

async function filledVisit(takes: number) {
  const { visitId, trayId, sensor } = await readyVisit(clinic);
  const pictureIds = await shoot(sensor, takes);
  const { tray } = await clinic.trayOf(visitId);
  return { visitId, trayId, sensor, pictureIds, route: tray.route };
}
async function shoot(sensor: TestSensor, takes: number): Promise<string[]> {
  const ids = [];
  for (let i = 0; i < takes; i++) ids.push(await sensor.expose(i));
  return ids;
}
const ask = (trayId: string, wish: TrayWish, role: Role = 'assistant', key: string = randomUUID()) =>
  wishOfTray(clinic.caller(role), trayId, key, trayWish.parse(wish));

describe('dropping', () => {
  it('takes a still off the tray and never an exposure; a confirmed one only by who may confirm', async () => {
    const { visitId, trayId, pictureIds, route } = await filledVisit(1);
    const png = await sharp({ create: { width: 20, height: 10, channels: 3, background: '#805030' } })
      .png()
      .toBuffer();
    const [still, kept] = [
      await clinic.bring(visitId, 'one.png', png),
      await clinic.bring(visitId, 'two.png', png)
    ];
    await expect(ask(trayId, { kind: 'take-dropped', takeId: pictureIds[0] })).rejects.toMatchObject({
      code: 'exposure'
    });
    await ask(trayId, { kind: 'take-dropped', takeId: still });
    await ask(trayId, { kind: 'take-moved', takeId: kept, slotId: route[1] });
    await ask(trayId, { kind: 'keeper-confirmed', slotId: route[1], takeId: kept }, 'clinician');
    await expect(ask(trayId, { kind: 'take-dropped', takeId: kept })).rejects.toMatchObject({
      code: 'confirmed-takes'
    });
    const { tray } = await clinic.trayOf(visitId);
    expect([tray.dropped, tray.bench, tray.wells[route[1]].keeper]).toEqual([[still], [], kept]);
    await ask(trayId, { kind: 'take-moved', takeId: still, slotId: null });
    expect((await clinic.trayOf(visitId)).tray.bench).toContain(still);
  });
});

describe('what a page asks of a tray', () => {
  it('is done once for its key, however often it is asked', async () => {
    const { visitId, trayId, pictureIds, route } = await filledVisit(2);
    const key = randomUUID();
    const wish = { kind: 'slots-swapped', slotId: route[0], otherSlotId: route[1] } as const;
    const seqs = await Promise.all([1, 2, 3].map(() => ask(trayId, wish, 'assistant', key)));
    expect(new Set(seqs.map((done) => done.seq)).size).toBe(1);
    const { tray } = await clinic.trayOf(visitId);
    expect([tray.wells[route[0]].keeper, tray.wells[route[1]].keeper]).toEqual([
      pictureIds[1],
      pictureIds[0]
    ]);
  });

  it('is allowed by role: takes for assistants and clinicians, confirming for clinicians', async () => {
    const { trayId, pictureIds, route } = await filledVisit(1);
    const [slotId, takeId] = [route[0], pictureIds[0]];
    const matrix: [TrayWish, Role[]][] = [
      [{ kind: 'slot-chosen', slotId }, ['assistant', 'clinician']],
      [{ kind: 'retake-asked', slotId }, ['assistant', 'clinician']],
      [{ kind: 'anchored', slotId }, ['assistant', 'clinician']],
      [{ kind: 'anchor-lifted' }, ['assistant', 'clinician']],
      [{ kind: 'take-moved', takeId, slotId: null }, ['assistant', 'clinician']],
      [{ kind: 'take-moved', takeId, slotId }, ['assistant', 'clinician']],
      [{ kind: 'slots-swapped', slotId, otherSlotId: route[1] }, ['assistant', 'clinician']],
      [{ kind: 'slots-swapped', slotId, otherSlotId: route[1] }, ['assistant', 'clinician']],
      [{ kind: 'keeper-chosen', slotId, takeId }, ['assistant', 'clinician']],
      [{ kind: 'keeper-confirmed', slotId, takeId }, ['clinician']],
      [{ kind: 'confirmation-withdrawn', slotId }, ['clinician']],
      [{ kind: 'tray-laid', ...lay(fullMouth) }, ['assistant', 'clinician']]
    ];
    for (const [wish, allowed] of matrix)
      for (const role of ['assistant', 'clinician', 'front-desk', 'administrator'] as const) {
        const outcome = await ask(trayId, wish, role).then(
          () => 'done',
          (problem: { code: string }) => problem.code
        );
        expect(outcome, `${wish.kind} by ${role}`).toBe(allowed.includes(role) ? 'done' : 'not-allowed');
      }
  });

  it('keeps who confirmed as a user, shown by name', async () => {
    const { visitId, trayId, pictureIds, route } = await filledVisit(1);
    await ask(trayId, { kind: 'keeper-confirmed', slotId: route[0], takeId: pictureIds[0] }, 'clinician');
    const view = await visitView(clinic.caller(), visitId);
    const { userId, name } = clinic.caller('clinician');
    expect(view.trays[0].tray.wells[route[0]].confirmed).toEqual({ by: userId, name: null });
    expect(view.people).toEqual({ [userId]: name });
  });

  it('may not lay a pattern over confirmed takes without the right to confirm', async () => {
    const { visitId, trayId, pictureIds, route } = await filledVisit(1);
    await ask(trayId, { kind: 'keeper-confirmed', slotId: route[0], takeId: pictureIds[0] }, 'clinician');
    const wish = { kind: 'tray-laid', ...lay(fullMouth) } as const;
    await expect(ask(trayId, wish, 'assistant')).rejects.toMatchObject({ code: 'confirmed-takes' });
    expect((await clinic.trayOf(visitId)).tray.wells[route[0]].confirmed).not.toBeNull();
    await ask(trayId, wish, 'clinician');
    const { tray } = await clinic.trayOf(visitId);
    expect([tray.laid?.name, tray.bench]).toEqual(['Full mouth', pictureIds]);
  });

  it('of another clinic is not found, and rubbish is no wish', async () => {
    const { trayId, route } = await filledVisit(0);
    await expect(
      wishOfTray(clinic.stranger, trayId, randomUUID(), { kind: 'anchored', slotId: route[0] })
    ).rejects.toMatchObject({ code: 'not-found' });
    await expect(traysSeen(clinic.stranger, 'no-id')).rejects.toMatchObject({ code: 'not-found' });
    for (const wrong of [
      { kind: 'take-added', takeId: randomUUID(), slotId: null, exposed: true },
      { kind: 'anchored', slotId: route[0], planted: 1 },
      { kind: 'keeper-confirmed', slotId: route[0], takeId: randomUUID(), by: randomUUID() }
    ])
      expect(trayWish.safeParse(wrong).success, JSON.stringify(wrong)).toBe(false);
  });
});

describe('several trays', () => {
  it('of one visit stand side by side, and a take goes from one to the other in one act', async () => {
    const { visitId, trayId, pictureIds, route } = await filledVisit(2);
    const { trayId: other } = await anotherTray(
      clinic.caller('assistant'),
      visitId,
      randomUUID(),
      lay(fullMouth)
    );
    const slotId = fullMouth.route.order[0];
    await ask(other, { kind: 'take-moved', takeId: pictureIds[0], slotId });
    const [first, second] = await traysSeen(clinic.caller(), visitId);
    expect([first.trayId, first.number, second.trayId, second.number]).toEqual([trayId, 1, other, 2]);
    const held = standingOf(first.tray).map((each) => each.takeId);
    expect(held).toEqual([pictureIds[1]]);
    expect(second.tray.wells[slotId].keeper).toBe(pictureIds[0]);
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures.map((picture) => [picture.trayId, picture.slot?.id])).toEqual([
      [other, slotId],
      [trayId, route[1]]
    ]);
    await expect(ask(other, { kind: 'take-moved', takeId: randomUUID(), slotId })).rejects.toMatchObject({
      code: 'not-found'
    });
  });

  it('laid at the same moment are numbered one after the other', async () => {
    const visitId = await clinic.newVisit();
    await Promise.all(
      [1, 2, 3].map(() => anotherTray(clinic.caller(), visitId, randomUUID(), lay(fourBitewings)))
    );
    expect((await traysSeen(clinic.caller(), visitId)).map((tray) => tray.number)).toEqual([1, 2, 3, 4]);
  });
});

describe('patterns', () => {
  it('that the product ships can be laid in the rooms of their trade', async () => {
    const visitId = await clinic.newVisit();
    const choices = await patternsFor(clinic.caller(), visitId);
    const shipped = shippedPatterns.filter(({ pattern }) => pattern.trade === 'teeth');
    expect(choices.map((choice) => [choice.name, choice.wells.length]).sort()).toEqual(
      shipped.map(({ pattern }) => [pattern.name, pattern.slots.length]).sort()
    );
  });
});

describe('where takes lie', () => {
  it('is noted as the trays have it, whatever was asked in whatever order', async () => {
    const random = seededRandom(8).uniform;
    const { visitId, trayId, sensor, pictureIds, route } = await filledVisit(4);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
    const { trayId: other } = await anotherTray(clinic.caller(), visitId, randomUUID(), lay(fullMouth));
    for (let step = 0; step < 40; step++) {
      const tray = pick([trayId, other]);
      const slotId = pick(tray === trayId ? route : fullMouth.route.order);
      const wishes: TrayWish[] = [
        { kind: 'take-moved', takeId: pick(pictureIds), slotId: pick([slotId, null]) },
        { kind: 'keeper-confirmed', slotId, takeId: pick(pictureIds) },
        { kind: 'keeper-chosen', slotId, takeId: pick(pictureIds) },
        { kind: 'slots-swapped', slotId: route[0], otherSlotId: pick(route) },
        { kind: 'retake-asked', slotId },
        { kind: 'confirmation-withdrawn', slotId }
      ];
      await ask(tray, pick(wishes), 'clinician');
    }
    void sensor;
    const noted = async () => {
      const { rows } = await clinic.owner.query(
        'select picture_id, tray_id, slot_id, keeper, confirmed, place_keys from standing where visit_id = $1 order by picture_id',
        [visitId]
      );
      return rows;
    };
    const trays = await traysSeen(clinic.caller(), visitId);
    const expected = trays
      .flatMap(({ trayId: id, tray }) =>
        standingOf(tray).map((each) => ({
          picture_id: each.takeId,
          tray_id: id,
          slot_id: each.slotId,
          keeper: each.keeper,
          confirmed: each.confirmed,
          place_keys: each.placeKeys
        }))
      )
      .sort((a, b) => (a.picture_id < b.picture_id ? -1 : 1));
    expect(await noted()).toEqual(expected);
    // Thrown away, it is noted anew the same.
    await clinic.owner.query('delete from standing where visit_id = $1', [visitId]);
    await clinic.owner.query('update tray set standing_seq = 0 where visit_id = $1', [visitId]);
    expect(await clinic.inside(noteStandings)).toBe(2);
    expect(await noted()).toEqual(expected);
  });
});

describe('a tray with an event that this program can’t read', () => {
  it('is shown with all the rest, says so, and takes nothing more', async () => {
    const { visitId, trayId, pictureIds, route } = await filledVisit(2);
    await clinic.owner.query(
      `insert into tray_event (clinic_id, tray_id, seq, kind, version, body, caused_by)
       select clinic_id, tray_id, max(seq) + 1, 'take-sung', 3, '{}', 'x' from tray_event where tray_id = $1 group by 1, 2`,
      [trayId]
    );
    const view = await visitView(clinic.caller(), visitId);
    expect(view.trays[0].unread).toBe(1);
    expect(view.trays[0].tray.wells[route[0]].keeper).toBe(pictureIds[0]);
    expect(view.pictures).toHaveLength(2);
    await expect(ask(trayId, { kind: 'slot-chosen', slotId: route[2] })).rejects.toMatchObject({
      code: 'unreadable-tray',
      status: 409
    });
  });
});
