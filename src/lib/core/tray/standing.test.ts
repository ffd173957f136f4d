import { describe, expect, it } from 'vitest';
import { placeKey } from '../anatomy/place';
import { seededRandom } from '../random';
import type { TrayEvent } from './events/all';
import { reduce } from './reduce';
import { fourBitewings } from './shipped/fourBitewings';
import { fullMouth } from './shipped/fullMouth';
import { shippedBook } from './shipped/shipped';
import { type Standing, changedStanding, standingOf } from './standing';
import { type Tray, emptyTray, wellOf } from './tray';

const lay = ({ pattern, route }: typeof fourBitewings): TrayEvent => ({
  kind: 'tray-laid',
  pattern: pattern.ref,
  route: route.ref
});
const after = (tray: Tray, ...events: TrayEvent[]) =>
  events.reduce((now, event) => reduce(now, event, shippedBook), tray);
const [a, b] = fourBitewings.route.order;
const taken = (takeId: string, slotId: string | null): TrayEvent => ({
  kind: 'take-added',
  takeId,
  slotId,
  exposed: true
});

describe('where takes lie', () => {
  it('tells a keeper’s places, and none of a take that is not kept', () => {
    const tray = after(emptyTray, lay(fourBitewings), taken('one', a), taken('two', a), taken('bench', null));
    const slot = fourBitewings.pattern.slots.find((each) => each.id === a)!;
    const byTake = Object.fromEntries(standingOf(tray).map((each) => [each.takeId, each]));
    expect(byTake.two).toMatchObject({ slotId: a, keeper: true, placeKeys: slot.places.map(placeKey) });
    expect(byTake.one).toMatchObject({ slotId: a, keeper: false, placeKeys: [] });
    expect(byTake.bench).toMatchObject({ slotId: null, keeper: false, confirmed: false });
  });
  it('tells what changed and nothing else', () => {
    const before = after(emptyTray, lay(fourBitewings), taken('one', a), taken('other', b));
    const retaken = after(before, taken('two', a));
    expect(changedStanding(before, retaken).map(({ takeId, keeper }) => [takeId, keeper])).toEqual([
      ['one', false],
      ['two', true]
    ]);
    const confirmed = after(retaken, {
      kind: 'keeper-confirmed',
      slotId: b,
      takeId: 'other',
      by: '018f0000-0000-7000-8000-0000000000cc',
      name: null
    });
    expect(changedStanding(retaken, confirmed)).toMatchObject([{ takeId: 'other', confirmed: true }]);
    expect(changedStanding(confirmed, confirmed)).toEqual([]);
  });
  it('noted change by change is at any time what the tray itself says, whatever happened to it', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const random = seededRandom(seed);
      const pick = <T>(all: readonly T[]): T => all[Math.floor(random.uniform() * all.length)];
      let tray = after(emptyTray, lay(fourBitewings));
      const noted = new Map<string, Standing>(standingOf(tray).map((each) => [each.takeId, each]));
      const takes: string[] = [];
      for (let i = 0; i < 80; i++) {
        const slots = [...tray.route, null];
        const takeId = takes.length > 0 ? pick(takes) : 't0';
        const well = wellOf(tray, takeId);
        const events: TrayEvent[] = [
          taken(`t${takes.length}`, pick(slots)),
          { kind: 'take-moved', takeId, slotId: pick(slots) },
          { kind: 'slots-swapped', slotId: pick(tray.route), otherSlotId: pick(tray.route) },
          { kind: 'confirmation-withdrawn', slotId: pick(tray.route) },
          lay(random.uniform() < 0.5 ? fourBitewings : fullMouth)
        ];
        if (well) {
          events.push({ kind: 'keeper-chosen', slotId: well.slot.id, takeId });
          events.push({ kind: 'keeper-confirmed', slotId: well.slot.id, takeId, by: null, name: 'Somebody' });
        }
        // Patterns are laid now and then only, or little gathers in between.
        let event = pick(events);
        if (event.kind === 'tray-laid' && random.uniform() < 0.7) event = events[0];
        if (event.kind === 'take-added') takes.push(event.takeId);
        if (event.kind === 'take-moved' && takes.length === 0) continue;
        const next = reduce(tray, event, shippedBook);
        for (const each of changedStanding(tray, next)) noted.set(each.takeId, each);
        tray = next;
        const said = new Map(standingOf(tray).map((each) => [each.takeId, each]));
        expect(noted, `seed ${seed}, step ${i}, ${event.kind}`).toEqual(said);
        expect(said.size).toBe(takes.length);
        for (const each of said.values())
          if (each.confirmed) expect(tray.wells[each.slotId!].keeper).toBe(each.takeId);
      }
    }
  });
});
