import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import type { TrayEvent } from './events/all';
import { anyEvent, takesOf } from './randomTray.test-data';
import { fold as foldBy, reduce as reduceBy } from './reduce';
import { fourBitewings } from './shipped/fourBitewings';
import { shippedBook } from './shipped/shipped';
import { type Tray, emptyTray } from './tray';

const fold = (events: TrayEvent[], start?: Tray) => foldBy(events, shippedBook, start);
const reduce = (tray: Tray, event: TrayEvent) => reduceBy(tray, event, shippedBook);
const [a, b, c, d] = fourBitewings.route.order;
const lay: TrayEvent = {
  kind: 'tray-laid',
  pattern: fourBitewings.pattern.ref,
  route: fourBitewings.route.ref
};
const clinician = '018f0000-0000-7000-8000-0000000000cc';
const confirm = (slotId: string, takeId: string): TrayEvent => ({
  kind: 'keeper-confirmed',
  slotId,
  takeId,
  by: clinician,
  name: null
});
let counter = 0;
const shoot = (tray: Tray, takeId = `t${++counter}`) =>
  reduce(tray, { kind: 'take-added', takeId, slotId: tray.present, exposed: true });

describe('a tray', () => {
  it('goes along the whole route by itself and then has nothing left', () => {
    let tray = fold([lay]);
    const seen = [];
    for (let i = 0; i < 4; i++) {
      seen.push(tray.present);
      tray = shoot(tray);
    }
    expect(seen).toEqual([a, b, c, d]);
    expect(tray.present).toBeNull();
  });

  it('starts at any slot and goes back for what is still empty', () => {
    let tray = fold([lay, { kind: 'slot-chosen', slotId: c }]);
    const seen = [];
    while (tray.present) {
      seen.push(tray.present);
      tray = shoot(tray);
    }
    expect(seen).toEqual([c, d, a, b]);
  });

  it('retakes one slot, keeps both takes, and goes on where it was', () => {
    let tray = shoot(shoot(fold([lay]), 'first'), 'second');
    expect(tray.present).toBe(c);
    tray = reduce(tray, { kind: 'retake-asked', slotId: a });
    expect(tray.present).toBe(a);
    tray = shoot(tray, 'again');
    expect(tray.wells[a]).toMatchObject({ takes: ['first', 'again'], keeper: 'again' });
    expect(tray.present).toBe(c);
  });

  it('takes several chosen slots again, in the order they were chosen', () => {
    let tray = fold([lay]);
    while (tray.present) tray = shoot(tray);
    for (const slotId of [d, b]) tray = reduce(tray, { kind: 'retake-asked', slotId });
    const seen = [];
    while (tray.present) {
      seen.push(tray.present);
      tray = shoot(tray);
    }
    expect(seen).toEqual([d, b]);
  });

  it('gathers takes in an anchored slot until the anchor is lifted', () => {
    let tray = fold([lay, { kind: 'anchored', slotId: b }]);
    for (let i = 0; i < 3; i++) tray = shoot(tray);
    expect(tray.wells[b].takes).toHaveLength(3);
    expect(tray.present).toBe(b);
    tray = reduce(tray, { kind: 'anchor-lifted' });
    expect(tray.present).toBe(c);
  });

  it('keeps a take that comes late for the slot it was exposed for, without moving the route', () => {
    let tray = fold([lay, { kind: 'slot-chosen', slotId: d }]);
    tray = reduce(tray, { kind: 'take-added', takeId: 'late', slotId: a, exposed: true });
    expect(tray.wells[a].takes).toEqual(['late']);
    expect(tray.present).toBe(d);
  });

  it('moves the keeper back when the newest take is set aside', () => {
    let tray = shoot(fold([lay]), 'one');
    tray = reduce(tray, { kind: 'retake-asked', slotId: a });
    tray = shoot(tray, 'two');
    tray = reduce(tray, { kind: 'take-moved', takeId: 'two', slotId: null });
    expect(tray.wells[a]).toMatchObject({ takes: ['one'], keeper: 'one' });
    expect(tray.bench).toEqual(['two']);
  });

  it('asks again for a slot whose only take was moved away after all were full', () => {
    let tray = fold([lay]);
    while (tray.present) tray = shoot(tray);
    tray = reduce(tray, { kind: 'take-moved', takeId: tray.wells[b].keeper!, slotId: null });
    expect(tray.present).toBe(b);
  });

  it('lets a confirmation fall when the keeper changes', () => {
    let tray = reduce(shoot(fold([lay]), 'one'), confirm(a, 'one'));
    expect(tray.wells[a].confirmed).toEqual({ by: clinician, name: null });
    tray = reduce(tray, { kind: 'retake-asked', slotId: a });
    tray = shoot(tray, 'two');
    expect(tray.wells[a].confirmed).toBeNull();
    const stale = reduce(tray, confirm(a, 'one'));
    expect(stale).toBe(tray);
  });

  it('lets confirmations fall when their takes are swapped or moved: they were given for another place', () => {
    const full = fold([lay, confirm(a, 'none')]);
    const two = [confirm(a, 'one'), confirm(b, 'two')].reduce(reduce, shoot(shoot(full, 'one'), 'two'));
    const swapped = reduce(two, { kind: 'slots-swapped', slotId: a, otherSlotId: b });
    expect([swapped.wells[a].keeper, swapped.wells[a].confirmed]).toEqual(['two', null]);
    expect([swapped.wells[b].keeper, swapped.wells[b].confirmed]).toEqual(['one', null]);
    const moved = reduce(two, { kind: 'take-moved', takeId: 'one', slotId: c });
    expect(moved.wells[c].confirmed).toBeNull();
    expect(moved.wells[b].confirmed).not.toBeNull();
  });

  it('lets go of a take that is handed on to another tray, and asks for its slot again', () => {
    let tray = fold([lay]);
    while (tray.present) tray = shoot(tray);
    const takeId = tray.wells[b].keeper!;
    tray = reduce(tray, { kind: 'take-handed-on', takeId, toTray: clinician });
    expect(tray.wells[b].takes).toEqual([]);
    expect(tray.present).toBe(b);
  });

  it('drops a still, asks for its slot again, and brings it back to the bench', () => {
    let tray = fold([lay]);
    while (tray.present) tray = shoot(tray);
    const takeId = tray.wells[b].keeper!;
    tray = reduce(tray, { kind: 'take-dropped', takeId });
    expect([tray.wells[b].keeper, tray.present, tray.dropped, tray.bench]).toEqual([null, b, [takeId], []]);
    expect(reduce(tray, { kind: 'take-dropped', takeId })).toBe(tray);
    tray = reduce(tray, { kind: 'take-moved', takeId, slotId: null });
    expect([tray.dropped, tray.bench]).toEqual([[], [takeId]]);
  });

  it('keeps all takes when another pattern is laid', () => {
    const tray = fold([lay], shoot(shoot(fold([lay]), 'x'), 'y'));
    expect([...tray.bench].sort()).toEqual(['x', 'y']);
  });
});

/** Whether an event changes which picture stands in a slot, or whether it may be the same as the one that was confirmed. */
function touches(event: TrayEvent, slotId: string, takeId: string): boolean {
  switch (event.kind) {
    case 'tray-laid':
      return true;
    case 'slots-swapped':
      return event.slotId === slotId || event.otherSlotId === slotId;
    case 'take-moved':
      return event.takeId === takeId || event.slotId === slotId;
    case 'take-dropped':
      return event.takeId === takeId;
    case 'take-added':
      return event.slotId === slotId;
    case 'confirmation-withdrawn':
    case 'slot-dropped':
      return event.slotId === slotId;
    case 'tray-filled':
      return event.moves.some((move) => move.slotId === slotId);
    default:
      return false;
  }
}

describe('takes that leave a tray and come back', () => {
  const slotOf = (tray: Tray, takeId: string): string | null =>
    Object.values(tray.wells).find(({ takes }) => takes.includes(takeId))?.slot.id ?? null;

  it('are all there again, none twice, in their slots, and what stood for a slot meanwhile goes on standing', () => {
    let [removed, heldConfirmation] = [0, 0];
    for (let seed = 1; seed <= 120; seed++) {
      const random = seededRandom(seed);
      const made: string[] = [];
      let before = emptyTray;
      for (let step = 0; step < 40; step++) before = reduce(before, anyEvent(random, before, made));
      const gone = made.filter(() => random.uniform() < 0.4);
      const places = new Map(gone.map((takeId) => [takeId, slotOf(before, takeId)]));
      let without = before;
      for (const takeId of gone) without = reduce(without, { kind: 'take-removed', takeId });
      removed += gone.length;
      const all = [...made].sort();
      expect(takesOf(without), `seed ${seed}`).toEqual(all.filter((takeId) => !gone.includes(takeId)));
      for (const { takes, keeper } of Object.values(without.wells))
        expect(takes.length === 0 ? keeper === null : takes.includes(keeper!), `seed ${seed}`).toBe(true);
      // Removing what is not there, and returning what is, changes nothing.
      for (const takeId of gone) expect(reduce(without, { kind: 'take-removed', takeId })).toBe(without);
      // A clinician confirms what stands for the slots meanwhile.
      for (const [slotId, { keeper }] of Object.entries(without.wells))
        if (keeper !== null && random.uniform() < 0.5)
          without = reduce(without, {
            kind: 'keeper-confirmed',
            slotId,
            takeId: keeper,
            by: clinician,
            name: null
          });
      let after = without;
      for (const [takeId, slotId] of places) after = reduce(after, { kind: 'take-returned', takeId, slotId });
      expect(takesOf(after), `seed ${seed}`).toEqual(all);
      for (const [takeId, slotId] of places) {
        expect(slotOf(after, takeId), `seed ${seed}`).toBe(slotId);
        expect(reduce(after, { kind: 'take-returned', takeId, slotId: null })).toBe(after);
      }
      for (const [id, { keeper, confirmed }] of Object.entries(without.wells)) {
        if (keeper === null) continue;
        expect(after.wells[id].keeper, `seed ${seed}`).toBe(keeper);
        expect(after.wells[id].confirmed, `seed ${seed}`).toEqual(confirmed);
        if (confirmed) heldConfirmation++;
      }
    }
    expect(removed).toBeGreaterThan(200);
    expect(heldConfirmation).toBeGreaterThan(20);
  });

  it('lie on the bench where their slot is gone', () => {
    const tray = reduce(emptyTray, { kind: 'take-returned', takeId: 'r1', slotId: 'own-1' });
    expect(tray.bench).toEqual(['r1']);
  });
});

describe('any sequence of events', () => {
  it('loses no take, doubles none, and keeps its promises', () => {
    let confirmed = 0;
    for (let seed = 1; seed <= 280; seed++) {
      const random = seededRandom(seed);
      const made: string[] = [];
      const happened: TrayEvent[] = [];
      let tray = emptyTray;
      for (let step = 0; step < 60; step++) {
        const event = anyEvent(random, tray, made);
        const next = reduce(tray, event);
        if (next !== tray) happened.push(event);
        tray = next;
        expect(takesOf(tray), `seed ${seed} step ${step}`).toEqual([...made].sort());
        for (const well of Object.values(tray.wells)) {
          if (well.takes.length) expect(well.takes).toContain(well.keeper);
          else expect(well.keeper).toBeNull();
          if (!well.confirmed) continue;
          confirmed += 1;
          const given = happened.findLastIndex(
            (each) =>
              each.kind === 'keeper-confirmed' && each.slotId === well.slot.id && each.takeId === well.keeper
          );
          const since = happened.slice(given + 1);
          expect(given, `seed ${seed} step ${step}`).toBeGreaterThanOrEqual(0);
          expect(
            since.filter((each) => touches(each, well.slot.id, well.keeper!)),
            `seed ${seed} step ${step}`
          ).toEqual([]);
        }
        const empty = tray.route.some((id) => tray.wells[id].takes.length === 0);
        if (empty && tray.route.length) expect(tray.present, `seed ${seed} step ${step}`).not.toBeNull();
      }
    }
    expect(confirmed).toBeGreaterThan(500);
  });
});
